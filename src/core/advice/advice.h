#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/base/result.h"

namespace zevo {

/// One wording of a cue.
struct Cue {
    std::string kind;  ///< external, internal or image
    std::string text;
};

/// One step of preparation with its dose.
struct Drill {
    std::string stage;  ///< release, activate or integrate
    std::string text;
    std::string dose;
};

/// When a limiter is the likely one. Everything that is given must hold.
struct Signs {
    enum class Reps { Any, FromFirst, Late } reps = Reps::Any;
    bool oneSide = false;                    ///< only one leg shows it
    std::optional<bool> loaded;              ///< with or without a weight
    std::vector<std::string> with, without;  ///< faults found besides: at least one, none
    std::vector<std::string> measures;       ///< the finding rests on one of these (ids)
};

/// A likely cause of a fault, and what fits it better than the fault's plain advice. Empty lists: the plain one stays.
struct Limiter {
    std::string id;
    Signs signs;
    std::string why;  ///< what it means, ends the trace: "tires rather than lacks the skill"
    std::vector<Cue> say;
    std::vector<std::string> change;
    std::vector<Drill> prepare;
    std::string progress;
};

/// What a coach can do about one fault (data/advice/*.json).
struct Advice {
    std::string fault;
    std::string title;   ///< coach's words: "Heels leave the floor"
    std::string term;    ///< the field's term
    std::string unsure;  ///< what to film or look at when Zevo could not tell
    std::vector<Cue> say;
    std::vector<std::string> change;
    std::vector<Drill> prepare;
    std::string progress;
    std::vector<Limiter> limiters;  ///< the first whose signs hold is taken
};

using AdviceBook = std::map<std::string, Advice>;

/// Reads an advice file; errors name file, path and value.
Result<AdviceBook> parseAdvice(const std::string& text, const std::string& name);

}  // namespace zevo

#pragma once

#include <map>
#include <string>
#include <vector>

#include "core/result.h"

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
};

using AdviceBook = std::map<std::string, Advice>;

/// Reads an advice file; errors name file, path and value.
Result<AdviceBook> parseAdvice(const std::string& text, const std::string& name);

}  // namespace zevo

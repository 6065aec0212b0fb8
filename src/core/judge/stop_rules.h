#pragma once

#include <optional>
#include <string>
#include <vector>

namespace zevo {

enum class BodySide { NotSaid, Left, Right, Both };

/// Where it hurts.
struct PainSpot {
    std::string place;  ///< id of painPlaces()
    BodySide side = BodySide::NotSaid;
    bool operator==(const PainSpot&) const = default;
};
using PainSpots = std::vector<PainSpot>;
/// More than that and it is not about a place any more.
inline constexpr std::size_t kMostPainSpots = 3;
/// As they are kept: "knee-front:left low-back". What was kept before there were sides is read as well; what no place
/// is called is left out, and so is everything after the third.
std::string painSpotsText(const PainSpots& spots);
PainSpots painSpotsFrom(const std::string& text);

/// What the client said about the set. Nothing of it has to be filled in.
struct PainCheck {
    std::optional<int> before, after;  ///< 0–10
    bool sharp = false;
    PainSpots spots;                    ///< none: nowhere, or not said
    std::vector<std::string> redFlags;  ///< ids of redFlags() that stand
    std::vector<std::string> cleared;   ///< ids of those a clinician has cleared, within limits
    std::vector<std::string> limits;    ///< what those were cleared for, as it was written down
    bool roseBefore = false;            ///< it rose in an earlier set of the day

    /// Worse after the set than before it.
    bool rose() const { return before && after && *after > *before; }
    bool operator==(const PainCheck&) const = default;
};

/// What a red flag asks for (common practice, no published source; local rules go first).
enum class FlagLevel {
    HelpNow,  ///< stop, get medical help now
    Refer,    ///< no scoring; to licensed practice
    Cleared   ///< no scoring until cleared; then the gentler versions
};
struct RedFlag {
    const char* id;
    FlagLevel level;
};
/// Most urgent first.
const std::vector<RedFlag>& redFlags();
std::optional<FlagLevel> levelOfFlag(const std::string& id);

/// Ids of places that may hurt: knee-front, low-back, …
const std::vector<std::string>& painPlaces();
/// Whether a place is on one side of the body; the back and the neck are in its middle.
bool hasSides(const std::string& place);
/// Ids of where a set may be felt, on the outline of a body, and what else the coach may have seen ("foot-rolls").
const std::vector<std::string>& feltPlaces();

/// What that means for the set; the words for it are made in src/present.
struct StopAnswer {
    enum class Level { GoOn, Care, Lighten, Stop, HelpNow } level = Level::GoOn;
    enum class Reason { None, RedFlags, SharpPain, RisingPain, MuchPain, SomePain, Cleared } reason = Reason::None;
    std::vector<std::string> redFlags;  ///< those named
    PainSpots spots;                    ///< where it hurts
    std::vector<std::string> limits;    ///< what for it was cleared, as written down; none: not said
    bool refer = false;                 ///< to a licensed clinician
    /// Whether the set may be scored and advised on at all.
    bool scored() const { return level < Level::Stop; }
    /// Whether more weight, or just the same again, may be offered.
    bool mayGoOnAlike() const { return level == Level::GoOn; }
};

/// 0–2 go on, 3–4 lighten or regress, 5 and more, rising by 3 or more or for a second time on a day, or sharp: stop; a
/// red flag: no scoring, refer, or help at once; cleared by a clinician: scored, gentler versions (common practice, no
/// published source).
StopAnswer stopAnswer(const PainCheck& check);

/// What an easier version did for what hurt: the same test again, in the same session (common practice, no source).
enum class SubstituteAnswer {
    Keep,  ///< less than before, and no more than goes on alike
    Next   ///< no better, or not enough
};
SubstituteAnswer substituteAnswer(int before, int after);

}  // namespace zevo

#pragma once

#include <string>
#include <vector>

#include "core/body/landmarks.h"
#include "core/session/session.h"

namespace zevo {

/// From where, and with what, a view of a set was seen: what decides whether an error of the camera or the network is
/// the same in another set, and falls out of their difference. Kept with the set.
struct SeenFrom {
    std::string readBy;  ///< network and engine
    ViewKind view = ViewKind::Side;
    Side near = Side::Right;  ///< of a view from the side
    double offSquareDeg = 0;
    double bodyShare = 0;     ///< stature over the height of the picture
    double acrossShare = 0;   ///< mid-hip at rest from the middle of the picture, over the picture's height
    double downShare = 0;     ///< the soles, likewise
    double pictureShape = 0;  ///< width over height
    bool byLength = false;    ///< centimetres are from a length the coach told, not from the stature
    bool operator==(const SeenFrom&) const = default;
};
/// One a view, the first view first.
std::vector<SeenFrom> seenFrom(const SetState& state);

/// Why two sets, or repetitions of two sets, cannot be held against each other as they are.
enum class ComparabilityIssue {
    View,     ///< one from the side, one from the front; one from the left, one from the right
    Angle,    ///< more than 5° differently off square
    Size,     ///< the body more than a sixth larger in one picture than in the other
    Place,    ///< elsewhere in the picture by more than a seventh of its height, about 40 cm: perspective differs
    Network,  ///< read or measured by different networks or engines
    Scale,    ///< lengths by a told length in one and by the stature in the other
    Unknown   ///< it was not kept from where one of them was seen
};
/// Empty: seen alike. Second views count where both sets have one. How far apart is too far is our choice: what the
/// stated ± of a reading come to.
std::vector<ComparabilityIssue> comparabilityIssues(const std::vector<SeenFrom>& a, const std::vector<SeenFrom>& b);

}  // namespace zevo

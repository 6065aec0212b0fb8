#include "core/advice/situation.h"

#include <algorithm>

namespace zevo {
namespace {

bool anyOf(const std::vector<std::string>& wanted, const std::string& is) {
    return wanted.empty() || std::find(wanted.begin(), wanted.end(), is) != wanted.end();
}

/// What is asked of the weights: a variation tells more than its movement, that more than the family; what the client
/// feels and what hurts tell most.
constexpr int kFamily = 1, kRoom = 2, kHands = 3, kChoice = 4, kSchool = 4, kMovement = 6, kVariation = 12, kFelt = 60,
              kComplaint = 120, kLevel = 120, kLogged = 20;

}  // namespace

std::string levelName(StopAnswer::Level level) {
    using enum StopAnswer::Level;
    switch (level) {
        case GoOn: return "free";
        case Lighten: return "lighten";
        case Care: return "care";
        case Stop:
        case HelpNow: break;
    }
    return "stop";
}

Situation situationOf(const SetResult& result) {
    const SetContext& c = result.context;
    Situation s;
    s.movement = c.movement.id;
    s.family = familyName(c.movement.family);
    if (!c.variation.empty()) s.variation = c.variation;
    s.school = result.standard;
    s.hands = handsName(c.movement.hands(c.variation));
    s.room = c.movement.needsRoom(c.variation);
    s.swings = c.movement.swings(c.variation);
    s.loaded = c.loaded();
    if (c.wedgeDeg > 0) s.aids.push_back("wedge");
    if (c.boxCm > 0 || c.variation == "box") s.aids.push_back("box");
    if (c.pole || c.movement.hands(c.variation) == Hands::Post) s.aids.push_back("pole");
    s.shoes = c.shoes;
    s.effort = c.effort;
    s.choices = result.choices;
    s.level = levelName(result.stop.level);
    for (const PainSpot& spot : c.pain.spots) s.complaints.push_back(spot.place);
    s.felt = c.felt;
    s.asks = c.asks;
    return s;
}

bool Situation::uses(const std::string& aid) const {
    return std::find(aids.begin(), aids.end(), aid) != aids.end();
}

bool isLeftAlone(const Situation& s) {
    return (s.swings || s.hands == "overhead") && (s.level == "lighten" || s.level == "care");
}

bool When::holds(const Situation& s) const {
    if (!anyOf(families, s.family) || !anyOf(movements, s.movement) || !anyOf(variations, s.variation) ||
        !anyOf(schools, s.school) || !anyOf(hands, s.hands) || !anyOf(levels, s.level))
        return false;
    if (room && *room != s.room) return false;
    if (loaded && *loaded != s.loaded) return false;
    if (!anyOf(shoes, s.shoes) || (effortFrom && s.effort.value_or(0) < *effortFrom)) return false;
    auto inUse = [&](const std::string& aid) { return s.uses(aid); };
    if (!aids.empty() && std::none_of(aids.begin(), aids.end(), inUse)) return false;
    if (std::any_of(lacks.begin(), lacks.end(), inUse)) return false;
    auto meets = [](const std::vector<std::string>& wanted, const std::vector<std::string>& are) {
        return wanted.empty() ||
               std::any_of(are.begin(), are.end(), [&](const std::string& is) { return anyOf(wanted, is); });
    };
    if (!meets(felt, s.felt) || !meets(complaints, s.complaints)) return false;
    return std::all_of(choices.begin(), choices.end(), [&](const auto& wanted) {
        const auto is = s.choices.find(wanted.first);
        const std::string option = is == s.choices.end() ? "none" : is->second.substr(0, is->second.find(':'));
        return anyOf(wanted.second, option);
    });
}

int When::weight() const {
    return (families.empty() ? 0 : kFamily) + (movements.empty() ? 0 : kMovement) +
           (variations.empty() ? 0 : kVariation) + (schools.empty() ? 0 : kSchool) + (hands.empty() ? 0 : kHands) +
           (room ? kRoom : 0) + (complaints.empty() ? 0 : kComplaint) + (felt.empty() ? 0 : kFelt) +
           (levels.empty() ? 0 : kLevel) +
           kLogged * ((aids.empty() ? 0 : 1) + (lacks.empty() ? 0 : 1) + (shoes.empty() ? 0 : 1) + (loaded ? 1 : 0) +
                      (effortFrom ? 1 : 0)) +
           kChoice * static_cast<int>(choices.size());
}

}  // namespace zevo

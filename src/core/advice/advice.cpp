#include "core/advice/advice.h"

#include <algorithm>

#include "core/judge/retired_faults.h"

namespace zevo {
namespace {

/// A card that is about a cause outweighs any that is not, except one about pain.
constexpr int kLimiter = 30;

int weightOf(const Card& card) {
    return card.when.weight() + (card.limiter ? kLimiter : 0);
}

}  // namespace

const FaultWords* AdviceBook::fault(const std::string& id) const {
    const auto found = faults.find(id);
    return found == faults.end() ? nullptr : &found->second;
}

std::string AdviceBook::title(const std::string& id) const {
    if (const FaultWords* words = fault(id)) return words->title;
    const std::string retired = retiredTitle(id);
    return retired.empty() ? id : retired;
}

bool AdviceBook::allows(const std::vector<std::string>& textClaims, const Situation& s) const {
    return std::none_of(claims.begin(), claims.end(), [&](const Claim& c) {
        if (std::find(textClaims.begin(), textClaims.end(), c.id) == textClaims.end()) return false;
        const bool wrongWay = std::any_of(c.pushes.begin(), c.pushes.end(), [&](const Claim::Push& p) {
            return s.measure && p.measure == s.measure && p.up == s.above;
        });
        return wrongWay || std::any_of(c.never.begin(), c.never.end(), [&](const When& when) { return when.holds(s); });
    });
}

Advice adviceFor(const std::string& fault, const Situation& situation, const AdviceBook& book) {
    if (isLeftAlone(situation) && fault != kPainCard) return {};
    std::vector<const Card*> holding;
    for (const Card& c : book.cards)
        if (c.fault == fault && (!c.limiter || c.limiter->id == situation.limiter) && c.when.holds(situation))
            holding.push_back(&c);
    std::stable_sort(holding.begin(), holding.end(),
                     [](const Card* a, const Card* b) { return weightOf(*a) > weightOf(*b); });
    auto said = [&](const auto& lines) {
        auto out = lines;
        std::erase_if(out, [&](const auto& line) { return !book.allows(line.claims, situation); });
        return out;
    };
    Advice a;
    for (const Card* c : holding) {
        if (a.say.empty()) a.say = said(c->say);
        if (a.change.empty()) {
            a.change = said(c->change);
            // What was asked already, and is there, is not asked for again; nor what is being done.
            const std::string variation = situation.variation == "plain" ? "" : situation.variation;
            std::erase_if(a.change, [&](const Change& change) {
                return (change.ask && isAsked(*change.ask, situation.asks)) ||
                       (change.instead && *change.instead == Instead{situation.movement, variation});
            });
        }
        if (a.prepare.empty()) a.prepare = said(c->prepare);
        if (a.progress.empty()) a.progress = c->progress;
    }
    return a;
}

}  // namespace zevo

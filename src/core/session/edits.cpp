#include "core/session/edits.h"

#include <algorithm>

namespace zevo {
namespace {

bool isInSecondView(const Edit& edit) {
    return std::visit(
        [](const auto& e) {
            if constexpr (requires { e.second; })
                return e.second;
            else
                return false;
        },
        edit);
}

/// Whether a later edit leaves nothing of an earlier one.
template <typename Later, typename Earlier>
bool replaces(const Later& later, const Earlier& earlier) {
    if constexpr (requires { Later::kStartsSecondViewAnew; })
        return isAboutSecondView(earlier);
    else if constexpr (
        requires { Later::kStartsPersonAnew; } && requires { Earlier::kIsAboutPerson; })
        return later.second == earlier.second;
    else if constexpr (requires { later.replaces(earlier); })
        return later.replaces(earlier);
    else
        return false;
}

}  // namespace

bool isAboutSecondView(const Edit& edit) {
    return isInSecondView(edit) || std::visit(
                                       [](const auto& e) {
                                           return requires {
                                               std::decay_t<decltype(e)>::kIsAboutSecondView;
                                           };
                                       },
                                       edit);
}

bool needsSecondView(const Edit& edit) {
    return std::visit(
        [](const auto& e) {
            return requires {
                std::decay_t<decltype(e)>::kNeedsSecondView;
            };
        },
        edit);
}

bool leavesValues(const Edit& edit) {
    return std::visit(
        [](const auto& e) {
            return requires {
                std::decay_t<decltype(e)>::kLeavesValues;
            };
        },
        edit);
}

bool onlyJudges(const Edit& edit) {
    return std::visit(
        [](const auto& e) {
            return requires {
                std::decay_t<decltype(e)>::kOnlyJudges;
            };
        },
        edit);
}

Edits with(Edits edits, Edit edit) {
    std::erase_if(edits, [&](const Edit& e) {
        return std::visit([](const auto& later, const auto& earlier) { return replaces(later, earlier); }, edit, e);
    });
    edits.push_back(std::move(edit));
    return edits;
}

Edits without(const Edits& a, const Edits& b) {
    std::vector<bool> used(b.size());
    Edits out;
    for (const Edit& e : a) {
        std::size_t i = 0;
        while (i < b.size() && (used[i] || !(b[i] == e))) ++i;
        if (i < b.size())
            used[i] = true;
        else
            out.push_back(e);
    }
    return out;
}

Edits rebased(const Edits& base, const Edits& mine, const Edits& theirs, const std::map<int, int>& moved) {
    auto there = [&](Edits edits) {
        auto put = [&](int& place) {
            if (const auto to = moved.find(place); to != moved.end()) place = to->second;
        };
        for (Edit& e : edits) {
            if (auto* second = std::get_if<SecondAdded>(&e)) put(second->observation);
            if (auto* person = std::get_if<PersonChosen>(&e)) put(person->observation);
        }
        return edits;
    };
    Edits out = without(theirs, there(without(base, mine)));
    for (Edit& e : there(without(mine, base))) out = with(std::move(out), std::move(e));
    return out;
}

std::vector<bool> observationsSpokenOf(const Edits& edits) {
    std::vector<bool> out{true};
    auto speakOf = [&](int place) {
        if (place < 0) return;
        const auto at = static_cast<std::size_t>(place);
        if (at >= out.size()) out.resize(at + 1);
        out[at] = true;
    };
    const EditedSet edited = fold(edits);
    if (edited.second) speakOf(edited.second->observation);
    for (const auto& view : edited.views)
        if (view.person) speakOf(view.person->observation);
    return out;
}

Asks asksAfter(const EditedSet& set) {
    Asks out = set.facts.asks;
    for (const auto& [of, ask] : set.asked)
        out = ask ? with(std::move(out), *ask) : without(std::move(out), of.first, of.second);
    return out;
}

EditedSet fold(const Edits& edits) {
    EditedSet out;
    for (const Edit& edit : edits) std::visit([&](const auto& e) { e.apply(out); }, edit);
    return out;
}

}  // namespace zevo

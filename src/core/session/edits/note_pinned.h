#pragma once

#include "core/session/edits/edit_kind.h"

namespace zevo {

/// A word pinned to a picture; an empty one takes it away.
struct NotePinned {
    bool second = false;
    double atS = 0;
    std::string text;
    bool operator==(const NotePinned&) const = default;

    static constexpr const char* kName = "note";
    static constexpr bool kLeavesValues = true;
    bool replaces(const NotePinned& earlier) const { return second == earlier.second && atS == earlier.atS; }
    Json write() const { return {{"second", second}, {"at_s", atS}, {"text", text}}; }
    static NotePinned read(const Json& o) {
        return {isOfSecond(o), o.at("at_s").get<double>(), o.at("text").get<std::string>()};
    }
    void apply(auto& set) const {
        if (text.empty()) return;
        auto& notes = set.views[second].notes;
        notes.insert(std::upper_bound(notes.begin(), notes.end(), *this,
                                      [](const NotePinned& a, const NotePinned& b) { return a.atS < b.atS; }),
                     *this);
    }
};

}  // namespace zevo

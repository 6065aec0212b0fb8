#pragma once

#include "core/session/edits/edit_kind.h"

namespace zevo {

/// Who the client is, where two people are in the picture. The clip is followed again from there (src/pipeline); what
/// was observed then takes the place of what the view was made from, and the first observation stays for undo. What was
/// put right or marked on the person followed before means nothing any more.
struct PersonChosen {
    bool second = false;
    double atS = 0, x = 0, y = 0;  ///< picture pixels
    int observation = 0;           ///< its place in the list of observations
    bool operator==(const PersonChosen&) const = default;

    static constexpr const char* kName = "person";
    static constexpr bool kIsAboutPerson = true;
    static constexpr bool kStartsPersonAnew = true;
    Json write() const { return {{"second", second}, {"at_s", atS}, {"x", x}, {"y", y}, {"observation", observation}}; }
    static PersonChosen read(const Json& o) {
        return {isOfSecond(o), o.at("at_s").get<double>(), o.at("x").get<double>(), o.at("y").get<double>(),
                o.value("observation", 0)};
    }
    void apply(auto& set) const {
        auto& view = set.views[second];
        view.person = *this;
        view.corrections.moved.clear();
        view.corrections.standingAtS.reset();
        view.byHand.clear();
        view.legs.clear();
        view.marks.clear();
    }
};

}  // namespace zevo

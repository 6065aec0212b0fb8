#pragma once

#include "core/session/edits/edit_kind.h"

namespace zevo {

/// The second view is taken away.
struct SecondRemoved {
    bool operator==(const SecondRemoved&) const = default;

    static constexpr const char* kName = "second_removed";
    static constexpr bool kIsAboutSecondView = true;
    static constexpr bool kStartsSecondViewAnew = true;
    Json write() const { return Json::object(); }
    static SecondRemoved read(const Json&) { return {}; }
    void apply(auto& set) const {
        set.second.reset();
        set.views[1] = {};
    }
};

}  // namespace zevo

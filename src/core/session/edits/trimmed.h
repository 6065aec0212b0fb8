#pragma once

#include "core/session/edits/edit_kind.h"

namespace zevo {

/// Only this stretch of a view's clip is the set.
struct Trimmed {
    bool second = false;
    Span span;
    bool operator==(const Trimmed&) const = default;

    static constexpr const char* kName = "trimmed";
    bool replaces(const Trimmed& earlier) const { return second == earlier.second; }
    Json write() const {
        Json o = writeSpan(span);
        o["second"] = second;
        return o;
    }
    static Trimmed read(const Json& o) { return {isOfSecond(o), readSpan(o)}; }
    void apply(auto& set) const { set.views[second].trimmed = span; }
};

}  // namespace zevo

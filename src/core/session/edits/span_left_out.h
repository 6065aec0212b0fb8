#pragma once

#include "core/session/edits/edit_kind.h"

namespace zevo {

/// A span of the first view that does not count, or counts again.
struct SpanLeftOut {
    Span span;
    bool out = true;
    bool operator==(const SpanLeftOut&) const = default;

    static constexpr const char* kName = "left_out";
    static constexpr bool kLeavesValues = true;
    static constexpr bool kOnlyJudges = true;
    bool replaces(const SpanLeftOut& earlier) const { return span == earlier.span; }
    Json write() const {
        Json o = writeSpan(span);
        o["out"] = out;
        return o;
    }
    static SpanLeftOut read(const Json& o) { return {readSpan(o), o.value("out", true)}; }
    void apply(auto& set) const {
        std::erase_if(set.leftOut, [this](const Span& o) { return o.fromS < span.toS && span.fromS < o.toS; });
        if (out) set.leftOut.push_back(span);
    }
};

}  // namespace zevo

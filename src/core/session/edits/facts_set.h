#pragma once

#include "core/session/edits/edit_kind.h"
#include "core/session/set_facts.h"

namespace zevo {

/// What the coach says of the set (set_facts.h).
struct FactsSet {
    SetFacts facts;
    bool operator==(const FactsSet&) const = default;

    static constexpr const char* kName = "facts";
    bool replaces(const FactsSet&) const { return true; }
    Json write() const { return writeFacts(facts); }
    static FactsSet read(const Json& o) { return {readFacts(o)}; }
    void apply(auto& set) const { set.facts = facts; }
};

}  // namespace zevo

#pragma once

#include <optional>

#include "core/judge/asks.h"
#include "core/session/edits/edit_kind.h"

namespace zevo {

/// What is asked of the sets after this one, of one kind in one movement; nothing: it is lifted, and the school counts
/// again. The set it stands with is not changed by it: it goes on being judged by what was asked of it
/// (SetFacts::asks).
struct AskSet {
    std::string movement, kind;
    std::optional<Ask> ask;
    bool operator==(const AskSet&) const = default;

    static constexpr const char* kName = "ask";
    static constexpr bool kLeavesValues = true;
    bool replaces(const AskSet& earlier) const { return movement == earlier.movement && kind == earlier.kind; }
    Json write() const { return {{"movement", movement}, {"kind", kind}, {"ask", ask ? writeAsk(*ask) : Json()}}; }
    static AskSet read(const Json& o) {
        const Json& ask = o.at("ask");
        return {o.at("movement").get<std::string>(), o.at("kind").get<std::string>(),
                ask.is_null() ? std::nullopt : std::optional(readAsk(ask))};
    }
    void apply(auto& set) const { set.asked[{movement, kind}] = ask; }
};

/// An ask taken, and one lifted.
inline AskSet askTaken(const Ask& ask) {
    return {ask.movement, ask.kind, ask};
}
inline AskSet askLifted(const Ask& ask) {
    return {ask.movement, ask.kind, std::nullopt};
}

}  // namespace zevo

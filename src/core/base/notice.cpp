#include "core/base/notice.h"

#include <array>

namespace zevo {
namespace {

/// In the order of NoticeKind. Names stay: records hold them.
constexpr std::array kNames{"nobody-found",
                            "too-small",
                            "seen-too-little",
                            "legs-not-told-apart",
                            "no-repetition",
                            "other-movement",
                            "nobody-lies",
                            "somebody-lies",
                            "feet-never-part",
                            "nobody-walks",
                            "same-view",
                            "nothing-in-common",
                            "no-picture",
                            "stopped",
                            "inside",
                            "unknown-movement",
                            "stature-unknown",
                            "size-contradicted",
                            "length-contradicted",
                            "lost-per-cent",
                            "off-balance",
                            "camera-tilted",
                            "off-square",
                            "networks-disagree",
                            "legs-doubted",
                            "hips-doubted",
                            "not-looked-twice",
                            "back-not-read",
                            "mark-lost",
                            "mark-not-seen",
                            "swing-ladder",
                            "seen-obliquely",
                            "seen-from-front",
                            "seen-from-back",
                            "seen-from-foot-end",
                            "hip-line-unread",
                            "second-shows-fewer",
                            "second-left-out",
                            "clocks-differ",
                            "more-people",
                            "clip-damaged",
                            "no-viewing-copy",
                            "no-outlines",
                            "standard-missing",
                            "older-engine",
                            "free-text"};
static_assert(kNames.size() == static_cast<std::size_t>(NoticeKind::FreeText) + 1);

}  // namespace

double Notice::number(std::size_t n) const {
    const double* v = n < arguments.size() ? std::get_if<double>(&arguments[n]) : nullptr;
    return v ? *v : 0;
}

std::string Notice::word(std::size_t n) const {
    const std::string* v = n < arguments.size() ? std::get_if<std::string>(&arguments[n]) : nullptr;
    return v ? *v : std::string();
}

std::string noticeName(NoticeKind kind) {
    return kNames[static_cast<std::size_t>(kind)];
}

std::optional<NoticeKind> noticeFromName(std::string_view name) {
    for (std::size_t i = 0; i < kNames.size(); ++i)
        if (name == kNames[i]) return static_cast<NoticeKind>(i);
    return std::nullopt;
}

}  // namespace zevo

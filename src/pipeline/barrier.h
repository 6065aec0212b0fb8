#pragma once

#include <exception>
#include <utility>

#include "core/base/result.h"

namespace zevo::pipeline {

/// Runs work that must not take the window with it: what it throws becomes an Error.
template <typename Work>
auto guarded(Work&& work) noexcept -> decltype(work()) {
    try {
        return std::forward<Work>(work)();
    } catch (const std::exception& e) {
        return refusal(NoticeKind::Inside, {}, e.what());
    } catch (...) {
        return refusal(NoticeKind::Inside, {}, "something that is no std::exception");
    }
}

}  // namespace zevo::pipeline

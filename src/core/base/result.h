#pragma once

#include <optional>
#include <string>
#include <utility>
#include <variant>
#include <vector>

#include "core/base/notice.h"

namespace zevo {

/// Why something could not be done.
struct Error {
    /// One plain sentence for a person: what happened and what to do. Empty when `notice` says it.
    std::string message;
    /// For the log: which file, which field, which library code. May be empty.
    std::string detail;
    /// The reason apart from its words, where it has none of its own (present/words.h makes the sentence).
    std::optional<Notice> notice = std::nullopt;
};

/// An error that is a kind and its arguments.
inline Error refusal(NoticeKind kind, std::vector<Argument> arguments = {}, std::string detail = {}) {
    if (detail.empty()) detail = noticeName(kind);
    return Error{{}, std::move(detail), Notice{kind, std::move(arguments)}};
}

/// Whether the work was ended by the coach.
inline bool wasStopped(const Error& e) {
    return e.notice && e.notice->kind == NoticeKind::Stopped;
}

/// A value or the Error that stands in its place (C++20 has no std::expected yet).
/// Test with `if (!result)`; reading the wrong side throws std::bad_variant_access.
template <typename T>
class [[nodiscard]] Result {
  public:
    Result(T value) : m_state(std::in_place_index<0>, std::move(value)) {}
    Result(Error error) : m_state(std::in_place_index<1>, std::move(error)) {}

    explicit operator bool() const { return m_state.index() == 0; }
    T& value() & { return std::get<0>(m_state); }
    const T& value() const& { return std::get<0>(m_state); }
    T&& value() && { return std::get<0>(std::move(m_state)); }
    T* operator->() { return &value(); }
    const T* operator->() const { return &value(); }
    T& operator*() & { return value(); }
    const T& operator*() const& { return value(); }
    /// By value, so that `for (const auto& x : *ask())` walks over something that lives.
    T operator*() && { return std::move(*this).value(); }
    const Error& error() const { return std::get<1>(m_state); }

  private:
    std::variant<T, Error> m_state;
};

/// Success without a value.
template <>
class [[nodiscard]] Result<void> {
  public:
    Result() = default;
    Result(Error error) : m_error(std::move(error)) {}
    explicit operator bool() const { return !m_error; }
    const Error& error() const { return *m_error; }

  private:
    std::optional<Error> m_error;
};

}  // namespace zevo

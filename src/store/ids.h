#pragma once

#include <cstdint>

namespace zevo::store {

// Row numbers of the library's tables; one type each, so that a client's cannot be passed for a set's.
enum class ClientId : std::int64_t {};
enum class SessionId : std::int64_t {};
enum class SetId : std::int64_t {};
enum class ClipId : std::int64_t {};
enum class CorrectionId : std::int64_t {};

}  // namespace zevo::store

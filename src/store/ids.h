#pragma once

namespace zevo::store {

// Row numbers of the library's tables; one type each, so that a client's cannot be passed for a set's. (long long is
// Qt's 64-bit integer; std::int64_t is not always the same type.)
enum class ClientId : long long {};
enum class SessionId : long long {};
enum class SetId : long long {};
enum class ClipId : long long {};

}  // namespace zevo::store

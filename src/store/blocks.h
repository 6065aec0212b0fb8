#pragma once

#include <QByteArray>

#include "core/serial/pose_record.h"

namespace zevo::store {

// Blocks of core/serial, compressed.

inline QByteArray packed(const std::vector<std::uint8_t>& block) {
    return qCompress(block.data(), static_cast<qsizetype>(block.size()));
}
inline QByteArray unpacked(const QByteArray& block) {
    return qUncompress(block);
}
inline std::span<const std::uint8_t> bytesOf(const QByteArray& raw) {
    return {reinterpret_cast<const std::uint8_t*>(raw.constData()), static_cast<std::size_t>(raw.size())};
}

}  // namespace zevo::store

#pragma once

#include <cstdint>
#include <cstring>
#include <span>
#include <stdexcept>
#include <string>
#include <vector>

namespace zevo::pose {

/// Thrown inside the reader only; readGraph turns it into an Error.
struct MalformedFile : std::runtime_error {
    using std::runtime_error::runtime_error;
};

/// A table in a FlatBuffer, read with bounds checks at every step. Layout: public FlatBuffers
/// "internals" document (root offset, vtable, vectors and strings as length-prefixed blocks).
class FlatTable {
  public:
    using Bytes = std::span<const std::uint8_t>;

    static FlatTable root(Bytes file) { return {file, add(file, 0, readAt<std::uint32_t>(file, 0))}; }

    template <typename T>
    T scalar(int field, T fallback) const {
        const auto at = fieldAt(field);
        return at ? readAt<T>(m_file, at) : fallback;
    }

    bool has(int field) const { return fieldAt(field) != 0; }

    FlatTable table(int field) const {
        const auto at = fieldAt(field);
        if (!at) throw MalformedFile("a table is missing");
        return {m_file, follow(m_file, at)};
    }

    std::string string(int field) const {
        const auto bytes = vector<std::uint8_t>(field);
        return {bytes.begin(), bytes.end()};
    }

    /// A vector of scalars; empty when absent.
    template <typename T>
    std::vector<T> vector(int field) const {
        const auto at = fieldAt(field);
        if (!at) return {};
        const auto start = follow(m_file, at);
        const std::size_t count = readAt<std::uint32_t>(m_file, start);
        if (count > m_file.size() / sizeof(T) || add(m_file, start, 4 + count * sizeof(T)) > m_file.size())
            throw MalformedFile("a vector runs past the end of the file");
        std::vector<T> out(count);
        if (count > 0) std::memcpy(out.data(), m_file.data() + start + 4, count * sizeof(T));
        return out;
    }

    std::vector<FlatTable> tables(int field) const {
        const auto at = fieldAt(field);
        std::vector<FlatTable> out;
        if (!at) return out;
        const auto start = follow(m_file, at);
        const std::size_t count = readAt<std::uint32_t>(m_file, start);
        if (count > m_file.size() / 4) throw MalformedFile("a list runs past the end of the file");
        out.reserve(count);
        for (std::size_t i = 0; i < count; ++i) out.push_back({m_file, follow(m_file, add(m_file, start, 4 + 4 * i))});
        return out;
    }

  private:
    FlatTable(Bytes file, std::size_t at) : m_file(file), m_at(at) {
        const auto back = readAt<std::int32_t>(file, at);
        const auto vtable = static_cast<std::int64_t>(at) - back;
        if (vtable < 0 || vtable + 4 > static_cast<std::int64_t>(file.size()))
            throw MalformedFile("a table points outside the file");
        m_vtable = static_cast<std::size_t>(vtable);
        m_vtableSize = readAt<std::uint16_t>(file, m_vtable);
    }

    static std::size_t add(Bytes file, std::size_t at, std::size_t step) {
        if (step > file.size() || at + step > file.size()) throw MalformedFile("an offset leaves the file");
        return at + step;
    }

    static std::size_t follow(Bytes file, std::size_t at) { return add(file, at, readAt<std::uint32_t>(file, at)); }

    template <typename T>
    static T readAt(Bytes file, std::size_t at) {
        if (at > file.size() || file.size() - at < sizeof(T)) throw MalformedFile("the file ends too early");
        T value;
        std::memcpy(&value, file.data() + at, sizeof(T));
        return value;
    }

    std::size_t fieldAt(int field) const {
        const std::size_t slot = 4 + 2 * static_cast<std::size_t>(field);
        if (slot + 2 > m_vtableSize) return 0;
        const auto offset = readAt<std::uint16_t>(m_file, m_vtable + slot);
        return offset ? add(m_file, m_at, offset) : 0;
    }

    Bytes m_file;
    std::size_t m_at = 0;
    std::size_t m_vtable = 0;
    std::size_t m_vtableSize = 0;
};

}  // namespace zevo::pose

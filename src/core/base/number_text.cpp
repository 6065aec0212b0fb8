#include "core/base/number_text.h"

#include <array>
#include <charconv>
#include <cmath>

namespace zevo {

std::optional<double> numberFrom(std::string_view text) {
    double value = 0;
    const char* last = text.data() + text.size();
    const auto [end, problem] = std::from_chars(text.data(), last, value);
    if (problem != std::errc() || end != last || !std::isfinite(value)) return std::nullopt;
    return value;
}

std::string numberText(double value) {
    std::array<char, 32> out;
    const auto [end, problem] = std::to_chars(out.data(), out.data() + out.size(), value);
    return problem == std::errc() ? std::string(out.data(), end) : std::string();
}

}  // namespace zevo

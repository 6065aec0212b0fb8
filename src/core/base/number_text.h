#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace zevo {

// Numbers as files, records and command lines hold them: with a point, whatever the locale of this machine says. The C
// library's own readers (strtod, sscanf, std::stod) follow the locale that the window sets at its start, and take
// "12.5" for 12 where a comma is the point.

/// The number that is the whole of `text`; nothing where it is not one, or not a finite one.
std::optional<double> numberFrom(std::string_view text);
/// The shortest text that is read back as the same number.
std::string numberText(double value);

}  // namespace zevo

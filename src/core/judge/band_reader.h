#pragma once

#include <string>

#include "core/base/json_reader.h"
#include "core/judge/standard.h"

namespace zevo {

/// Reads one band of a file; throws Refused (json_reader.h) with the path where it is broken.
Band readBand(const Json& object, const std::string& path);
/// The same band as readBand() reads it.
Json bandJson(const Band& band);

}  // namespace zevo

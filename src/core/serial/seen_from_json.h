#pragma once

#include <string>
#include <vector>

#include "core/session/seen_from.h"

namespace zevo {

/// From where the views of a set were seen, as JSON text, and back; nothing where it cannot be read.
std::string writeSeenFrom(const std::vector<SeenFrom>& views);
std::vector<SeenFrom> readSeenFrom(const std::string& text);

}  // namespace zevo

#pragma once

#include <string>
#include <utility>
#include <vector>

#include "core/base/result.h"
#include "core/session/edits.h"

namespace zevo {

/// An edit as the record keeps it: the name of its kind and its payload as JSON text (numbers with a point, whatever
/// the country).
std::pair<std::string, std::string> writeEdit(const Edit& edit);
/// Error: a kind this Zevo does not know, or a damaged payload.
Result<Edit> readEdit(const std::string& kind, const std::string& payload);

/// Notices as JSON text, and back; what cannot be read is passed over.
std::string writeNotices(const std::vector<Notice>& notices);
std::vector<Notice> readNotices(const std::string& text);

}  // namespace zevo

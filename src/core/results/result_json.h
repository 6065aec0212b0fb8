#pragma once

#include <string>

#include "core/advice/advice.h"
#include "core/results/set_result.h"

namespace zevo {

/// The open result format of docs/formats.md. With an advice book, each finding carries what to say, change and
/// prepare.
std::string toJson(const SetResult& result, const AdviceBook* book = nullptr);

}  // namespace zevo

#pragma once

#include <functional>
#include <string>
#include <utility>

#include "core/advice/advice.h"
#include "core/advice/reasoning.h"
#include "core/session/measured_set.h"

namespace zevo {

/// The sentences a result file carries; made elsewhere (present/words.h), so that every place says the same.
struct ResultWords {
    std::function<std::string(const Notice&)> notice;
    std::function<std::string(const Counsel&)> trace;
    std::function<std::pair<std::string, std::string>(const StopAnswer&)> stop;  ///< title and text
};

/// The open result format of docs/formats.md. With an advice book, each finding carries what to say, change and
/// prepare.
std::string toJson(const MeasuredSet& set, const ResultWords& words, const AdviceBook* book = nullptr);

}  // namespace zevo

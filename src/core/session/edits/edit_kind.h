#pragma once

#include <algorithm>
#include <cmath>
#include <limits>
#include <nlohmann/json.hpp>
#include <stdexcept>
#include <string>
#include <vector>

#include "core/judge/set_result.h"

namespace zevo {

// Edits: the coach's corrections and facts. Every edit is keyed by time, never by a repetition's number: numbers change
// when the set is measured anew, moments do not. Times are on the clock of the view they are about.
//
// A kind of edit is one struct in one file of this folder, and one line in the list of edits.h
// (docs/adding-an-edit-kind.md walks through one). It has
//   kName            as records hold it; it never changes
//   write(), read()  its payload as JSON; read() throws a std::exception where that is damaged
//   apply(set)       what it does to an EditedSet
// and, where they are true,
//   replaces(earlier)      an earlier edit of that kind that leaves nothing behind, so that the list does not grow with
//                          fiddling
//   second                 the view it is about
//   kIsAboutSecondView     it is about the second view, whatever else it says
//   kNeedsSecondView       it can only concern the second view: where that does not fit, it is refused
//   kStartsSecondViewAnew  nothing said of the second view before holds any more
//   kIsAboutPerson         it was made looking at the person who is followed: it means nothing for another one
//   kStartsPersonAnew      another person is followed from now on
//   kLeavesValues          no value changes by it
//   kOnlyJudges            it changes how the values are judged or which count, and values of an older engine may stay

using Json = nlohmann::json;

inline Json writeSpan(const Span& s) {
    return {{"from_s", s.fromS}, {"to_s", s.toS}};
}
inline Span readSpan(const Json& o) {
    return {o.at("from_s").get<double>(), o.at("to_s").get<double>()};
}
inline bool isOfSecond(const Json& o) {
    return o.value("second", false);
}

}  // namespace zevo

#pragma once

#include "bench/people/cast.h"

namespace bench {

/// Squats filmed from the front, each by chance: how deep, how wide, where the knees go and how high the camera stands.
/// `first` … `first + count − 1`, by people of a half, or without a package by the figures. Every fourth number or so
/// would be from behind and is left out.
zevo::Result<std::vector<Case>> frontSets(const HumanPackage* package, Half half, int first, int count);

/// The same with shins that stand more upright (6–14°) than what the reading takes for usual.
void standShinsUpright(std::vector<Case>& sets);

}  // namespace bench

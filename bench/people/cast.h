#pragma once

// People, clothes, rooms, cameras and movements by chance.

#include "bench/accuracy/cases.h"
#include "bench/people/person.h"

namespace bench {

/// Where `bench/people/fetch` puts the package.
std::string peopleFolder();

/// Halves that share no body, top, shoes, hair or room: one for numbers that are fitted, one for the tables. Skins,
/// women's jeans, plain walls and planks occur in both.
enum class Half { Calibration, Tables };

/// The person of this number (0, 1, …): both sexes, 18–75 years, slim to heavy, 150–200 cm, tight and loose clothes.
PersonSpec someone(Half half, int number);

/// Sets of the movements Zevo knows, each by another person: `first` … `first + count − 1`. Side views, every seventh
/// from the front; three repetitions that differ.
zevo::Result<std::vector<Case>> peopleSets(const HumanPackage& package, Half half, int first, int count);

/// The same movement, seen from the same side, by the person of this number, in their room and before their camera.
zevo::Result<zevo::sim::ClipSpec> bySomeone(const HumanPackage& package, Half half, int number,
                                            const zevo::sim::ClipSpec& clip);

}  // namespace bench

#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/balance/balance.h"
#include "core/body/movement.h"
#include "core/measures/front_series.h"
#include "core/measures/series.h"
#include "core/reps/reps.h"
#include "core/track/track.h"

namespace zevo {

enum class Unit { Degrees, Centimetres, Seconds, Milliseconds, Share, MetresPerSecond2, MetresPerSecond };

/// "deg", "cm", "s", "ms", "share", "m/s2", "m/s": as written in results.
std::string unitName(Unit unit);

struct Measurement {
    std::string id;
    double value = 0;
    double pm90 = 0;  ///< half width of the 90 % interval, same unit
    Unit unit = Unit::Degrees;
    double confidence = 0;  ///< 0…1: were the points it needs seen, in a view where it is valid
    double atS = 0;         ///< the moment it was read from
    bool second = false;    ///< read in the second clip of the set; atS is that clip's time
};

/// Everything a measure may look at.
struct MeasureInput {
    const Track& track;
    const Series& series;
    const FrontSeries* front = nullptr;  ///< in front, rear and foot-end views
    const Rep& rep;
    const Rep* next = nullptr;  ///< the repetition after, if any
    double levelDoubtDeg = 0;   ///< levelDoubt() of the set
    const Movement& movement;
    const BalanceModel* balance = nullptr;  ///< of this client, where one can be made

    /// The leg a measure is about: the working one, else the one near the camera.
    Side legSide() const { return rep.leg.value_or(track.near); }
    Landmark leg(Landmark left) const { return ofSide(left, legSide()); }
    Landmark otherLeg(Landmark left) const { return ofSide(left, otherSide(legSide())); }
    const LegSeries& legSeries() const { return series.legs[static_cast<std::size_t>(legSide())]; }
    const LegSeries& otherLegSeries() const { return series.legs[static_cast<std::size_t>(otherSide(legSide()))]; }
};

/// What a reading gives: `value` ± `pm90`, read at `sample` of the track.
struct Reading {
    double value = 0, pm90 = 0;
    std::size_t sample = 0;
};

/// The views a measure is valid in, as bits.
enum ViewBits : unsigned { kSideView = 1, kFrontView = 2, kRearView = 4, kObliqueView = 8, kFootEndView = 16 };
inline constexpr unsigned kFrontal = kFrontView | kRearView;
unsigned viewBit(ViewKind view);

/// Whose a measure is: a fault by it is then that leg's.
enum class Of { Body, WorkingLeg, Left, Right };

/// One quantity read per repetition.
struct MeasureDef {
    const char* id;
    const char* title;  ///< coach's words
    const char* term;   ///< the field's term
    Unit unit;
    unsigned views;  ///< ViewBits
    Of of;
    /// Landmarks that must be seen, left ones of the pairs: the leg's side or the near one is taken, for Of::Left and
    /// Of::Right that side.
    std::vector<Landmark> needs;
    /// Nothing when it cannot be read (for example no scale).
    std::optional<Reading> (*read)(const MeasureInput& in);
};

/// Every measure Zevo knows, in display order.
std::span<const MeasureDef> allMeasures();
const MeasureDef* findMeasure(const std::string& id);

/// All measures of one repetition that the movement names, the view allows and the picture gives.
std::vector<Measurement> measureRep(const MeasureInput& input);

}  // namespace zevo

#pragma once

#include <compare>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/back/back_line.h"
#include "core/balance/balance.h"
#include "core/body/movement.h"
#include "core/marks/marks.h"
#include "core/reps/reps.h"
#include "core/series/view_series.h"
#include "core/track/track.h"

namespace zevo {

enum class Unit { Degrees, Centimetres, Seconds, Milliseconds, Share, MetresPerSecond2, MetresPerSecond };

/// "deg", "cm", "s", "ms", "share", "m/s2", "m/s": as written in results.
std::string unitName(Unit unit);

struct MeasureDef;

/// Which measure: a row of the table, not its name. Made from a name by named(); equal ids are the same row.
class MeasureId {
  public:
    constexpr MeasureId() = default;
    constexpr explicit MeasureId(const MeasureDef* row) : m_row(row) {}
    /// No measure for names Zevo does not know.
    static MeasureId named(std::string_view name);

    explicit operator bool() const { return m_row != nullptr; }
    const MeasureDef& operator*() const { return *m_row; }
    const MeasureDef* operator->() const { return m_row; }
    /// As written in results; empty for no measure.
    std::string name() const;
    /// In the table's order, which is the order of display; no measure comes first.
    friend std::strong_ordering operator<=>(MeasureId a, MeasureId b) {
        return std::compare_three_way{}(a.m_row, b.m_row);
    }
    friend bool operator==(MeasureId, MeasureId) = default;

  private:
    const MeasureDef* m_row = nullptr;
};

struct Measurement {
    MeasureId measure;
    double value = 0;
    double pm90 = 0;        ///< half width of the 90 % interval, same unit
    double confidence = 0;  ///< 0…1: were the points it really reads seen, in a view where it is valid
    double atS = 0;         ///< the moment it was read from
    bool second = false;    ///< read in the second clip of the set; atS is that clip's time
    /// What the network had it at, where the coach moved a point it reads; then it is corrected.
    std::optional<double> withoutManual{};

    bool operator==(const Measurement&) const = default;
};

/// Everything a measure may look at: one view of a set, one repetition.
struct MeasureInput {
    const Track& track;
    const Series& series;
    const FrontSeries* front = nullptr;  ///< in front, rear and foot-end views
    const Rep& rep;
    const Rep* next = nullptr;  ///< the repetition after, if any
    double levelDoubtDeg = 0;   ///< levelDoubt() of the view
    const Movement& movement;
    const BalanceModel* balance = nullptr;  ///< of this client, where one can be made
    bool stoodStraight = false;             ///< the knees at rest are known to be straight
    const BackLine* back = nullptr;         ///< of a side view whose outlines were read
    Shirt shirt = Shirt::NotSaid;
    bool backCovered = false;  ///< a bar or plates lie over it; plates from the floor stand before the shins too
    const MarkLines* marks = nullptr;  ///< points the coach marked in this view
    Hands hands = Hands::Free;         ///< where they are in this variation

    /// The leg a measure is about: the working one, else the one near the camera.
    Side legSide() const { return rep.leg.value_or(track.near); }
    Landmark leg(Landmark left) const { return ofSide(left, legSide()); }
    Landmark otherLeg(Landmark left) const { return ofSide(left, otherSide(legSide())); }
    const LegSeries& legSeries() const { return series.legs[static_cast<std::size_t>(legSide())]; }
    const LegSeries& otherLegSeries() const { return series.legs[static_cast<std::size_t>(otherSide(legSide()))]; }
    /// Samples in a stretch of time, rounded up: windows are as long at 60 frames a second as at 30.
    std::size_t samples(double seconds) const;
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

/// Whose a measure is: a fault by it is then that leg's. BySign: of both sides, right where it is positive.
enum class Of { Body, WorkingLeg, Left, Right, BySign };

/// Which of a pair of points: the one near the camera, of the leg that works (the near one where both do), of the other
/// leg, both, or a named side.
enum class Role { Near, Working, Other, Both, Left, Right };

/// A point a measure reads. `landmark`: the left one of the pair, or the nose.
struct PointRead {
    Landmark landmark = Landmark::Nose;
    Role role = Role::Near;
};

/// The course over time that belongs to a measure. Measures that have none of their own (tempo, order of joints) name
/// the one that shows them.
struct CourseDef {
    const char* measure = nullptr;  ///< whose course it is, an id of the table; null: the measure's own
    /// One value a sample of the view, in that measure's unit; `leg`: the one the repetition is about.
    std::vector<double> (*values)(const ViewSeries& view, Side leg) = nullptr;
    /// From the front, of a row that is read from the side as well: without values where this set's view has none.
    std::vector<double> (*fromFront)(const ViewSeries& view) = nullptr;
};

/// How one thing is drawn on the body (present/overlay.h draws them).
enum class Draw {
    Joint,          ///< segments a–b–c with the bend at b
    FromVertical,   ///< segment a→b against the vertical through a
    FromEdge,       ///< segment a→b against the band's upper edge, an inclination from level
    Against,        ///< segment c→d against the direction of a→b
    Segment,        ///< a–b
    Apart,          ///< how far b stands ahead of or behind a, level
    Rise,           ///< a above where it stood at rest
    ToeTip,         ///< a against a line up from the toe tip
    OverFoot,       ///< the mass centre over the foot, with the band along it
    OverShin,       ///< a against the shin b–c
    Across,         ///< a–b from left to right
    Level,          ///< a–b against the level
    LegOverToe,     ///< hip a, knee b, ankle c, toe d with a line up from the toe
    TrunkOverFeet,  ///< middle of the trunk over the middle of the feet
    PlumbOf,        ///< a line down from a, with b beside it
    Back,           ///< the back's outline with a straight edge on it; a–b where none was read
    Stick,          ///< a stick along head, shoulder blades and seat, with the outline under it; a–b likewise
    LoadPath,       ///< the marked load's way over the repetition, with a line up from the middle of the foot
    Tapes,          ///< a line between two marked tapes, against the level
    TapedStick,     ///< a marked stick with the marked tapes under it
    Path            ///< the way a has just come
};
struct SketchPart {
    Draw draw = Draw::Path;
    PointRead a{}, b{}, c{}, d{};
};

/// Range a value is drawn on, in the measure's unit.
struct Scale {
    double from = 0, to = 1;
};

/// One quantity read per repetition: everything there is to know about it, in one place.
struct MeasureDef {
    const char* id;     ///< as written in results and data
    const char* title;  ///< coach's words
    const char* term;   ///< the field's term
    Unit unit;
    unsigned views;  ///< ViewBits
    Of of;
    /// Its confidence is that of these points; none: it is read off marked points alone, whatever the network saw.
    std::vector<PointRead> reads;
    CourseDef course;
    std::vector<SketchPart> sketch;
    Scale scale;
    /// Nothing when it cannot be read (for example no scale).
    std::optional<Reading> (*read)(const MeasureInput& in);
    /// Of a row of one leg that has a twin of the other: what both together are called. Null: it has none.
    const char* bothLegs = nullptr;
    /// The networks see so little of it that a value within its ± of the edge tells nothing: it is shown, and no doubt
    /// is raised by it. A notice says what tells it instead.
    bool hardlySeen = false;
};

/// Every measure Zevo knows, in display order.
std::span<const MeasureDef> allMeasures();

/// The row of the other leg; no measure where there is none.
MeasureId ofOtherLeg(MeasureId measure);

/// The side a role means in a repetition; of Both the near one (ask `bothSides`).
Side sideOfRole(Role role, Side near, Side leg);
/// A landmark of a side; the nose has none.
Landmark pointOf(Landmark left, Side side);

/// Course of a measure in a view: the measure it belongs to (itself or the stand-in) and the values.
struct CurveOf {
    MeasureId measure;
    std::vector<double> values;
};
CurveOf curveOf(MeasureId measure, const ViewSeries& view, Side leg);

/// All measures of one repetition that the movement names, the view allows and the picture gives.
std::vector<Measurement> measureRep(const MeasureInput& input);

}  // namespace zevo

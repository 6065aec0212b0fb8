#include "core/series/series.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/angles.h"
#include "core/series/foot_extent.h"
#include "core/series/mass_centre.h"
#include "core/series/sinking.h"
#include "core/signal/filter.h"

namespace zevo {
namespace {

/// Brings a hinge's fold to the scale of the sinking of a squat. The trunk's lean is taken for the fold: a load hides
/// knees, hardly ever hip and shoulder.
constexpr double kDeepFoldDeg = 120;
/// Height of a standing body's mass centre, share of stature (Winter, from memory: 55–57 %).
constexpr double kMassHeight = 0.56;

LegSeries legSeries(const Track& t, Side side) {
    LegSeries s;
    const auto of = [side](Landmark left) { return ofSide(left, side); };
    for (std::size_t i = 0; i < t.size(); ++i) {
        const Vec2 &hip = t.flatAt(of(Landmark::LeftHip), i), &knee = t.flatAt(of(Landmark::LeftKnee), i),
                   &ankle = t.flatAt(of(Landmark::LeftAnkle), i), &shoulder = t.flatAt(of(Landmark::LeftShoulder), i);
        s.kneeFlexion.push_back(kneeFlexion(hip, knee, ankle));
        s.hipFlexion.push_back(hipFlexion(shoulder, hip, knee));
        s.shinAngle.push_back(shinAngle(ankle, knee));
        s.thighAngle.push_back(thighAngle(knee, hip));
    }
    return s;
}

/// Where the head's own picture tells how far it has turned, that counts and not the line from ear to nose: networks
/// draw it by hair and hood, and a head looked at from below or above by another's angle. Between such moments what the
/// two differ by goes with the depth.
void takeHeadTurns(const Track& t, double restLean, Series& s) {
    struct Told {
        std::size_t at;
        double differs, depth;
    };
    std::vector<Told> told;
    for (const auto& head : t.head) {
        const std::size_t at = t.sampleAt(head.timeS);
        if (t.headAt(at) != &head) continue;
        const double change = head.chinUpDeg + s.trunkLean[at] - restLean;
        told.push_back({at, wrapDegrees(change - s.neckChange[at]), s.depth[at]});
    }
    if (told.empty()) return;
    constexpr double kRest = 0.02;  // of the depth: where the client stands, nothing is divided by it
    std::size_t k = 0;
    for (std::size_t i = 0; i < t.size(); ++i) {
        while (k + 1 < told.size() && told[k + 1].at + told[k].at <= 2 * i) ++k;
        const double share = std::clamp((s.depth[i] + kRest) / std::max(kRest, told[k].depth + kRest), 0.0, 1.0);
        s.neckChange[i] = wrapDegrees(s.neckChange[i] + share * told[k].differs);
    }
}

}  // namespace

double headAgainstTrunk(const Vec2& hip, const Vec2& shoulder, const Vec2& ear, const Vec2& face) {
    const Vec2 gaze = face - ear;
    const double up = std::atan2(gaze.y(), gaze.x()) * 57.29577951308232;
    return wrapDegrees(up + trunkLean(hip, shoulder));
}

Series computeSeries(const Track& t) {
    Series s;
    const auto hip = t.nearOf(Landmark::LeftHip), knee = t.nearOf(Landmark::LeftKnee);
    const auto shoulder = t.nearOf(Landmark::LeftShoulder), heel = t.nearOf(Landmark::LeftHeel),
               toe = t.nearOf(Landmark::LeftToe);
    const auto ear = t.nearOf(Landmark::LeftEar);
    const double cm = t.cmPerPixel > 0 ? t.cmPerPixel : std::numeric_limits<double>::quiet_NaN();
    const FootExtent foot = footExtent(t, PointSet::Flat);
    const double standingHead = headAgainstTrunk(t.standingFlatAt(hip), t.standingFlatAt(shoulder),
                                                 t.standingFlatAt(ear), t.standingFlatAt(Landmark::Nose));
    const auto sinking = sinkingOf(t, PointSet::Flat);
    const bool fromSide = t.view == ViewKind::Side || t.view == ViewKind::Oblique;  // else a fold hardly shows
    const double restLean = trunkLean(t.standingFlatAt(hip), t.standingFlatAt(shoulder));
    const double restThigh = std::max(1.0, (t.standingFlatAt(hip) - t.standingFlatAt(knee)).norm());
    for (std::size_t i = 0; i < t.size(); ++i) {
        auto at = [&](Landmark id) -> const Vec2& { return t.flatAt(id, i); };
        s.trunkLean.push_back(trunkLean(at(hip), at(shoulder)));
        // One end of a foot can only rise while the other stays down: what both do together is a shaken camera or the
        // drift of the landmarks with the client's pose, and is taken out.
        const bool heelSeen = std::isfinite(t.heelLiftPx[i]), toeSeen = std::isfinite(t.toeLiftPx[i]);
        // Where pictures were looked at and did not show it, nothing is known: the landmarks are no stand-in.
        auto unseen = [&](Landmark end) {
            return t.shoe.empty() ? at(end).y() - t.standingFlatAt(end).y() : std::numeric_limits<double>::quiet_NaN();
        };
        const double heelUp = heelSeen ? t.heelLiftPx[i] : unseen(heel);
        const double toeUp = toeSeen ? t.toeLiftPx[i] : unseen(toe);
        const bool alike = t.shoe.empty() && heelSeen == toeSeen && heelUp * toeUp > 0;
        const double together = alike ? std::copysign(std::min(std::abs(heelUp), std::abs(toeUp)), heelUp) : 0.0;
        s.heelFollowed.push_back(heelSeen);
        s.toeFollowed.push_back(toeSeen);
        s.heelRise.push_back((heelUp - together) * cm);
        s.toeRise.push_back((toeUp - together) * cm);
        s.kneePastToe.push_back((at(knee).x() - foot.toe) * cm);
        s.massOverFoot.push_back((massCentre(t, i, PointSet::Flat).x() - foot.heel) / std::max(1.0, foot.length()));
        s.neckChange.push_back(
            wrapDegrees(headAgainstTrunk(at(hip), at(shoulder), at(ear), at(Landmark::Nose)) - standingHead));
        switch (fromSide ? t.drive : Drive::Sinking) {
            case Drive::Sinking: s.depth.push_back(t.drive == Drive::HipRise ? -sinking[i] : sinking[i]); break;
            case Drive::Folding: s.depth.push_back((s.trunkLean.back() - restLean) / kDeepFoldDeg); break;
            case Drive::HipRise: s.depth.push_back((at(hip).y() - t.standingFlatAt(hip).y()) / restThigh); break;
        }
    }
    if (fromSide && t.family != Family::Bridge) takeHeadTurns(t, restLean, s);
    for (Side side : {Side::Left, Side::Right}) s.legs[static_cast<std::size_t>(side)] = legSeries(t, side);
    const LegSeries& near = s.legs[static_cast<std::size_t>(t.near)];
    s.kneeFlexion = near.kneeFlexion, s.hipFlexion = near.hipFlexion;
    s.shinAngle = near.shinAngle, s.thighAngle = near.thighAngle;
    return s;
}

double levelDoubt(const Track& t, const Series& s) {
    if (t.hold || t.family == Family::Bridge || t.view != ViewKind::Side) return 0;
    constexpr double kUsual = 0.33, kOpenDeg = 2.6, kNotStandingDeg = 9;
    std::vector<double> atRest;
    for (std::size_t i = 0; i < t.size(); ++i)
        if (std::abs(s.depth[i]) < 0.03 && t.observed[i]) atRest.push_back(s.massOverFoot[i]);
    if (atRest.empty()) return 0;
    const double foot = footExtent(t, PointSet::Flat).length(), height = kMassHeight * t.bodyPx;
    const double seems = std::atan2((median(atRest) - kUsual) * foot, std::max(1.0, height)) * 57.29577951308232;
    if (std::abs(seems) > kNotStandingDeg) return 0;
    return std::max(0.0, std::abs(seems) - kOpenDeg);
}

}  // namespace zevo

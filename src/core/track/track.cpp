#include "core/track/track.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

#include "core/base/calibration.h"
#include "core/base/degrees.h"
#include "core/body/anthropometry.h"
#include "core/signal/filter.h"
#include "core/track/body_size.h"
#include "core/track/facing.h"
#include "core/track/foot_lift.h"
#include "core/track/perspective.h"
#include "core/track/second_estimates.h"
#include "core/track/view_estimate.h"

namespace zevo {
namespace {

constexpr double kNaN = std::numeric_limits<double>::quiet_NaN();
constexpr double kBridgeableGapS = 0.30;
constexpr double kMinTrackedShare = 0.5;
/// Frames further apart do not belong to one set: their stamps are wrong, or the clip was put together from several. An
/// even grid over hours of nothing would fill the memory.
constexpr double kLongestGapS = 60;
/// Below this share of the longer picture side the network finds people only now and then (measured).
constexpr double kMinPersonShare = 0.23;
/// Both feet higher than usual by this share of the body: a jump.
constexpr double kInTheAir = 0.035;
constexpr float kMinPresence = 0.3F;
/// A length told over fewer pixels than this says more of the hand than of the scale.
constexpr double kShortestToldPx = 20;
/// A phone leant against a bag is level within about this (common practice, no source), degrees.
constexpr double kLevelError = calibrated("level");
constexpr double kOutlierHalfS = 0.1;  // half of the window a point is compared with

std::size_t index(Landmark id) {
    return static_cast<std::size_t>(id);
}

void estimateView(const PoseFrames& frames, Track& track) {
    const SeenView seen = seenView(frames);
    track.view = seen.view;
    track.towardsDeg = seen.towardsDeg;
    track.facesRight = seen.facesRight;
    track.near = seen.near();
}

std::vector<double> uniformTimes(const PoseFrames& frames, double rate) {
    std::vector<double> out;
    const double end = frames.back().timeS + 1e-9;
    for (long i = 0; frames.front().timeS + static_cast<double>(i) / rate <= end; ++i)
        out.push_back(frames.front().timeS + static_cast<double>(i) / rate);
    return out;
}

/// The longest run of frames, in seconds, without such a gap.
std::span<const PoseFrame> longestRun(std::span<const PoseFrame> frames) {
    std::span<const PoseFrame> best;
    auto lengthOf = [](auto run) { return run.empty() ? -1.0 : run.back().timeS - run.front().timeS; };
    for (std::size_t from = 0, i = 1; i <= frames.size(); ++i) {
        if (i < frames.size() && std::abs(frames[i].timeS - frames[i - 1].timeS) <= kLongestGapS) continue;
        if (const auto run = frames.subspan(from, i - from); lengthOf(run) > lengthOf(best)) best = run;
        from = i;
    }
    return best;
}

void cleanLandmark(const PoseFrames& frames, std::span<const double> frameTimes, std::size_t id, double personPx,
                   Track& track) {
    std::vector<double> x, y, seen;
    for (const auto& f : frames) {
        const bool usable = f.found && f.points[id].presence >= kMinPresence && std::isfinite(f.points[id].x) &&
                            std::isfinite(f.points[id].y);
        x.push_back(usable ? f.points[id].x : kNaN);
        y.push_back(usable ? f.points[id].y : kNaN);
        seen.push_back(usable ? f.points[id].visibility : 0.0);
    }
    // A point may not jump by more than about a hand's width against its neighbours in time.
    const double floor = 0.008 * personPx;
    // The window is a stretch of time: at 60 frames a second it holds twice the frames.
    const int half = std::max(2, static_cast<int>(std::ceil(kOutlierHalfS * track.rate - 1e-6)));
    const auto cleanX = dropOutliers(x, half, 4.0, floor), cleanY = dropOutliers(y, half, 4.0, floor);
    for (std::size_t i = 0; i < x.size(); ++i)
        if (std::isnan(cleanX[i]) || std::isnan(cleanY[i])) x[i] = y[i] = kNaN;
    const auto ux = fillNearest(resample(frameTimes, x, track.timesS, kBridgeableGapS));
    const auto uy = fillNearest(resample(frameTimes, y, track.timesS, kBridgeableGapS));
    const auto us = resample(frameTimes, seen, track.timesS, 1.0);
    const auto sx = smooth(ux, track.rate), sy = smooth(uy, track.rate);
    double residual = 0;
    auto& points = track.points[id];
    for (std::size_t i = 0; i < sx.size(); ++i) {
        residual += (ux[i] - sx[i]) * (ux[i] - sx[i]) + (uy[i] - sy[i]) * (uy[i] - sy[i]);
        points.push_back(track.fromPicture(Vec2(sx[i], sy[i])));
        track.seen[id].push_back(static_cast<float>(std::isnan(us[i]) ? 0 : us[i]));
    }
    // What the filter took away lies above its cut-off; white noise leaves the share 6 Hz / (rate / 2) below it.
    const double removed = std::sqrt(residual / std::max<double>(1, 2.0 * static_cast<double>(sx.size())));
    const double passed = std::min(0.9, 6.0 / (track.rate / 2));
    track.noisePx[id] = removed * std::sqrt(passed / (1 - passed));
}

Vec2 middleOf(const std::vector<Vec2>& points, const std::vector<std::size_t>& samples) {
    std::vector<double> x, y;
    for (auto i : samples) {
        x.push_back(points[i].x());
        y.push_back(points[i].y());
    }
    return {median(x), median(y)};
}

/// Where the coach says that the client was at rest, and what is less than a tenth of a second from it.
std::vector<std::size_t> standingAt(double atS, Track& track) {
    constexpr double kAboutS = 0.1;
    std::vector<std::size_t> samples;
    for (std::size_t i = track.sampleAt(atS - kAboutS); i <= track.sampleAt(atS + kAboutS); ++i) samples.push_back(i);
    track.standingSamples = samples.size();
    for (std::size_t id = 0; id < kLandmarkCount; ++id) track.standing[id] = middleOf(track.points[id], samples);
    return samples;
}

/// At rest: what the movement lowers within the top of its range (what it lifts, within the bottom), hardly moving.
/// Never in the air: the top of a jump is high and slow, too.
std::vector<std::size_t> findStanding(Track& track, double personPx) {
    const std::size_t n = track.size();
    std::vector<double> lowestFoot(n, 1e9);
    for (std::size_t i = 0; i < n; ++i)
        for (Landmark id : {Landmark::LeftHeel, Landmark::RightHeel, Landmark::LeftToe, Landmark::RightToe})
            lowestFoot[i] = std::min(lowestFoot[i], track.at(id, i).y());
    const double floor = quantile(lowestFoot, 0.1);
    std::vector<bool> usable(n);
    for (std::size_t i = 0; i < n; ++i) usable[i] = track.observed[i] && lowestFoot[i] < floor + kInTheAir * personPx;
    const bool folds = track.drive == Drive::Folding, lifts = track.drive == Drive::HipRise;
    const Landmark left = folds ? Landmark::LeftShoulder : Landmark::LeftHip,
                   right = folds ? Landmark::RightShoulder : Landmark::RightHip;
    std::vector<double> height(n);
    for (std::size_t i = 0; i < n; ++i)
        height[i] = (lifts ? -0.5 : 0.5) * (track.at(left, i).y() + track.at(right, i).y());
    std::vector<double> grounded;
    for (std::size_t i = 0; i < n; ++i)
        if (usable[i]) grounded.push_back(height[i]);
    const double high = quantile(grounded, 0.97), low = quantile(grounded, 0.03);
    const auto speed = derivative(height, track.rate);
    const double near = std::max(0.04 * (high - low), 2.0);
    std::vector<std::size_t> samples;
    for (double slack : {1.0, 2.0, 4.0, 1e9}) {
        samples.clear();
        for (std::size_t i = 0; i < n; ++i)
            if (usable[i] && height[i] > high - near * slack && std::abs(speed[i]) < 0.25 * (high - low + 1) * slack)
                samples.push_back(i);
        if (samples.size() >= 5) break;
    }
    track.standingSamples = samples.size();
    for (std::size_t id = 0; id < kLandmarkCount; ++id) track.standing[id] = middleOf(track.points[id], samples);
    return samples;
}

}  // namespace

std::string viewName(ViewKind kind) {
    switch (kind) {
        case ViewKind::Front: return "front";
        case ViewKind::Rear: return "rear";
        case ViewKind::Oblique: return "oblique";
        case ViewKind::FootEnd: return "foot-end";
        case ViewKind::Side: break;
    }
    return "side";
}

std::string sideName(Side side) {
    return side == Side::Left ? "left" : "right";
}

namespace {

/// From the track's frame to the upright picture: radians, anticlockwise.
double turnOf(const Track& t) {
    return t.hold ? (t.facesRight ? 1 : -1) * t.hold->rollDeg * kRadiansPerDegree : 0;
}

}  // namespace

Landmark Track::nearOf(Landmark left) const {
    return ofSide(left, near);
}

bool Track::sideSwapFixedWithin(std::size_t from, std::size_t to) const {
    return std::any_of(sideSwapFixesS.begin(), sideSwapFixesS.end(),
                       [&](double t) { return t >= timesS[from] && t <= timesS[to]; });
}

Vec2 Track::toPicture(const Vec2& p) const {
    const Vec2 middle(pictureWidth / 2.0, pictureHeight / 2.0);
    const Vec2 turned = middle + Eigen::Rotation2Dd(turnOf(*this)) * (p - middle);
    return {facesRight ? turned.x() : pictureWidth - turned.x(), pictureHeight - turned.y()};
}

Vec2 Track::fromPicture(const Vec2& p) const {
    const Vec2 middle(pictureWidth / 2.0, pictureHeight / 2.0);
    const Vec2 upright(facesRight ? p.x() : pictureWidth - p.x(), pictureHeight - p.y());
    return middle + Eigen::Rotation2Dd(-turnOf(*this)) * (upright - middle);
}

double Track::levelPm90() const {
    return hold ? hold->rollPm90 : kLevelError;
}

std::size_t Track::sampleAt(double timeS) const {
    if (timesS.empty()) return 0;
    const double at = std::round((timeS - timesS.front()) * rate);
    return static_cast<std::size_t>(std::clamp(at, 0.0, static_cast<double>(timesS.size() - 1)));
}

namespace {

double reachOf(const ManualPoint& m, const Track& track) {
    return std::max(m.reachS, 0.5 / track.rate);
}

/// How much of a correction a sample gets, 0…1.
double correctionWeight(const ManualPoint& m, const Track& track, std::size_t sample) {
    const double far =
        std::min(1.0, std::abs(track.timesS[sample] - track.timesS[track.sampleAt(m.atS)]) / reachOf(m, track));
    return 0.5 * (1 + std::cos(std::numbers::pi * far));
}

/// Spreads a correction over time: the whole difference at its moment, half of it half way to the end of its reach.
void movePoint(const ManualPoint& m, Track& track) {
    auto& points = track.points[index(m.landmark)];
    if (points.empty()) return;
    const std::size_t at = track.sampleAt(m.atS);
    const Vec2 wanted = track.fromPicture(Vec2(m.x, m.y));
    const Vec2 difference = wanted - points[at];
    const double reach = reachOf(m, track);
    for (std::size_t i = track.sampleAt(m.atS - reach); i <= track.sampleAt(m.atS + reach); ++i) {
        points[i] += correctionWeight(m, track, i) * difference;
    }
}

}  // namespace

bool Track::isManual(Landmark id, std::size_t sample) const {
    return std::any_of(manualPoints.begin(), manualPoints.end(), [&](const ManualPoint& m) {
        return m.landmark == id && std::abs(timesS[sample] - m.atS) <= kPlacedS;
    });
}

bool Track::isNearManual(Landmark id, std::size_t sample) const {
    return std::any_of(manualPoints.begin(), manualPoints.end(), [&](const ManualPoint& m) {
        return m.landmark == id && std::abs(timesS[sample] - m.atS) < m.reachS;
    });
}

const Track::HeadMoment* Track::headAt(std::size_t sample) const {
    // The pictures of heads are kept ten a second; one of them lies this near to every moment.
    constexpr double kNearS = 0.12;
    const auto best = std::min_element(head.begin(), head.end(), [&](const HeadMoment& a, const HeadMoment& b) {
        return std::abs(a.timeS - timesS[sample]) < std::abs(b.timeS - timesS[sample]);
    });
    if (best == head.end() || std::abs(best->timeS - timesS[sample]) > kNearS) return nullptr;
    const bool byHand = isNearManual(nearOf(Landmark::LeftEar), sample) || isNearManual(Landmark::Nose, sample);
    const bool sure = best->likeness >= calibrated("head.likeness") && best->apartDeg <= calibrated("head.apart");
    return sure && !byHand ? &*best : nullptr;
}

Result<CleanedPoses> cleanPoses(const PoseFrames& all, int pictureWidth, int pictureHeight,
                                const std::optional<CameraHold>& hold) {
    const auto run = longestRun(all);
    const PoseFrames part = run.size() < all.size() ? PoseFrames(run.begin(), run.end()) : PoseFrames();
    const PoseFrames& frames = part.empty() ? all : part;
    const auto found = std::count_if(frames.begin(), frames.end(), [](const auto& f) { return f.found; });
    if (frames.size() < 2 || found == 0) return refusal(NoticeKind::NobodyFound);
    CleanedPoses out;
    Track& track = out.track;
    track.pictureWidth = pictureWidth;
    track.pictureHeight = pictureHeight;
    if (hold && hold->rollPm90 <= kLevelError) track.hold = hold;
    track.trackedShare = static_cast<double>(found) / static_cast<double>(frames.size());

    std::vector<double> heights, steps, frameTimes;
    for (std::size_t i = 0; i < frames.size(); ++i) {
        frameTimes.push_back(frames[i].timeS);
        if (frames[i].found) heights.push_back(extentOf(frames[i]));
        if (i > 0) steps.push_back(frames[i].timeS - frames[i - 1].timeS);
    }
    out.personPx = quantile(heights, 0.8);
    if (out.personPx < kMinPersonShare * std::max(pictureWidth, pictureHeight)) return refusal(NoticeKind::TooSmall);
    if (track.trackedShare < kMinTrackedShare)
        return refusal(NoticeKind::SeenTooLittle, {std::round(100 * track.trackedShare)});

    track.rate = std::clamp(1.0 / std::max(1e-3, median(steps)), 15.0, 120.0);
    track.timesS = uniformTimes(frames, track.rate);
    estimateView(frames, track);

    const auto faced = isFrontal(track.view) ? facingOneWay(frames) : std::nullopt;
    const PoseFrames& seen = faced ? faced->frames : frames;
    if (faced) track.sideSwapFixesS = faced->mendedS;
    std::vector<double> foundFlag;
    for (const auto& f : seen) foundFlag.push_back(f.found ? 1.0 : kNaN);
    for (double v : resample(frameTimes, foundFlag, track.timesS, kBridgeableGapS))
        track.observed.push_back(!std::isnan(v));
    for (std::size_t id = 0; id < kLandmarkCount; ++id) cleanLandmark(seen, frameTimes, id, out.personPx, track);
    out.depths = depthsOf(seen, frameTimes, track);
    return out;
}

Result<Track> finishTrack(const CleanedPoses& cleaned, const PoseFrames& frames, const Context& context,
                          const Corrections& corrections, std::span<const SecondEstimate> secondEstimates) {
    Track track = cleaned.track;
    if (context.view == "side") track.view = ViewKind::Side;
    if (context.view == "front") track.view = ViewKind::Front;
    if (context.view == "rear") track.view = ViewKind::Rear;
    if (context.view == "oblique") track.view = ViewKind::Oblique;
    // Who lies and is filmed along the body shows their feet first.
    if (context.view == "foot-end" || (context.family == Family::Bridge && isFrontal(track.view)))
        track.view = ViewKind::FootEnd;
    if (!secondEstimatesHelp(context.family, track.view)) secondEstimates = {};
    if (!secondEstimates.empty() && secondEstimatesMove(context.family, track.view)) {
        auto followed = finishTrack(cleaned, frames, context, corrections, {});
        if (!followed) return followed.error();
        track.asFollowed = std::make_shared<const Track>(std::move(*followed));
    }
    applySecondEstimates(secondEstimates, context.family, track);
    for (const ManualPoint& m : corrections.moved) movePoint(m, track);
    track.manualPoints = corrections.moved;
    track.family = context.family;
    track.drive = context.drive;
    const auto standing =
        corrections.standingAtS ? standingAt(*corrections.standingAtS, track) : findStanding(track, cleaned.personPx);
    measureFootLift(frames, standing, track);
    for (const auto& f : frames)
        if (f.head.read)
            track.head.push_back(
                {f.timeS, track.facesRight ? -f.head.turnDeg : f.head.turnDeg, f.head.likeness, f.head.apartDeg});
    const Landmark heel = track.nearOf(Landmark::LeftHeel), toe = track.nearOf(Landmark::LeftToe);
    track.floorY = std::min(track.standingAt(heel).y(), track.standingAt(toe).y());
    const double bodyPx = bodySize(track.standing, track.near, track.family, track.view).px;
    undoPerspective(cleaned.depths, bodyPx, assumedFocalPx(track.pictureWidth, track.pictureHeight), track);
    for (std::size_t id = 0; id < kLandmarkCount; ++id) track.standingFlat[id] = middleOf(track.flat[id], standing);
    track.floorY = std::min(track.standingFlatAt(heel).y(), track.standingFlatAt(toe).y());
    const BodySize size = bodySize(track.standingFlat, track.near, track.family, track.view);
    track.bodyPx = size.px, track.sizeContradictedBy = size.contradictedBy;
    if (context.statureCm > 0 && size.px > 20) track.cmPerPixel = context.statureCm / size.px;
    if (const auto& told = corrections.length) {
        const double px = std::hypot(told->x2 - told->x1, told->y2 - told->y1);
        if (px > kShortestToldPx && told->cm > 0) {
            const double byStature = track.cmPerPixel;
            track.cmPerPixel = told->cm / px, track.scaleCalibrated = true;
            if (byStature > 0 && size.contradictedBy == 0) track.toldAgainstStature = track.cmPerPixel / byStature - 1;
        }
    }
    return track;
}

Result<Track> buildTrack(const PoseFrames& frames, int pictureWidth, int pictureHeight, const Context& context,
                         std::span<const SecondEstimate> secondEstimates, const std::optional<CameraHold>& hold) {
    const auto cleaned = cleanPoses(frames, pictureWidth, pictureHeight, hold);
    if (!cleaned) return cleaned.error();
    return finishTrack(*cleaned, frames, context, {}, secondEstimates);
}

}  // namespace zevo

#pragma once

#include <array>
#include <cmath>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/base/vectors.h"
#include "core/body/landmarks.h"
#include "core/body/movement.h"
#include "core/body/second_estimate.h"
#include "core/track/room_lines.h"

namespace zevo {

enum class ViewKind { Side, Front, Rear, Oblique, FootEnd };
enum class Side { Left, Right };

std::string viewName(ViewKind kind);
/// From the front or from behind.
inline bool isFrontal(ViewKind kind) {
    return kind == ViewKind::Front || kind == ViewKind::Rear;
}
std::string sideName(Side side);
inline Side otherSide(Side side) {
    return side == Side::Left ? Side::Right : Side::Left;
}
/// The landmark of a side: pass the left one of a pair.
inline Landmark ofSide(Landmark left, Side side) {
    return side == Side::Left ? left : static_cast<Landmark>(static_cast<int>(left) + 1);
}

/// What the coach knows and the video does not tell.
struct Context {
    double statureCm = 0;           ///< 0 = unknown: lengths then stay in shares of a segment
    std::string view = "auto";      ///< auto, side, front, rear, oblique or foot-end: overrides the estimate
    Family family = Family::Squat;  ///< of the movement
    Drive drive = Drive::Sinking;   ///< of the movement
};

/// A landmark the coach put where it belongs at one moment. Neighbouring frames follow: the difference is spread over
/// `reachS` either side, falling off as a raised cosine.
struct ManualPoint {
    double atS = 0;
    Landmark landmark = Landmark::Nose;
    double x = 0, y = 0;  ///< picture pixels
    double reachS = 0.3;

    bool operator==(const ManualPoint&) const = default;
};

/// Two places in the picture, at the client's distance, and how far they truly are apart: a tape, or a known object.
struct KnownLength {
    double x1 = 0, y1 = 0, x2 = 0, y2 = 0;  ///< picture pixels
    double cm = 0;
    bool operator==(const KnownLength&) const = default;
};

/// What the coach corrects in a view before anything is read from it.
struct Corrections {
    std::vector<ManualPoint> moved;
    std::optional<double> standingAtS;  ///< when the client was at rest
    std::optional<KnownLength> length;
    bool operator==(const Corrections&) const = default;
};

/// Standard deviation of a point placed by hand, picture pixels: what a coach hits with a mouse on a picture at about
/// its own size (our choice, no source; docs/measurements.md, “Placed by hand”, says what it comes to).
inline constexpr double kHandPx = 3;
/// Readings are means over about this much either side.
inline constexpr double kPlacedS = 2.5 / 30;

/// The cleaned observation of one clip, turned so that the client faces +x and y is up: against gravity where the room
/// told how the camera is held, along the picture's edge elsewhere.
/// Positions are picture pixels; multiply by cmPerPixel for centimetres at the client's distance.
struct Track {
    double rate = 30;  ///< samples a second, uniform
    std::vector<double> timesS;
    std::array<std::vector<Vec2>, kLandmarkCount> points;  ///< cleaned
    /// The same with perspective undone (perspective.h): what angles and lengths are read from.
    std::array<std::vector<Vec2>, kLandmarkCount> flat;
    std::array<std::vector<float>, kLandmarkCount> seen;  ///< 0…1 visibility at each sample
    std::array<double, kLandmarkCount> noisePx{};         ///< standard deviation left after smoothing
    /// Rise of the near heel and toe against standing, from the followed shoe, pixels; NaN where not followed.
    std::vector<double> heelLiftPx, toeLiftPx;
    /// The near shoe as read in the picture, moment by moment; empty where no picture was looked at.
    struct ShoeMoment {
        double timeS = 0;
        ShoeReading heel, toe;
    };
    std::vector<ShoeMoment> shoe;
    /// The head's turn against standing where its picture was laid over (vision/head_turn.h), in order of time.
    struct HeadMoment {
        double timeS = 0;
        double chinUpDeg = 0;  ///< in the picture, + the face turns up
        double likeness = 0;   ///< 0…1
        double apartDeg = 0;   ///< what several ways of laying it over differ by
    };
    std::vector<HeadMoment> head;
    /// The one that tells of a sample: near it, a head for sure, and not overruled by a hand that placed ear or nose.
    const HeadMoment* headAt(std::size_t sample) const;
    /// Turning points at which two networks disagree (secondEstimates.h).
    struct Doubt {
        double timeS = 0;
        double degrees = 0;  ///< largest difference of an angle
        bool legs = false;   ///< they call the legs differently
    };
    std::vector<Doubt> doubts;
    /// When, from the front or from behind, left and right had to be told apart anew (facing.h).
    std::vector<double> sideSwapFixesS;
    bool sideSwapFixedWithin(std::size_t from, std::size_t to) const;
    /// Points the coach placed, as they are in this track.
    std::vector<ManualPoint> manualPoints;
    /// Whether the coach placed this point in this picture, or in one less than kPlacedS from it: further away the
    /// network's path between the pictures counts again.
    bool isManual(Landmark id, std::size_t sample) const;
    /// Whether any of a correction reaches it.
    bool isNearManual(Landmark id, std::size_t sample) const;
    /// The same without what other networks say of the turning points, where any was asked: a second estimate moves the
    /// pose at a turning point and its neighbours, and must not move when it was reached or left. Null: none was.
    std::shared_ptr<const Track> asFollowed;
    /// What speeds and accelerations are read from: where estimates are blended in, points seem to hurry.
    const Track& followed() const { return asFollowed ? *asFollowed : *this; }
    std::vector<bool> observed;  ///< false inside gaps too long to bridge
    double trackedShare = 0;     ///< frames in which the person was found

    ViewKind view = ViewKind::Side;
    Side near = Side::Right;  ///< the side of the client that faces the camera
    double towardsDeg = 0;    ///< off a square side view, + the client's front is turned to the camera, − away
    double offSquareDeg() const { return std::abs(towardsDeg); }
    bool facesRight = true;  ///< in the picture
    int pictureWidth = 0, pictureHeight = 0;
    std::optional<CameraHold> hold;  ///< as the points have been turned back by; nothing: the picture is taken as level

    Family family = Family::Squat;
    Drive drive = Drive::Sinking;
    double bodyPx = 0;             ///< stature in pixels at the depth of the mid-hip
    double cmPerPixel = 0;         ///< 0 when neither the stature nor a true length is known
    bool scaleCalibrated = false;  ///< the scale is from a length the coach told, not from the stature
    /// By how much what tells the client's size contradicts itself (body_size.h): then bodyPx is less sure. 0: it
    /// agrees.
    double sizeContradictedBy = 0;
    /// By how much the told length makes the client taller than their stature, a share; 0 where not both are known
    /// and agreed upon.
    double toldAgainstStature = 0;
    double floorY = 0;  ///< height of the soles at rest
    std::size_t standingSamples = 0;
    std::array<Vec2, kLandmarkCount> standing{};  ///< median position at rest: standing upright, of a bridge lying

    std::array<Vec2, kLandmarkCount> standingFlat{};  ///< of the points with perspective undone

    std::size_t size() const { return timesS.size(); }
    /// The landmark of the camera-near side: pass the left one of a pair.
    Landmark nearOf(Landmark left) const;
    const Vec2& at(Landmark id, std::size_t sample) const { return points[static_cast<std::size_t>(id)][sample]; }
    const Vec2& standingAt(Landmark id) const { return standing[static_cast<std::size_t>(id)]; }
    const Vec2& flatAt(Landmark id, std::size_t sample) const { return flat[static_cast<std::size_t>(id)][sample]; }
    const Vec2& standingFlatAt(Landmark id) const { return standingFlat[static_cast<std::size_t>(id)]; }
    /// Back to picture pixels (x right, y down) for drawing.
    Vec2 toPicture(const Vec2& p) const;
    /// A place of the picture in the track's frame.
    Vec2 fromPicture(const Vec2& p) const;
    /// How far from plumb this frame's y may be, half width of a 90 % interval, degrees.
    double levelPm90() const;
    std::size_t sampleAt(double timeS) const;
};

/// How far the points are behind the mid-hip by the network's coarse 3D estimate, in its own unit (perspective.h).
struct Depths {
    std::array<std::vector<double>, kLandmarkCount> behindHip;  ///< one a sample
    double leg = 0;                                             ///< length of the client's leg, the same unit
};

/// What cleaning makes of the poses, before anything is known of the movement: it depends on the poses alone.
struct CleanedPoses {
    Track track;  ///< clock, points, noise, view as estimated; standing pose, floor and scale are still open
    double personPx = 0;
    Depths depths;
};

/// Uniform clock, outliers dropped, short gaps bridged, zero-lag smoothing, estimated view and facing side. Errors:
/// nobody found, person too small, too little of the clip tracked.
/// `hold`: how the room says that the camera was held; taken where it is surer than what phones usually are.
Result<CleanedPoses> cleanPoses(const PoseFrames& frames, int pictureWidth, int pictureHeight,
                                const std::optional<CameraHold>& hold = {});
/// The rest: what other networks saw, points the coach moved, view, standing pose, floor, perspective and scale.
/// `frames`: the same poses.
Result<Track> finishTrack(const CleanedPoses& cleaned, const PoseFrames& frames, const Context& context,
                          const Corrections& corrections = {}, std::span<const SecondEstimate> secondEstimates = {});

/// Cleans the poses of one clip: uniform clock, outliers dropped, short gaps bridged, zero-lag smoothing,
/// then view, facing side, standing pose, floor and scale.
/// Errors (each a plain sentence): nobody found, person too small, too little of the clip tracked.
Result<Track> buildTrack(const PoseFrames& frames, int pictureWidth, int pictureHeight, const Context& context,
                         std::span<const SecondEstimate> secondEstimates = {},
                         const std::optional<CameraHold>& hold = {});

}  // namespace zevo

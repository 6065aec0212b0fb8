#include "core/live/camera_check.h"

#include <algorithm>
#include <cmath>

#include "core/base/calibration.h"
#include "core/base/degrees.h"
#include "core/body/anthropometry.h"
#include "core/signal/filter.h"
#include "core/track/view_estimate.h"

namespace zevo {
namespace {

/// Focal length ÷ picture height of a 26-mm equivalent lens at 16:9.
constexpr double kUsualFocal = 1.28;
constexpr double kUsualStatureM = 1.72;
/// Nose to heel, as a share of the stature: eye height less a little (Drillis & Contini 1966, from memory).
constexpr double kNoseHeight = 0.92;
/// Of the picture's height, ours: not far below the network finds nobody (docs/measurements.md).
constexpr double kLeastBody = calibrated("camera.least_body"), kMostBody = calibrated("camera.most_body");
constexpr double kMarginShare = 0.02;
constexpr double kMostRollDeg = calibrated("camera.roll"), kMostOffSquareDeg = calibrated("camera.off_square");
/// In statures: hips are at 0.53. Two witnesses have to say so. Their edges were put where cameras at 0.4 m and 1.8 m
/// of drawn figures are caught and those from 0.7 to 1.4 m are not (docs/measurements.md); on people nothing was
/// measured.
constexpr double kHipsHeight = 0.53;
constexpr double kLowCrossing = calibrated("camera.low_crossing"), kLowScale = calibrated("camera.low_scale"),
                 kHighCrossing = calibrated("camera.high_crossing"), kHighScale = calibrated("camera.high_scale");
constexpr double kHiddenVisibility = calibrated("camera.hidden");
constexpr double kDark = calibrated("camera.dark"), kBlurred = calibrated("camera.blurred"),
                 kFewFrames = calibrated("camera.few");

using Points = std::array<Vec2, kLandmarkCount>;

/// Median places and visibilities: nobody moves while the camera is put up.
struct Still {
    Points at;
    std::array<double, kLandmarkCount> seen{};
    Vec2 mid(Landmark left) const { return 0.5 * (of(left) + of(rightOf(left))); }
    Vec2 of(Landmark id) const { return at[static_cast<std::size_t>(id)]; }
    double seenOf(Landmark id) const { return seen[static_cast<std::size_t>(id)]; }
    static Landmark rightOf(Landmark left) { return static_cast<Landmark>(static_cast<int>(left) + 1); }
};

std::optional<Still> stillOf(std::span<const PoseFrame> recent) {
    std::array<std::vector<double>, kLandmarkCount> x, y, seen;
    std::size_t found = 0;
    for (const PoseFrame& f : recent) {
        if (!f.found) continue;
        ++found;
        for (std::size_t i = 0; i < kLandmarkCount; ++i) {
            x[i].push_back(f.points[i].x), y[i].push_back(f.points[i].y);
            seen[i].push_back(f.points[i].visibility);
        }
    }
    if (found == 0 || found * 2 < recent.size()) return std::nullopt;
    Still out;
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        out.at[i] = {median(x[i]), median(y[i])};
        out.seen[i] = median(seen[i]);
    }
    return out;
}

struct Seen {
    Still body;
    PictureFacts picture;
    CheckedMovement movement;
    ViewKind view = ViewKind::Side;
    double stature = 0;  ///< pixels
    bool nearRight = true;
    double facing = 1;  ///< side view: +1 the client faces the picture's right

    double distanceM() const { return kUsualFocal * picture.height * kUsualStatureM / stature; }
    double degrees(double pixels) const {
        return std::atan(pixels / (kUsualFocal * picture.height)) * kDegreesPerRadian;
    }
    Landmark near(Landmark left) const { return nearRight ? Still::rightOf(left) : left; }
    Landmark far(Landmark left) const { return nearRight ? left : Still::rightOf(left); }
    double hereX() const { return body.mid(Landmark::LeftHip).x(); }
};

double rollOf(const Seen& s) {
    // Feet apart one before the other are no foot to stand upright on, seen from the side.
    const bool split = s.movement.family == Family::Lunge && !s.movement.steps && s.view == ViewKind::Side;
    if (s.movement.lying || split) return 0;
    const Vec2 up = s.body.mid(Landmark::LeftShoulder) - s.body.mid(Landmark::LeftAnkle);
    return std::atan2(up.x(), -up.y()) * kDegreesPerRadian;
}

/// How far the camera stands from square, degrees; + where it has to go to its own left.
double offSquareOf(const Seen& s) {
    if (s.movement.lying || s.movement.family == Family::Lunge) return 0;  // feet and shoulders stand otherwise
    auto angle = [](double share) { return std::asin(std::clamp(share, -1.0, 1.0)) * kDegreesPerRadian; };
    if (s.view == ViewKind::Side) {
        // Breadths between the joints' own places: shoulders inside the outer ones, ankles about hip-wide.
        auto ahead = [&](Landmark left) {
            return (s.body.of(s.near(left)).x() - s.body.of(s.far(left)).x()) * s.facing / s.stature;
        };
        const double shoulders = angle(ahead(Landmark::LeftShoulder) / (0.85 * proportion::kShoulderBreadth));
        const double ankles = angle(ahead(Landmark::LeftAnkle) / proportion::kHipBreadth);
        // The one that says less: a foot set back, or a shoulder turned, is no camera that stands askew.
        const double less = std::abs(shoulders) < std::abs(ankles) ? shoulders : ankles;
        const double near = shoulders * ankles < 0 ? 0 : 0.5 * (less + 0.5 * (shoulders + ankles));
        // Near joints ahead of the far ones: it stands behind the client and has to go to where they look.
        return -near * s.facing;
    }
    if (s.view == ViewKind::Front || s.view == ViewKind::Rear) {
        auto lower = [&](Landmark left) {
            return (s.body.of(Still::rightOf(left)).y() - s.body.of(left).y()) / s.stature;
        };
        const double feet = 0.5 * (lower(Landmark::LeftAnkle) + lower(Landmark::LeftToe));
        const double twist = feet - lower(Landmark::LeftShoulder);
        // A pair w apart, turned by a: its near end is w·sin a nearer, so lower by (camera height − its height) ÷
        // distance.
        const double hips = kHipsHeight, d = s.distanceM() / kUsualStatureM;
        const double perSine = (hips * proportion::kHipBreadth +
                                (proportion::kShoulderHeight - hips) * 0.85 * proportion::kShoulderBreadth) /
                               d;
        const double turned = angle(twist / perSine);  // + : their right side is nearer
        // From the front their right is the picture's left: the camera stands too far to its left.
        const double seen = s.view == ViewKind::Front ? -turned : turned;
        // Who stands beside the middle of the picture is seen from as far round as that.
        const double x = s.hereX() - 0.5 * s.picture.width;
        return seen - std::copysign(s.degrees(std::abs(x)), x);
    }
    return 0;
}

/// What two witnesses say of the camera's height, in statures, from the side.
struct Heights {
    double crossing = 0;  ///< where near joints turn from below the far ones to above
    double scale = 0;     ///< by how far the near ankle is lower than the far one, at the distance they seem to have
    double middle() const { return 0.5 * (crossing + scale); }
};
std::optional<Heights> heightsOf(const Seen& s) {
    if (s.view != ViewKind::Side || s.movement.lying || s.movement.family == Family::Lunge) return std::nullopt;
    struct Pair {
        Landmark left;
        double height, breadth;  // in statures; breadth between the joints
    };
    static constexpr Pair kPairs[] = {
        {Landmark::LeftShoulder, proportion::kShoulderHeight, 0.85 * proportion::kShoulderBreadth},
        {Landmark::LeftHip, proportion::kHipHeight, 0.55 * proportion::kHipBreadth},
        {Landmark::LeftKnee, proportion::kKneeHeight, 0.8 * proportion::kHipBreadth},
        {Landmark::LeftAnkle, proportion::kFootHeight, proportion::kHipBreadth}};
    // near lower by k·(camera − height)·breadth: a line over the height, weighted by the breadth.
    double w = 0, wh = 0, whh = 0, wy = 0, why = 0;
    for (const Pair& p : kPairs) {
        const double lower = (s.body.of(s.near(p.left)).y() - s.body.of(s.far(p.left)).y()) / s.stature / p.breadth;
        const double weight = p.breadth * p.breadth;
        w += weight, wh += weight * p.height, whh += weight * p.height * p.height;
        wy += weight * lower, why += weight * p.height * lower;
    }
    const double slope = (w * why - wh * wy) / (w * whh - wh * wh);
    if (!(slope < -0.02)) return std::nullopt;  // near and far cannot be told apart
    const double ankles = (s.body.of(s.near(Landmark::LeftAnkle)).y() - s.body.of(s.far(Landmark::LeftAnkle)).y()) /
                          s.stature / proportion::kHipBreadth;
    return Heights{std::clamp(wh / w - wy / w / slope, 0.0, 2.0), ankles * s.distanceM() / kUsualStatureM};
}

PictureBox bodyBox(const Still& body, double stature) {
    PictureBox b{1e9, 1e9, -1e9, -1e9};
    for (const Vec2& p : body.at) {
        b.left = std::min(b.left, p.x()), b.right = std::max(b.right, p.x());
        b.top = std::min(b.top, p.y()), b.bottom = std::max(b.bottom, p.y());
    }
    b.top -= 0.06 * stature;  // the crown is above the eyes
    return b;
}

/// What the movement will need around where they stand, in statures.
PictureBox roomOf(const Seen& s, const PictureBox& body) {
    const CheckedMovement& m = s.movement;
    PictureBox r = body;
    auto widen = [&](double ahead, double behind) {
        const double x = s.hereX(), f = s.facing;
        const double front = x + f * ahead * s.stature, back = x - f * behind * s.stature;
        r.left = std::min({r.left, front, back});
        r.right = std::max({r.right, front, back});
    };
    if (m.lying) {
        if (s.view == ViewKind::Side) r.top = std::min(r.top, body.bottom - 0.36 * s.stature);
        return r;
    }
    if (m.overhead) r.top = std::min(r.top, body.bottom - 1.28 * s.stature);
    // A step towards the camera brings the foot nearer, and lower in the picture.
    if (m.steps && m.sideways == (s.view == ViewKind::Side)) r.bottom += 0.18 * s.stature;
    if (s.view != ViewKind::Side) {
        const double wide = m.sideways ? 0.75 : m.overhead ? 0.4 : 0.3;
        const double x = s.hereX();
        r.left = std::min(r.left, x - wide * s.stature), r.right = std::max(r.right, x + wide * s.stature);
        return r;
    }
    switch (m.family) {
        case Family::Squat: widen(m.armsReach ? 0.52 : 0.3, 0.3); break;
        case Family::Hinge: widen(0.42, 0.32); break;
        case Family::Lunge:
            if (m.travels)
                widen(1.3, 0.4);
            else if (m.steps && !m.sideways)
                widen(0.72, 0.72);
            else
                widen(0.35, 0.35);
            break;
        case Family::Bridge: break;
    }
    return r;
}

void checkFraming(const Seen& s, CameraCheck& out) {
    const double w = s.picture.width, h = s.picture.height;
    const double margin = kMarginShare * h;
    PictureBox r = out.room;
    // Whether the step goes towards the camera or away is not known: a toe's worth of what it may need is let pass.
    if (r.bottom > out.body.bottom) r.bottom = std::max(out.body.bottom, r.bottom - 0.06 * s.stature);
    auto say = [&](CameraProblem problem, CameraMove move, double amount) {
        out.problems.push_back({problem, move, amount});
    };
    const double needed = std::max((r.width() + 2 * margin) / w, (r.height() + 2 * margin) / h);
    const double size = s.movement.lying ? r.width() / w : out.body.height() / h;
    if (needed > 1 || size > kMostBody) {
        const double grow = std::max(needed, size / kMostBody);
        return say(CameraProblem::TooNear, CameraMove::Back, std::max(0.3, s.distanceM() * (grow * 1.03 - 1)));
    }
    const double left = margin - r.left, right = r.right - (w - margin);
    const double top = margin - r.top, bottom = r.bottom - (h - margin);
    const double most = std::max({left, right, top, bottom});
    if (most > 0) {
        // To the middle of the room that is there, so that one move is enough.
        const double x = 0.5 * (r.left + r.right) - w / 2, y = 0.5 * (r.top + r.bottom) - h / 2;
        const double ax = s.degrees(std::abs(x)), ay = s.degrees(std::abs(y));
        if (most == left) return say(CameraProblem::CutOff, CameraMove::AimLeft, std::max(1.0, ax));
        if (most == right) return say(CameraProblem::CutOff, CameraMove::AimRight, std::max(1.0, ax));
        if (most == top) return say(CameraProblem::CutOff, CameraMove::AimUp, std::max(1.0, ay));
        return say(CameraProblem::CutOff, CameraMove::AimDown, std::max(1.0, ay));
    }
    if (!s.movement.lying && size < kLeastBody) {
        const double wanted = std::min(0.62 * h / out.body.height(), 0.97 / needed);
        say(CameraProblem::TooFar, CameraMove::Nearer, std::max(0.3, s.distanceM() * (1 - 1 / wanted)));
    }
}

void checkStanding(const Seen& s, CameraCheck& out) {
    if (std::abs(out.rollDeg) > kMostRollDeg)
        // A body that leans to the right in the picture: the camera is turned against the clock.
        out.problems.push_back({CameraProblem::Rolled, out.rollDeg > 0 ? CameraMove::LevelRight : CameraMove::LevelLeft,
                                std::abs(out.rollDeg)});
    if (s.view == ViewKind::Oblique)
        out.problems.push_back({CameraProblem::OffSquare, CameraMove::None, 0});
    else if (std::abs(out.offSquareDeg) > kMostOffSquareDeg)
        out.problems.push_back({CameraProblem::OffSquare,
                                out.offSquareDeg > 0 ? CameraMove::WalkLeft : CameraMove::WalkRight,
                                std::abs(out.offSquareDeg)});
    if (const auto h = heightsOf(s)) {
        out.heightShare = h->middle();
        const double off = std::max(0.1, std::abs(h->middle() - kHipsHeight) * kUsualStatureM);
        if (h->crossing < kLowCrossing && h->scale < kLowScale)
            out.problems.push_back({CameraProblem::TooLow, CameraMove::Up, off});
        if (h->crossing > kHighCrossing && h->scale > kHighScale)
            out.problems.push_back({CameraProblem::TooHigh, CameraMove::Down, off});
    }
    const bool side = s.view == ViewKind::Side;
    auto hidden = [&](Landmark left) {
        const double near = s.body.seenOf(s.near(left));
        return (side ? near : std::min(near, s.body.seenOf(s.far(left)))) < (side ? kHiddenVisibility : 0.93);
    };
    if (hidden(Landmark::LeftKnee) || hidden(Landmark::LeftAnkle))
        out.problems.push_back({CameraProblem::ShinHidden, CameraMove::None, 0});
}

}  // namespace

CheckedMovement checkedMovement(const Movement& m, const std::string& variation) {
    CheckedMovement out;
    out.family = m.family;
    out.steps = m.steps, out.sideways = m.sideways, out.travels = m.travels;
    const LoadPlace place = m.loadPlace(variation);
    out.overhead = place == LoadPlace::Overhead || m.hands(variation) == Hands::Overhead;
    out.armsReach = place == LoadPlace::None;
    out.lying = m.family == Family::Bridge;
    return out;
}

CameraCheck checkCamera(std::span<const PoseFrame> recent, const PictureFacts& picture,
                        const CheckedMovement& movement) {
    CameraCheck out;
    const auto body = stillOf(recent);
    if (!body) {
        out.problems.push_back({CameraProblem::Nobody, CameraMove::None, 0});
        return out;
    }
    Seen s{*body, picture, movement};
    const SeenView seen = seenView(recent);
    s.view = seen.view;
    if (movement.lying) s.view = seen.offSquareDeg() < 45 ? ViewKind::Side : ViewKind::FootEnd;
    out.view = s.view;
    const Vec2 nose = body->of(Landmark::Nose), hips = body->mid(Landmark::LeftHip);
    const Vec2 shoulders = body->mid(Landmark::LeftShoulder), heels = body->mid(Landmark::LeftHeel);
    // Lying with bent knees: trunk and head, which keep their length.
    s.stature = movement.lying ? (nose - hips).norm() / (kNoseHeight - proportion::kHipHeight)
                               : std::hypot(nose.x() - heels.x(), nose.y() - heels.y()) / kNoseHeight;
    if (!(s.stature > 10)) {
        out.problems.push_back({CameraProblem::Nobody, CameraMove::None, 0});
        return out;
    }
    const bool facesRight = movement.lying ? hips.x() >= shoulders.x() : seen.facesRight;
    s.facing = facesRight ? 1 : -1;
    s.nearRight = movement.lying ? body->seenOf(Landmark::RightKnee) >= body->seenOf(Landmark::LeftKnee)
                                 : seen.near() == Side::Right;
    out.body = bodyBox(*body, s.stature);
    out.room = roomOf(s, out.body);
    out.rollDeg = rollOf(s);
    out.offSquareDeg = offSquareOf(s);
    checkFraming(s, out);
    if (!movement.lying) checkStanding(s, out);
    auto say = [&](CameraProblem problem) { out.problems.push_back({problem, CameraMove::None, 0}); };
    if (picture.people > 1) say(CameraProblem::SomebodyElse);
    if (picture.brightness < kDark) say(CameraProblem::Dark);
    if (picture.sharpness < kBlurred) say(CameraProblem::Blurred);
    if (picture.frameRate < kFewFrames * picture.promisedRate || picture.frameRate < 20) say(CameraProblem::FewFrames);
    std::stable_sort(out.problems.begin(), out.problems.end(),
                     [](const CameraAdvice& a, const CameraAdvice& b) { return a.problem < b.problem; });
    return out;
}

}  // namespace zevo

#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <vector>

namespace zevo {

/// The 33 body points every pose estimator delivers, in the order of the network's output.
/// Left and right are the client's own.
enum class Landmark : int {
    Nose,
    LeftEyeInner,
    LeftEye,
    LeftEyeOuter,
    RightEyeInner,
    RightEye,
    RightEyeOuter,
    LeftEar,
    RightEar,
    MouthLeft,
    MouthRight,
    LeftShoulder,
    RightShoulder,
    LeftElbow,
    RightElbow,
    LeftWrist,
    RightWrist,
    LeftPinky,
    RightPinky,
    LeftIndex,
    RightIndex,
    LeftThumb,
    RightThumb,
    LeftHip,
    RightHip,
    LeftKnee,
    RightKnee,
    LeftAnkle,
    RightAnkle,
    LeftHeel,
    RightHeel,
    LeftToe,
    RightToe,
};

inline constexpr std::size_t kLandmarkCount = 33;

/// One observed body point. Picture coordinates: pixels, x right, y down, continuous (the centre of
/// pixel i is i + 0.5), in the upright picture (rotation and pixel aspect already undone).
struct LandmarkPoint {
    float x = 0;
    float y = 0;
    float visibility = 0;  ///< 0..1: the point is not hidden
    float presence = 0;    ///< 0..1: the point lies inside the picture
};

/// A place on a shoe as older versions followed it from frame to frame; records hold it still (track/foot_lift.h).
struct FootPoint {
    float x = 0, y = 0;
    float score = 0;  ///< how well it was found again, 0 = not followed
    int stretch = 0;  ///< places are comparable only within one stretch
};

/// Left heel, right heel, left toe, right toe.
inline constexpr std::size_t kFootPointCount = 4;

/// How far one end of a shoe has risen since the moment before the repetition, as found in the picture
/// (vision/turned_strip.h).
struct ShoeReading {
    enum class State : std::uint8_t {
        NotLooked,  ///< no picture was looked at
        Unclear,    ///< looked at, and not to be told
        Read
    } state = State::NotLooked;
    float rise = 0;      ///< pixels of the picture
    float half = 0;      ///< how far from it other rises fit almost as well, pixels
    float apart = 0;     ///< between the two strips that were looked for, pixels
    float likeness = 0;  ///< how well it was found, as a share of how well a standing shoe finds itself
};

/// How far the head has turned since the client stood before the repetitions, by its own picture laid over
/// (vision/head_turn.h).
struct HeadReading {
    bool read = false;
    float turnDeg = 0;   ///< clockwise in the picture
    float likeness = 0;  ///< correlation of the two heads
    float apartDeg = 0;  ///< what several ways of laying them over differ by
};

/// What an estimator saw in one frame.
struct PoseFrame {
    double timeS = 0;    ///< presentation time in the clip
    bool found = false;  ///< false: nobody; the points are then meaningless
    float score = 0;     ///< 0..1: how sure the network is that a person is there
    std::array<LandmarkPoint, kLandmarkCount> points{};
    /// Metric 3D estimate, hip-centred (x right, y down, z away from the camera is +). Good enough to
    /// tell which way a person faces; too biased to measure joint angles on.
    std::array<std::array<float, 3>, kLandmarkCount> world{};

    std::array<FootPoint, kFootPointCount> feet{};
    std::array<ShoeReading, kFootPointCount> shoes{};
    HeadReading head;

    const LandmarkPoint& at(Landmark id) const { return points[static_cast<std::size_t>(id)]; }
    LandmarkPoint& at(Landmark id) { return points[static_cast<std::size_t>(id)]; }
};

using PoseFrames = std::vector<PoseFrame>;

/// How large the person is in the picture: the diagonal of the box around all points, pixels.
inline double extentOf(const PoseFrame& pose) {
    float top = 1e9F, bottom = -1e9F, left = 1e9F, right = -1e9F;
    for (const auto& p : pose.points) {
        top = std::min(top, p.y), bottom = std::max(bottom, p.y);
        left = std::min(left, p.x), right = std::max(right, p.x);
    }
    return std::hypot(bottom - top, right - left);
}

}  // namespace zevo

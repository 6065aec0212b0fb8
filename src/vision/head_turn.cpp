#include "vision/head_turn.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

#include "core/base/angles.h"
#include "core/base/degrees.h"

namespace zevo {
namespace {

/// The head's radius in the cut-out, and half of the cut-out's side. It is first laid over at half that size.
constexpr int kRadius = 32, kHalf = 64;
/// Share of the radius that is laid over: the crown and the jaw, little of the room behind and none of the shoulders.
constexpr double kWithin = 1.05;
/// Starts beside the turn the network saw, and how far from it an answer is believed: degrees, shares of the radius.
constexpr double kBesideDeg[] = {0, -14, 14, -28, 28};
constexpr double kFarthestDeg = 38, kFarthestShift = 0.7;
/// As alike as heads are that were laid over rightly; no other start finds better.
constexpr double kAlike = 0.92;

/// From a place in the picture now to the same place of the head before, about the cut-out's middle.
struct Laid {
    double turnDeg = 0;
    Vec2 shift = Vec2::Zero();  ///< shares of the radius
    double likeness = 0;        ///< 0: they do not lie over one another
};

cv::Mat warpOf(const Laid& laid, int half) {
    const double c = std::cos(laid.turnDeg * kRadiansPerDegree), s = std::sin(laid.turnDeg * kRadiansPerDegree);
    const Vec2 shift = laid.shift * (kRadius * half / kHalf);
    const cv::Matx23d warp(c, s, half - (c + s) * half + shift.x(), -s, c, half - (c - s) * half + shift.y());
    return cv::Mat(cv::Matx23f(warp));
}

Laid laidBy(const cv::Mat& warp, int half, double likeness) {
    const cv::Matx23d w(cv::Matx23f{warp});
    const Vec2 shift((w(0, 0) + w(0, 1) - 1) * half + w(0, 2), (w(1, 0) + w(1, 1) - 1) * half + w(1, 2));
    return {std::atan2(w(0, 1), w(0, 0)) * kDegreesPerRadian, shift / (kRadius * half / kHalf), likeness};
}

cv::Mat discOf(int half) {
    cv::Mat mask = cv::Mat::zeros(2 * half, 2 * half, CV_8U);
    cv::circle(mask, {half, half}, static_cast<int>(kWithin * kRadius * half / kHalf), 255, -1);
    return mask;
}

/// Light or edges of a head at both sizes.
struct Layer {
    cv::Mat fine, coarse;
    explicit Layer(cv::Mat full) : fine(std::move(full)) { cv::pyrDown(fine, coarse); }
};

Laid layOver(const cv::Mat& before, const cv::Mat& now, const Laid& start, double seenDeg) {
    static const cv::Mat kDiscs[]{discOf(kHalf / 2), discOf(kHalf)};
    const int half = now.cols / 2;
    const bool fine = half == kHalf;
    cv::Mat warp = warpOf(start, half);
    constexpr int kSteps = 30, kSmoothedFine = 5, kSmoothedCoarse = 3;
    double likeness = 0;
    try {
        likeness = cv::findTransformECC(now, before, warp, cv::MOTION_EUCLIDEAN,
                                        {cv::TermCriteria::COUNT | cv::TermCriteria::EPS, kSteps, 1e-4}, kDiscs[fine],
                                        fine ? kSmoothedFine : kSmoothedCoarse);
    } catch (const cv::Exception&) {  // it does not settle, or leaves the picture
        return {};
    }
    const Laid laid = laidBy(warp, half, likeness);
    const bool near =
        laid.shift.norm() <= kFarthestShift && std::abs(wrapDegrees(laid.turnDeg - seenDeg)) <= kFarthestDeg;
    return near ? laid : Laid{};
}

Laid bestOf(const Layer& before, const Layer& now, double seenDeg) {
    Laid best;
    for (double beside : kBesideDeg) {
        const Laid laid = layOver(before.coarse, now.coarse, {seenDeg + beside, Vec2::Zero(), 0}, seenDeg);
        if (laid.likeness > best.likeness) best = laid;
        if (best.likeness > kAlike) break;
    }
    return best.likeness > 0 ? layOver(before.fine, now.fine, best, seenDeg) : best;
}

}  // namespace

struct HeadPicture::Impl {
    Layer light, edges;
    double directionDeg = 0;

    static Impl of(const PictureView& picture, const HeadPlace& place) {
        const cv::Mat rgb(picture.height, picture.width, CV_8UC3, const_cast<std::uint8_t*>(picture.rgb),
                          static_cast<std::size_t>(picture.stride));
        const double scale = kRadius / std::max(1.0, place.radiusPx);
        const cv::Matx23d cut(scale, 0, kHalf - scale * place.centre.x(), 0, scale, kHalf - scale * place.centre.y());
        cv::Mat head, light;
        cv::warpAffine(rgb, head, cut, {2 * kHalf, 2 * kHalf}, scale < 1 ? cv::INTER_AREA : cv::INTER_LINEAR,
                       cv::BORDER_REPLICATE);
        cv::cvtColor(head, head, cv::COLOR_RGB2GRAY);
        head.convertTo(light, CV_32F, 1 / 255.0);
        cv::Mat smooth, across, along, edges, usual;
        cv::GaussianBlur(light, smooth, {0, 0}, 1.5);
        cv::Sobel(smooth, across, CV_32F, 1, 0);
        cv::Sobel(smooth, along, CV_32F, 0, 1);
        cv::magnitude(across, along, edges);
        cv::GaussianBlur(edges, usual, {0, 0}, 12);
        edges /= usual + 0.01;
        cv::log(light + 0.03, light);
        return {Layer(light), Layer(edges), place.directionDeg};
    }
};

HeadPicture::HeadPicture(const PictureView& picture, const HeadPlace& place)
    : m(std::make_unique<Impl>(Impl::of(picture, place))) {}
HeadPicture::HeadPicture(HeadPicture&&) noexcept = default;
HeadPicture& HeadPicture::operator=(HeadPicture&&) noexcept = default;
HeadPicture::~HeadPicture() = default;

std::optional<HeadTurn> headTurn(const HeadPicture& before, const HeadPicture& now) {
    const auto &then = before.impl(), &here = now.impl();
    const double seen = wrapDegrees(here.directionDeg - then.directionDeg);
    const Laid light = bestOf(then.light, here.light, seen);
    if (light.likeness <= 0) return std::nullopt;
    const Laid edges = bestOf(then.edges, here.edges, seen);
    const double apart = edges.likeness > 0 ? std::abs(wrapDegrees(edges.turnDeg - light.turnDeg)) : kFarthestDeg;
    return HeadTurn{light.turnDeg, light.likeness, apart};
}

}  // namespace zevo

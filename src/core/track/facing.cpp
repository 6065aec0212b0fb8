#include "core/track/facing.h"

#include <algorithm>
#include <cmath>
#include <utility>

#include "core/signal/filter.h"

namespace zevo {
namespace {

constexpr double kClearlyOther = 0.25;  // of the usual width; less may be a client who stands aslant
constexpr double kNoWidth = 0.6;
/// Feet and knees can truly cross, in a step; not for so short a time.
constexpr double kFlickerS = 0.5;

double across(const PoseFrame& f, Landmark left) {
    return f.points[static_cast<std::size_t>(left) + 1].x - f.at(left).x;
}

double bodyWidth(const PoseFrame& f) {
    return across(f, Landmark::LeftShoulder) + across(f, Landmark::LeftHip);
}

void exchange(PoseFrame& f, std::size_t left, std::size_t right) {
    std::swap(f.points[left], f.points[right]);
    std::swap(f.world[left], f.world[right]);
}

void exchangeFrom(PoseFrame& f, Landmark first, Landmark last) {
    for (auto left = static_cast<std::size_t>(first); left <= static_cast<std::size_t>(last); left += 2)
        exchange(f, left, left + 1);
}

void exchangeSides(PoseFrame& f) {
    for (Landmark eye : {Landmark::LeftEyeInner, Landmark::LeftEye, Landmark::LeftEyeOuter})
        exchange(f, static_cast<std::size_t>(eye), static_cast<std::size_t>(eye) + 3);
    exchangeFrom(f, Landmark::LeftEar, Landmark::LeftToe);
}

template <typename Width>
double usualOf(const PoseFrames& frames, Width width) {
    std::vector<double> all;
    for (const auto& f : frames)
        if (f.found) all.push_back(width(f));
    return all.empty() ? 0.0 : median(all);
}

/// Frames in which a pair lies clearly the other way round than usual. `longestS`: only where that lasts no longer.
template <typename Width>
std::vector<std::size_t> turned(const PoseFrames& frames, Width width, double longestS) {
    const double usual = usualOf(frames, width);
    auto otherWay = [&](const PoseFrame& f) { return f.found && width(f) * usual < -kClearlyOther * usual * usual; };
    std::vector<std::size_t> out;
    for (std::size_t i = 0, end = 0; i < frames.size(); i = end + 1) {
        end = i;
        while (end < frames.size() && otherWay(frames[end])) ++end;
        const bool lasts = end > i && frames[end - 1].timeS - frames[i].timeS > longestS;
        for (std::size_t k = i; k < end && !lasts; ++k) out.push_back(k);
    }
    return out;
}

}  // namespace

std::optional<FacedFrames> facingOneWay(const PoseFrames& frames) {
    std::optional<FacedFrames> out;
    auto mend = [&](const std::vector<std::size_t>& which, auto exchangeIn) {
        if (which.empty()) return;
        if (!out) out = FacedFrames{frames, {}};
        for (std::size_t i : which) exchangeIn(out->frames[i]), out->mendedS.push_back(frames[i].timeS);
    };
    auto now = [&]() -> const PoseFrames& { return out ? out->frames : frames; };
    mend(turned(now(), bodyWidth, HUGE_VAL), exchangeSides);
    // Between the two answers the network gives their mean: a body with no width, which nobody has from the front.
    const double usual = usualOf(now(), bodyWidth);
    std::vector<std::size_t> collapsed;
    for (std::size_t i = 0; i < now().size(); ++i)
        if (now()[i].found && bodyWidth(now()[i]) * usual < kNoWidth * usual * usual) collapsed.push_back(i);
    mend(collapsed, [](PoseFrame& f) { f.found = false; });
    mend(turned(
             now(), [](const PoseFrame& f) { return across(f, Landmark::LeftKnee); }, kFlickerS),
         [](PoseFrame& f) { exchangeFrom(f, Landmark::LeftKnee, Landmark::LeftKnee); });
    mend(turned(
             now(), [](const PoseFrame& f) { return across(f, Landmark::LeftAnkle); }, kFlickerS),
         [](PoseFrame& f) { exchangeFrom(f, Landmark::LeftAnkle, Landmark::LeftToe); });
    if (out) std::sort(out->mendedS.begin(), out->mendedS.end());
    return out;
}

}  // namespace zevo

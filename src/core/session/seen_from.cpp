#include "core/session/seen_from.h"

#include <algorithm>
#include <cmath>

namespace zevo {
namespace {

SeenFrom seenFrom(const Track& track, const std::string& model, int engine) {
    SeenFrom out;
    out.readBy = model + " " + std::to_string(engine);
    out.view = track.view, out.near = track.near;
    out.offSquareDeg = track.offSquareDeg();
    out.byLength = track.scaleCalibrated;
    const double height = std::max(1, track.pictureHeight);
    out.pictureShape = track.pictureWidth / height;
    out.bodyShare = track.bodyPx / height;
    const Vec2 hip =
        track.toPicture(0.5 * (track.standingAt(Landmark::LeftHip) + track.standingAt(Landmark::RightHip)));
    const Vec2 sole = track.toPicture({0, track.floorY});
    out.acrossShare = (hip.x() - 0.5 * track.pictureWidth) / height;
    out.downShare = (sole.y() - 0.5 * track.pictureHeight) / height;
    return out;
}

void add(std::vector<ComparabilityIssue>& to, ComparabilityIssue issue) {
    if (std::find(to.begin(), to.end(), issue) == to.end()) to.push_back(issue);
}

void addIssues(std::vector<ComparabilityIssue>& to, const SeenFrom& a, const SeenFrom& b) {
    constexpr double kOtherAngleDeg = 5, kOtherSize = 1.17, kOtherPlace = 0.15, kOtherShape = 0.01;
    const bool otherSide = a.view == ViewKind::Side && a.near != b.near;
    if (a.view != b.view || otherSide)
        add(to, ComparabilityIssue::View);
    else if (std::abs(a.offSquareDeg - b.offSquareDeg) > kOtherAngleDeg)
        add(to, ComparabilityIssue::Angle);
    const double size = a.bodyShare / std::max(1e-6, b.bodyShare);
    if (size > kOtherSize || size < 1 / kOtherSize) add(to, ComparabilityIssue::Size);
    // A picture of another shape is another lens, or another part of it.
    if (std::abs(a.acrossShare - b.acrossShare) > kOtherPlace || std::abs(a.downShare - b.downShare) > kOtherPlace ||
        std::abs(a.pictureShape - b.pictureShape) > kOtherShape)
        add(to, ComparabilityIssue::Place);
    if (a.readBy != b.readBy) add(to, ComparabilityIssue::Network);
    if (a.byLength != b.byLength) add(to, ComparabilityIssue::Scale);
}

}  // namespace

std::vector<SeenFrom> seenFrom(const SetState& state) {
    // Values of an older engine that are shown as they were kept were not read by the one that saw the clip since.
    const std::string kept = state.kept ? " kept" : "";
    std::vector<SeenFrom> out{seenFrom(*state.set.first.track, state.first->model + kept, state.first->engine)};
    if (state.set.other && state.second)
        out.push_back(seenFrom(*state.set.other->track, state.second->model + kept, state.second->engine));
    return out;
}

std::vector<ComparabilityIssue> comparabilityIssues(const std::vector<SeenFrom>& a, const std::vector<SeenFrom>& b) {
    std::vector<ComparabilityIssue> out;
    if (a.empty() || b.empty()) return {ComparabilityIssue::Unknown};
    for (std::size_t view = 0; view < std::min(a.size(), b.size()); ++view) addIssues(out, a[view], b[view]);
    return out;
}

}  // namespace zevo

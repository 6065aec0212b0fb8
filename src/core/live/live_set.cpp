#include "core/live/live_set.h"

#include <algorithm>

namespace zevo {
namespace {

constexpr double kEveryS = 0.3;
/// A longer set is looked at in pieces, cut between repetitions, so that the work does not grow with its length.
constexpr double kLongestS = 30, kKeptS = 12;
constexpr double kAtRest = 0.08;

void addReps(const Track& t, const std::vector<Rep>& reps, LiveSet::Reading& r) {
    for (const Rep& rep : reps) {
        auto seconds = [&](std::size_t from, std::size_t to) { return t.timesS[to] - t.timesS[from]; };
        if (rep.kind == RepKind::Partial)
            ++r.partial;
        else
            ++r.reps;
        r.tensionS += seconds(rep.start, rep.end);
        r.lastEndS = t.timesS[rep.end];
        r.lastLowerS = seconds(rep.start, rep.arrive);
        r.lastPauseS = seconds(rep.arrive, rep.leave);
        r.lastLiftS = seconds(rep.leave, rep.end);
        r.lastDepth = rep.depth;
    }
}

}  // namespace

LiveSet::LiveSet(const SetContext& context, int pictureWidth, int pictureHeight)
    : m_context(context), m_width(pictureWidth), m_height(pictureHeight) {}

void LiveSet::add(const PoseFrame& pose) {
    m_poses.push_back(pose);
    if (pose.timeS - m_updatedS >= kEveryS) update();
}

void LiveSet::update() {
    if (m_poses.size() < m_from + 2) return;
    m_updatedS = m_poses.back().timeS;
    const PoseFrames window(m_poses.begin() + static_cast<std::ptrdiff_t>(m_from), m_poses.end());
    const auto track = buildTrack(window, m_width, m_height, m_context.context);
    if (!track) return;  // nobody yet, or not long enough: the reading stays as it was
    const Series series = computeSeries(*track);
    const std::vector<Rep> reps = findReps(*track, series);
    Reading now = m_frozen;
    addReps(*track, reps, now);
    now.depth = series.depth.empty() ? 0 : series.depth.back();
    now.atRest = now.depth < kAtRest;
    now.view = track->view;
    m_reading = now;
    const double length = m_updatedS - window.front().timeS;
    if (length < kLongestS || reps.size() < 3) return;
    // Cut at rest, in the middle between the last repetition that is old enough and the one after it.
    for (std::size_t i = reps.size() - 1; i-- > 0;) {
        const double end = track->timesS[reps[i].end], next = track->timesS[reps[i + 1].start];
        if (m_updatedS - next < kKeptS) continue;
        const double cut = (end + next) / 2;
        addReps(*track, {reps.begin(), reps.begin() + static_cast<std::ptrdiff_t>(i) + 1}, m_frozen);
        m_from = static_cast<std::size_t>(std::lower_bound(m_poses.begin(), m_poses.end(), cut,
                                                           [](const PoseFrame& f, double t) { return f.timeS < t; }) -
                                          m_poses.begin());
        return;
    }
}

}  // namespace zevo

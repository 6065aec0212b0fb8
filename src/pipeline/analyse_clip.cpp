#include "pipeline/analyse_clip.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <optional>
#include <thread>

#include "media/frame_source.h"
#include "pipeline/barrier.h"
#include "pipeline/follow_mark.h"
#include "pipeline/frame_stage.h"
#include "pipeline/read_pieces.h"
#include "pipeline/room_reader.h"
#include "pipeline/turning_points.h"

namespace zevo::pipeline {
namespace {

using Clock = std::chrono::steady_clock;

/// A worker starts this much before its stretch, so that its region has settled where the stretches meet;
/// within the overlap the two workers' points are blended.
constexpr int kSeamFrames = 10;
/// Shorter stretches are not worth their seam.
constexpr double kLeastStretchS = 2.0;

struct Stretch {
    double fromS = 0, toS = 0;  // [from, to)
    bool first = false, last = false;
    std::shared_ptr<KeptPieces> pieces = std::make_shared<KeptPieces>();
    Result<Observation> seen = refusal(NoticeKind::NoPicture);  // includes the lead-in before fromS
};

Result<Observation> readStretch(const std::string& clip, const AnalyseOptions& options, double leadInS,
                                const Stretch& s, const std::atomic<bool>& cancel, std::atomic<long>& done) {
    FrameStages stages;
    auto pose = makePoseStage(options.modelDir, options.model, options.person);
    if (!pose) return pose.error();
    stages.push_back(std::move(*pose));
    stages.push_back(makePieceStage(s.pieces));
    auto source = media::openClip(clip, {kWidestFrame});
    if (!source) return source.error();
    for (const auto& stage : stages)
        if (auto begun = stage->begin((*source)->facts()); !begun) return begun.error();
    if (!s.first)
        if (auto sought = (*source)->seek(std::max(0.0, s.fromS - leadInS)); !sought) return sought.error();
    auto poses = runFrames(**source, stages, {s.last ? 1e18 : s.toS, &cancel, [&](double timeS) {
                                                  if (timeS >= s.fromS) ++done;
                                              }});
    if (!poses) return poses.error();
    Observation out;
    out.poses = std::move(*poses);
    for (const auto& stage : stages)
        if (auto finished = stage->finish(out); !finished) return finished.error();
    if ((*source)->damaged() > 0) out.notices.push_back({NoticeKind::ClipDamaged, {}});
    return out;
}

double middleOf(const PoseFrame& f, float LandmarkPoint::*axis) {
    double sum = 0;
    for (const auto& p : f.points) sum += p.*axis;
    return sum / kLandmarkCount;
}

/// False when the two workers at a seam saw people in different places: they followed two different ones. Both lists
/// are in time order and share only the lead-in.
bool samePerson(const PoseFrames& earlier, const PoseFrames& later) {
    auto e = later.empty() ? earlier.end()
                           : std::lower_bound(earlier.begin(), earlier.end(), later.front().timeS - 1e-6,
                                              [](const PoseFrame& f, double t) { return f.timeS < t; });
    for (auto f = later.begin(); f != later.end() && e != earlier.end();) {
        if (std::abs(e->timeS - f->timeS) > 1e-6) {
            e->timeS < f->timeS ? ++e : ++f;
            continue;
        }
        if (e->found && f->found) {
            const auto& nose = f->at(Landmark::Nose);
            const auto& heel = f->at(Landmark::LeftHeel);
            const double person = std::hypot(nose.x - heel.x, nose.y - heel.y);
            const double apart = std::hypot(middleOf(*e, &LandmarkPoint::x) - middleOf(*f, &LandmarkPoint::x),
                                            middleOf(*e, &LandmarkPoint::y) - middleOf(*f, &LandmarkPoint::y));
            if (apart > 0.3 * person) return false;
        }
        ++e, ++f;
    }
    return true;
}

/// Joins stretches; in the lead-in before a seam the weight moves from the earlier worker to the later one.
PoseFrames join(std::vector<Stretch>& stretches) {
    PoseFrames out = std::move(stretches.front().seen->poses);
    for (std::size_t k = 1; k < stretches.size(); ++k) {
        const PoseFrames& later = stretches[k].seen->poses;
        const auto seam = std::lower_bound(later.begin(), later.end(), stretches[k].fromS - 1e-9,
                                           [](const PoseFrame& f, double t) { return f.timeS < t; });
        const auto leadIn = static_cast<std::size_t>(seam - later.begin());
        for (std::size_t i = 0; i < leadIn; ++i) {
            const auto earlier = std::lower_bound(out.begin(), out.end(), later[i].timeS - 1e-6,
                                                  [](const PoseFrame& f, double t) { return f.timeS < t; });
            if (earlier == out.end() || std::abs(earlier->timeS - later[i].timeS) > 1e-6) continue;
            if (!earlier->found || !later[i].found) continue;
            const auto w = static_cast<float>(i + 1) / static_cast<float>(leadIn + 1);
            for (std::size_t p = 0; p < kLandmarkCount; ++p) {
                earlier->points[p].x += w * (later[i].points[p].x - earlier->points[p].x);
                earlier->points[p].y += w * (later[i].points[p].y - earlier->points[p].y);
            }
        }
        out.insert(out.end(), seam, later.end());
    }
    return out;
}

/// Does every part of a work on a thread of its own; `tick` is called from here, a few times a second, until all ended.
void onWorkers(std::size_t parts, const std::function<void(std::size_t)>& work, const std::function<void()>& tick) {
    std::atomic<std::size_t> running{parts};
    std::vector<std::jthread> threads;
    for (std::size_t k = 0; k < parts; ++k)
        threads.emplace_back([&, k] {
            work(k);
            --running;
        });
    while (running > 0) {
        std::this_thread::sleep_for(std::chrono::milliseconds(20));
        tick();
    }
}

}  // namespace

int workersHere() {
    return std::clamp(static_cast<int>(std::thread::hardware_concurrency()), 1, 8);
}

Result<Observation> observeClip(const std::string& clip, const SetContext& context, const AnalyseOptions& options,
                                const std::atomic<bool>& cancel, const OnProgress& progress) {
    auto probe = media::openClip(clip);
    if (!probe) return probe.error();
    const media::SourceFacts facts = (*probe)->facts();
    probe->reset();
    const int most = static_cast<int>(facts.durationS / kLeastStretchS);
    const int workers = std::clamp(options.workers, 1, std::max(1, most));
    const double leadInS = kSeamFrames / facts.frameRate;
    std::vector<Stretch> stretches(static_cast<std::size_t>(workers));
    for (int i = 0; i < workers; ++i) {
        Stretch& s = stretches[static_cast<std::size_t>(i)];
        s.fromS = facts.durationS * i / workers;
        s.toS = facts.durationS * (i + 1) / workers;
        s.first = i == 0;
        s.last = i == workers - 1;
    }
    std::atomic<long> done{0};
    std::atomic<bool> given{false};  // one worker failed: the others need not go on
    const auto begin = Clock::now();
    onWorkers(
        stretches.size(),
        [&](std::size_t k) {
            Stretch& s = stretches[k];
            s.seen = guarded([&] { return readStretch(clip, options, leadInS, s, given, done); });
            if (!s.seen) given = true;
        },
        [&] {
            if (cancel) given = true;
            if (!progress) return;
            const double spent = std::chrono::duration<double>(Clock::now() - begin).count();
            const long n = done, all = std::max(facts.frames, n);
            progress(
                {n, all, n > 10 ? spent / static_cast<double>(n) * static_cast<double>(all - n) : 0, Doing::Reading});
        });
    if (cancel) return refusal(NoticeKind::Stopped);
    for (const auto& s : stretches)
        if (!s.seen) return s.seen.error();
    for (std::size_t i = 1; i < stretches.size(); ++i)
        if (!samePerson(stretches[i - 1].seen->poses, stretches[i].seen->poses)) {
            // One worker alone stays with the person it began with.
            AnalyseOptions alone = options;
            alone.workers = 1;
            return observeClip(clip, context, alone, cancel, progress);
        }
    Observation out;
    out.model = stretches.front().seen->model;
    out.network = stretches.front().seen->network;
    for (const auto& s : stretches)
        for (const Notice& n : s.seen->notices)
            if (std::find(out.notices.begin(), out.notices.end(), n) == out.notices.end()) out.notices.push_back(n);
    out.poses = join(stretches);
    if (out.poses.empty()) return refusal(NoticeKind::NoPicture, {}, clip);
    const double first = out.poses.front().timeS, last = out.poses.back().timeS;
    const double step = out.poses.size() > 1 ? (last - first) / static_cast<double>(out.poses.size() - 1) : 0;
    out.clip = {static_cast<long>(out.poses.size()),
                last - first + step,
                facts.width,
                facts.height,
                facts.rotationDeg,
                readRoom(clip, out.poses)};
    AllPieces pieces;
    for (const auto& s : stretches) pieces.push_back(s.pieces);
    // Where the repetitions are, as far as the poses alone tell.
    if (const auto view = measureView(out.poses, out.clip, context)) {
        readPieces(pieces, *view, out);
        estimateAtTurningPoints(clip, *view, options, cancel, out);
    }
    if (cancel) return refusal(NoticeKind::Stopped);
    return out;
}

std::string filmedAt(const std::string& clip) {
    const auto source = media::openClip(clip);
    return source ? (*source)->facts().filmedAt : std::string();
}

namespace {

/// Outlines at some of the moments, in order; those close together are read in one go.
Result<std::vector<Outline>> outlinesAt(const std::string& clip, const PoseFrames& poses,
                                        const std::vector<double>& timesS, const std::string& modelDir,
                                        const std::atomic<bool>& cancel, std::atomic<long>& done) {
    constexpr double kNearS = 1.0;  // up to here the next moment is reached by reading on
    auto source = media::openClip(clip, {kWidestFrame});
    if (!source) return source.error();
    auto outlines = makeOutlineStage(modelDir, timesS);
    if (!outlines) return outlines.error();
    FrameStages stages;
    stages.push_back(makeRecordedPoses(poses));
    stages.push_back(std::move(*outlines));
    for (const auto& s : stages)
        if (auto begun = s->begin((*source)->facts()); !begun) return begun.error();
    const double half = 0.5 / std::max(1.0, (*source)->facts().frameRate);
    double atS = -1e9;
    media::VideoFrame frame;
    for (double t : timesS) {
        if (cancel) return refusal(NoticeKind::Stopped);
        ++done;
        // What cannot be wound to has no outline; the others have theirs.
        if (t - atS > kNearS && !(*source)->seek(t)) continue;
        bool there = false;
        while (!there) {
            const auto got = (*source)->next(frame);
            if (!got || !*got) break;
            atS = frame.timeS;
            there = frame.timeS >= t - half;
        }
        if (!there) continue;
        PoseFrame seen;
        for (const auto& s : stages)
            if (auto read = s->process(frame, seen); !read) return read.error();
    }
    Observation whole;
    if (auto finished = stages.back()->finish(whole); !finished) return finished.error();
    return std::move(whole.outlines);
}

}  // namespace

Result<std::vector<Outline>> readOutlines(const std::string& clip, const PoseFrames& poses,
                                          const std::vector<double>& timesS, const std::string& modelDir,
                                          const std::atomic<bool>& cancel, const OnProgress& progress) {
    const auto count = std::clamp<std::size_t>(timesS.size() / 10, 1, static_cast<std::size_t>(workersHere()));
    std::vector<Result<std::vector<Outline>>> parts(count, refusal(NoticeKind::Stopped));
    std::atomic<long> done{0};
    onWorkers(
        count,
        [&](std::size_t k) {
            const auto from = timesS.begin() + static_cast<std::ptrdiff_t>(timesS.size() * k / count),
                       to = timesS.begin() + static_cast<std::ptrdiff_t>(timesS.size() * (k + 1) / count);
            parts[k] = guarded([&] { return outlinesAt(clip, poses, {from, to}, modelDir, cancel, done); });
        },
        [&] {
            if (progress) progress({done, static_cast<long>(timesS.size()), 0, Doing::Outlines});
        });
    std::vector<Outline> out;
    for (auto& part : parts) {
        if (!part) return part.error();
        out.insert(out.end(), std::make_move_iterator(part->begin()), std::make_move_iterator(part->end()));
    }
    return out;
}

Result<void> readContours(const std::string& clip, const MeasuredView& view, Observation& seen,
                          const std::string& modelDir, const std::atomic<bool>& cancel, const OnProgress& progress) {
    constexpr double kEveryS = 0.1, kBeforeS = 1.2, kAfterS = 0.5;
    if (view.track->view != ViewKind::Side || view.reps.empty()) return {};
    const auto& times = view.track->timesS;
    const double fromS = std::max(times.front(), times[view.reps.front().start] - kBeforeS),
                 toS = std::min(times.back(), times[view.reps.back().end] + kAfterS);
    std::vector<double> moments;
    for (double t = fromS; t <= toS; t += kEveryS) moments.push_back(t);
    auto contours = readOutlines(clip, seen.poses, moments, modelDir, cancel, progress);
    if (cancel) return refusal(NoticeKind::Stopped);
    if (!contours) return contours.error();
    seen.contours = std::move(*contours);
    return {};
}

Result<AnalysedClip> analyseClip(const std::string& clip, const SetContext& context, const AnalyseOptions& options,
                                 const std::atomic<bool>& cancel, const OnProgress& progress) {
    auto seen = observeClip(clip, context, options, cancel, progress);
    if (!seen) return seen.error();
    SetContext named = context;
    named.model = seen->model;
    auto view = measureView(seen->poses, seen->clip, named, seen->secondEstimates);
    if (!view) return view.error();
    if (options.back) {
        if (auto read = readContours(clip, *view, *seen, options.modelDir, cancel, progress); !read)
            return read.error();
        readBack(*view, seen->contours);
    }
    std::vector<Mark> followed;
    for (const Mark& mark : options.marks) {
        auto done = followMark(clip, mark, markedSpan(*view, mark), view->clip.width, cancel, progress);
        if (!done) return done.error();
        followed.push_back(std::move(*done));
    }
    readMarks(*view, followed);
    if (options.back || !followed.empty()) measureRepetitions(*view, named);
    MeasuredSet set = setOf(std::move(*view), named);
    set.result.notices.insert(set.result.notices.end(), seen->notices.begin(), seen->notices.end());
    return AnalysedClip{std::move(*seen), std::move(set), std::nullopt};
}

Result<void> analyseSecondClip(AnalysedClip& set, const std::string& clip, bool sameTake, double nudgeS,
                               const AnalyseOptions& options, const std::atomic<bool>& cancel,
                               const OnProgress& progress) {
    SetContext context = set.set.result.context;
    context.context.view = "auto";
    auto seen = observeClip(clip, context, options, cancel, progress);
    if (!seen) return seen.error();
    if (auto joined = joinSecondView(set.set, seen->poses, seen->clip, sameTake, nudgeS, seen->secondEstimates);
        !joined)
        return joined;
    for (Notice n : seen->notices) {
        n.second = true;
        set.set.result.notices.push_back(n);
    }
    set.second = std::move(*seen);
    return {};
}

}  // namespace zevo::pipeline

#include "analysis/analyse_clip.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <mutex>
#include <optional>
#include <thread>

#include "core/geometry/contour.h"
#include "core/track/foot_follower.h"
#include "media/clip_reader.h"

namespace zevo::analysis {
namespace {

using Clock = std::chrono::steady_clock;

/// A worker starts this much before its stretch, so that its region has settled where the stretches meet;
/// within the overlap the two workers' points are blended.
constexpr int kSeamFrames = 10;

struct Stretch {
    double fromS = 0, toS = 0;  // [from, to)
    bool first = false, last = false;
    PoseFrames frames;  // includes the lead-in before fromS
    std::optional<Error> error;
    int damaged = 0;
    int firstFootStretch = 1;
    int peopleSeen = 0;
};

void readStretch(const std::string& clip, const AnalyseOptions& options, double leadInS, Stretch& s,
                 const std::atomic<bool>& cancel, std::atomic<long>& done) {
    auto estimator = pose::makeNetworkEstimator(options.modelDir, options.model);
    if (!estimator) {
        s.error = estimator.error();
        return;
    }
    auto reader = media::ClipReader::open(clip, {1280});
    if (!reader) {
        s.error = reader.error();
        return;
    }
    if (!s.first)
        if (auto sought = reader->seek(std::max(0.0, s.fromS - leadInS)); !sought) {
            s.error = sought.error();
            return;
        }
    FootFollower feet(s.firstFootStretch);
    media::VideoFrame frame;
    while (!cancel) {
        auto more = reader->next(frame);
        if (!more) {
            s.error = more.error();
            return;
        }
        if (!*more || (!s.last && frame.timeS >= s.toS)) break;
        auto pose = (*estimator)->process(frame.picture.view(), frame.timeS);
        if (!pose) {
            s.error = pose.error();
            return;
        }
        feet.follow(frame.picture.view(), *pose);
        // Large clips are scaled down on reading: back to the clip's own pixels.
        const float scale = static_cast<float>(reader->info().width) / static_cast<float>(frame.picture.width);
        for (auto& p : pose->points) {
            p.x *= scale;
            p.y *= scale;
        }
        for (auto& p : pose->feet) {
            p.x *= scale;
            p.y *= scale;
        }
        s.frames.push_back(*pose);
        if (frame.timeS >= s.fromS) ++done;
    }
    s.damaged = reader->damagedPackets();
    s.peopleSeen = (*estimator)->peopleSeen();
}

double middleOf(const PoseFrame& f, float LandmarkPoint::*axis) {
    double sum = 0;
    for (const auto& p : f.points) sum += p.*axis;
    return sum / kLandmarkCount;
}

/// False when the two workers at a seam saw people in different places: they followed two different ones.
bool samePerson(const Stretch& earlier, const Stretch& later) {
    for (const auto& f : later.frames)
        for (const auto& e : earlier.frames) {
            if (std::abs(e.timeS - f.timeS) > 1e-6 || !e.found || !f.found) continue;
            const auto& nose = f.at(Landmark::Nose);
            const auto& heel = f.at(Landmark::LeftHeel);
            const double person = std::hypot(nose.x - heel.x, nose.y - heel.y);
            const double apart = std::hypot(middleOf(e, &LandmarkPoint::x) - middleOf(f, &LandmarkPoint::x),
                                            middleOf(e, &LandmarkPoint::y) - middleOf(f, &LandmarkPoint::y));
            if (apart > 0.3 * person) return false;
        }
    return true;
}

/// Joins stretches; in the lead-in before a seam the weight moves from the earlier worker to the later one.
PoseFrames join(std::vector<Stretch>& stretches) {
    PoseFrames out = std::move(stretches.front().frames);
    for (std::size_t k = 1; k < stretches.size(); ++k) {
        auto& later = stretches[k];
        std::vector<PoseFrame> leadIn;
        for (auto& f : later.frames) {
            if (f.timeS < later.fromS - 1e-9)
                leadIn.push_back(f);
            else
                out.push_back(f);
        }
        for (std::size_t i = 0; i < leadIn.size(); ++i) {
            const auto earlier = std::find_if(
                out.begin(), out.end(), [&](const auto& f) { return std::abs(f.timeS - leadIn[i].timeS) < 1e-6; });
            if (earlier == out.end() || !earlier->found || !leadIn[i].found) continue;
            const auto w = static_cast<float>(i + 1) / static_cast<float>(leadIn.size() + 1);
            for (std::size_t p = 0; p < kLandmarkCount; ++p) {
                earlier->points[p].x += w * (leadIn[i].points[p].x - earlier->points[p].x);
                earlier->points[p].y += w * (leadIn[i].points[p].y - earlier->points[p].y);
            }
        }
    }
    return out;
}

}  // namespace

Result<ClipPoses> readPoses(const std::string& clip, const AnalyseOptions& options, const std::atomic<bool>& cancel,
                            const OnProgress& progress) {
    auto probe = media::ClipReader::open(clip);
    if (!probe) return probe.error();
    const media::ClipInfo info = probe->info();
    const int workers = info.durationS > 4.0 ? std::max(1, options.workers) : 1;
    const double leadInS = kSeamFrames / info.frameRate;
    std::vector<Stretch> stretches(static_cast<std::size_t>(workers));
    for (int i = 0; i < workers; ++i) {
        stretches[i].fromS = info.durationS * i / workers;
        stretches[i].toS = info.durationS * (i + 1) / workers;
        stretches[i].firstFootStretch = 1 + i * 1'000'000;  // never the same number in two workers
        stretches[i].first = i == 0;
        stretches[i].last = i == workers - 1;
    }
    std::atomic<long> done{0};
    std::atomic<int> running{workers};
    std::vector<std::jthread> threads;
    const auto begin = Clock::now();
    for (auto& s : stretches)
        threads.emplace_back([&] {
            readStretch(clip, options, leadInS, s, cancel, done);
            --running;
        });
    while (running > 0) {
        std::this_thread::sleep_for(std::chrono::milliseconds(20));
        if (!progress) continue;
        const double spent = std::chrono::duration<double>(Clock::now() - begin).count();
        const long n = done, all = std::max(info.frames, n);
        progress({n, all, n > 10 ? spent / static_cast<double>(n) * static_cast<double>(all - n) : 0,
                  "Following the client"});
    }
    threads.clear();
    if (cancel) return Error{"Stopped. Nothing was kept.", "cancelled"};
    for (auto& s : stretches)
        if (s.error) return *s.error;
    for (std::size_t i = 1; i < stretches.size(); ++i)
        if (!samePerson(stretches[i - 1], stretches[i])) {
            // One worker alone stays with the person it began with.
            AnalyseOptions alone = options;
            alone.workers = 1;
            return readPoses(clip, alone, cancel, progress);
        }
    ClipPoses out;
    for (const auto& s : stretches)
        if (s.peopleSeen > 1 && out.warnings.empty())
            out.warnings.emplace_back(
                "More than one person was seen. Zevo measured the one nearest to the camera; check with “all tracked "
                "points” that it is the client.");
    const std::size_t notesOfPeople = out.warnings.size();
    for (const auto& s : stretches)
        if (s.damaged > 0 && out.warnings.size() == notesOfPeople)
            out.warnings.emplace_back("Parts of this clip are damaged or missing; what could be read was used.");
    out.frames = join(stretches);
    if (out.frames.empty())
        return Error{"Not one picture could be read from this clip. It may be damaged or cut short.", clip};
    const double step = out.frames.size() > 1 ? (out.frames.back().timeS - out.frames.front().timeS) /
                                                    static_cast<double>(out.frames.size() - 1)
                                              : 0;
    out.clip = {static_cast<long>(out.frames.size()), out.frames.back().timeS - out.frames.front().timeS + step,
                info.width, info.height, info.rotationDeg};
    return out;
}

Result<std::vector<Outline>> readOutlines(const std::string& clip, const ClipPoses& poses,
                                          const std::vector<double>& timesS, const std::string& modelDir,
                                          const std::atomic<bool>& cancel) {
    auto outliner = pose::makeOutlineReader(modelDir);
    if (!outliner) return outliner.error();
    auto reader = media::ClipReader::open(clip, {1280});
    if (!reader) return reader.error();
    std::vector<Outline> out;
    for (double t : timesS) {
        if (cancel) return Error{"Stopped. Nothing was kept.", "cancelled"};
        Outline outline{t, {}};
        media::VideoFrame frame;
        const bool sought = bool(reader->seek(t));
        auto got = sought ? reader->next(frame) : Result<bool>(false);
        const auto at = std::min_element(poses.frames.begin(), poses.frames.end(), [&](const auto& a, const auto& b) {
            return std::abs(a.timeS - frame.timeS) < std::abs(b.timeS - frame.timeS);
        });
        if (got && *got && at != poses.frames.end() && at->found) {
            const double scale = static_cast<double>(reader->info().width) / frame.picture.width;
            PoseFrame pose = *at;
            for (auto& p : pose.points) {
                p.x = static_cast<float>(p.x / scale);
                p.y = static_cast<float>(p.y / scale);
            }
            auto mask = (*outliner)->read(frame.picture.view(), pose);
            if (!mask) return mask.error();
            for (const auto& p : largestContour(mask->inside, mask->side, mask->side, 0.5F)) {
                const double x = mask->centreX + (p.x() / mask->side - 0.5) * mask->size;
                const double y = mask->centreY + (p.y() / mask->side - 0.5) * mask->size;
                outline.points.emplace_back(static_cast<float>(x * scale), static_cast<float>(y * scale));
            }
        }
        out.push_back(std::move(outline));
    }
    return out;
}

Result<AnalysedClip> analyseClip(const std::string& clip, const SetContext& context, const AnalyseOptions& options,
                                 const std::atomic<bool>& cancel, const OnProgress& progress) {
    auto poses = readPoses(clip, options, cancel, progress);
    if (!poses) return poses.error();
    SetContext named = context;
    named.model = pose::modelName(options.model);
    auto set = measureSet(poses->frames, poses->clip, named);
    if (!set) return set.error();
    set->result.warnings.insert(set->result.warnings.end(), poses->warnings.begin(), poses->warnings.end());
    return AnalysedClip{std::move(*poses), std::move(*set), std::nullopt};
}

Result<void> analyseSecondClip(AnalysedClip& set, const std::string& clip, bool together, double nudgeS,
                               const AnalyseOptions& options, const std::atomic<bool>& cancel,
                               const OnProgress& progress) {
    auto poses = readPoses(clip, options, cancel, progress);
    if (!poses) return poses.error();
    if (auto joined = joinSecondView(set.set, poses->frames, poses->clip, together, nudgeS); !joined) return joined;
    auto& warnings = set.set.result.warnings;
    for (const auto& w : poses->warnings) warnings.push_back("Second clip: " + w);
    set.second = std::move(*poses);
    return {};
}

}  // namespace zevo::analysis

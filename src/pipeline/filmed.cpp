// What becomes of a recording: the quick reading from what was seen live, and the careful one afterwards.
#include <algorithm>
#include <cmath>

#include "pipeline/barrier.h"
#include "pipeline/frame_stage.h"
#include "pipeline/live_session.h"
#include "pipeline/read_pieces.h"
#include "pipeline/room_reader.h"
#include "pipeline/turning_points.h"

namespace zevo::pipeline {
namespace {

/// Times of a recording and of its poses are the same whole milliseconds (media/clip_clock.h).
constexpr double kSameS = 0.0005;

Observation posesOf(const Filmed& f) {
    Observation out;
    const double step = f.frames > 1 ? f.durationS / static_cast<double>(f.frames - 1) : 0;
    out.clip = {f.frames, f.durationS + step, f.facts.width, f.facts.height, 0};
    out.poses = f.poses;
    out.clip.hold = readRoom(f.path, f.poses);
    out.model = f.model;
    out.network = f.network;
    if (f.people > 1) out.notices.push_back({NoticeKind::MorePeople, {}});
    return out;
}

/// Moments of the recorded pictures that no pose belongs to.
Result<std::vector<Span>> notReached(const Filmed& filmed) {
    auto clip = media::LiveClip::open(filmed.path);
    if (!clip) return clip.error();
    std::vector<Span> out;
    auto pose = filmed.poses.begin();
    media::LiveFrame frame;
    bool missing = false;
    for (;;) {
        auto more = clip->next(frame);
        if (!more) return more.error();
        if (!*more) break;
        while (pose != filmed.poses.end() && pose->timeS < frame.timeS - kSameS) ++pose;
        const bool there = pose != filmed.poses.end() && std::abs(pose->timeS - frame.timeS) <= kSameS;
        if (!there && missing)
            out.back().toS = frame.timeS;
        else if (!there)
            out.push_back({frame.timeS, frame.timeS});
        missing = !there;
    }
    return out;
}

}  // namespace

Observation observedLive(const Filmed& filmed, const SetContext& context) {
    Observation out = posesOf(filmed);
    if (filmed.pieces)
        if (const auto view = measureView(out.poses, out.clip, context)) readPieces({filmed.pieces}, *view, out);
    return out;
}

Result<Observation> observeFilmed(const Filmed& filmed, const SetContext& context, const AnalyseOptions& options,
                                  const std::atomic<bool>& cancel, const OnProgress& progress) {
    return guarded([&]() -> Result<Observation> {
        constexpr double kLeadInS = 0.4, kCloseS = 1.0, kWorthAll = 0.5;
        auto missing = notReached(filmed);
        if (!missing) return missing.error();
        // What lies close together is caught up in one go.
        std::vector<Span> spans;
        for (const Span& s : *missing)
            if (!spans.empty() && s.fromS - spans.back().toS < kCloseS)
                spans.back().toS = s.toS;
            else
                spans.push_back(s);
        double seconds = 0;
        for (const Span& s : spans) seconds += s.toS - s.fromS + kLeadInS;
        if (filmed.poses.empty() || !filmed.pieces || seconds > kWorthAll * filmed.durationS ||
            options.model != *pose::modelSizeFromName(filmed.model))
            return observeClip(filmed.path, context, options, cancel, progress);
        Observation out = posesOf(filmed);
        AllPieces pieces{filmed.pieces};
        for (const Span& span : spans) {
            FrameStages stages;
            auto pose = makePoseStage(options.modelDir, options.model);
            if (!pose) return pose.error();
            stages.push_back(std::move(*pose));
            pieces.push_back(std::make_shared<KeptPieces>());
            stages.push_back(makePieceStage(pieces.back()));
            auto source = media::openClip(filmed.path, {kWidestFrame});
            if (!source) return source.error();
            for (const auto& stage : stages)
                if (auto begun = stage->begin((*source)->facts()); !begun) return begun.error();
            if (auto sought = (*source)->seek(std::max(0.0, span.fromS - kLeadInS)); !sought) return sought.error();
            auto poses = runFrames(**source, stages, {span.toS + kSameS, &cancel, {}});
            if (!poses) return poses.error();
            for (const PoseFrame& p : *poses) {
                if (p.timeS < span.fromS - kSameS) continue;
                const auto at = std::lower_bound(out.poses.begin(), out.poses.end(), p.timeS - kSameS,
                                                 [](const PoseFrame& f, double t) { return f.timeS < t; });
                if (at == out.poses.end() || at->timeS - p.timeS > kSameS) out.poses.insert(at, p);
            }
            if (cancel) return refusal(NoticeKind::Stopped);
        }
        if (const auto view = measureView(out.poses, out.clip, context)) {
            readPieces(pieces, *view, out);
            estimateAtTurningPoints(filmed.path, *view, options, cancel, out);
        }
        if (cancel) return refusal(NoticeKind::Stopped);
        return out;
    });
}

}  // namespace zevo::pipeline

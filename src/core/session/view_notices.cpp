#include "core/session/view_notices.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/base/calibration.h"

namespace zevo {

std::optional<NoticeKind> viewNotice(ViewKind view) {
    switch (view) {
        case ViewKind::Oblique: return NoticeKind::SeenObliquely;
        case ViewKind::Front: return NoticeKind::SeenFromFront;
        case ViewKind::Rear: return NoticeKind::SeenFromBack;
        case ViewKind::FootEnd: return NoticeKind::SeenFromFootEnd;
        case ViewKind::Side: break;
    }
    return std::nullopt;
}

bool backIsCovered(const SetContext& context) {
    return context.movement.isFromFloor(context.variation) ||
           context.movement.loadPlace(context.variation) == LoadPlace::Back;
}

namespace {

std::vector<Notice> noticesOf(const Track& t, double levelDoubtDeg) {
    std::vector<Notice> out;
    auto say = [&](NoticeKind kind, std::vector<Argument> arguments = {}) {
        out.push_back({kind, std::move(arguments)});
    };
    if (t.cmPerPixel <= 0) say(NoticeKind::StatureUnknown);
    if (t.sizeContradictedBy != 0 && t.cmPerPixel > 0 && !t.scaleCalibrated)
        say(NoticeKind::SizeContradicted, {std::round(100 * t.sizeContradictedBy)});
    if (std::abs(t.toldAgainstStature) > calibrated("doubt.size"))
        say(NoticeKind::LengthContradicted, {std::round(100 * t.toldAgainstStature)});
    if (t.trackedShare < 0.95) say(NoticeKind::LostPerCent, {std::round(100 * (1 - t.trackedShare))});
    if (levelDoubtDeg > 0) say(NoticeKind::OffBalance);
    constexpr double kWorthSayingDeg = 2;
    if (t.hold && std::abs(t.hold->rollDeg) >= kWorthSayingDeg)
        say(NoticeKind::CameraTilted, {std::round(std::abs(t.hold->rollDeg))});
    if (t.view == ViewKind::Side && t.offSquareDeg() > 15) say(NoticeKind::OffSquare, {std::round(t.offSquareDeg())});
    if (const auto kind = viewNotice(t.view)) say(*kind);
    if (isFrontal(t.view)) say(NoticeKind::HipLineUnread);
    return out;
}

/// Why the back is not judged, and what would let it be; nothing where the movement does not ask for it.
void sayBack(MeasuredView& view, const SetContext& context) {
    const auto& wanted = context.movement.measures;
    const bool asked = std::any_of(wanted.begin(), wanted.end(), [](const std::string& id) {
        return id == "low_back_tuck" || id == "chest_drop" || id == "low_back_round" || id == "bridge_arch";
    });
    if (!asked || view.track->view != ViewKind::Side) return;
    const bool covered = backIsCovered(context);
    BackDoubt unseen = exclusionReason(context.shirt, covered);
    if (unseen == BackDoubt::None) unseen = BackDoubt::Unread;
    std::map<BackDoubt, std::string> reps;
    for (const Rep& rep : view.reps)
        if (const auto doubt = view.back ? view.back->doubtAt(rep.bottom, context.shirt, covered) : unseen;
            doubt != BackDoubt::None)
            reps[doubt] += (reps[doubt].empty() ? "" : ", ") + std::to_string(rep.index);
    for (const auto& [doubt, which] : reps)
        view.notices.push_back({NoticeKind::BackNotRead, {std::string(backDoubtName(doubt)), which}});
}

/// In which repetitions a marked point was lost: one click there repairs it.
void sayMarks(MeasuredView& view) {
    if (!view.marks) return;
    if (view.marks->of(MarkKind::HipLeft) && view.marks->of(MarkKind::HipRight))
        std::erase_if(view.notices, [](const Notice& n) { return n.kind == NoticeKind::HipLineUnread; });
    for (std::size_t k = 0; k < kMarkKinds; ++k) {
        const auto* line = view.marks->of(static_cast<MarkKind>(k));
        if (!line) continue;
        std::string reps;
        for (const Rep& rep : view.reps)
            if (line->heldShare(rep.start, rep.end) < MarkLines::kLeastHeld)
                reps += (reps.empty() ? "" : ", ") + std::to_string(rep.index);
        if (!reps.empty())
            view.notices.push_back({NoticeKind::MarkLost, {std::string(markName(static_cast<MarkKind>(k))), reps}});
    }
}

/// How many swings there were between one rest of the bell and the next: what step of the ladder it was.
void saySwings(MeasuredView& view, const SetContext& context) {
    if (!view.marks || !context.movement.swings(context.variation) || view.marks->load() != MarkKind::Bell) return;
    std::string swings;
    for (int n : view.marks->swingsBetweenRests()) swings += (swings.empty() ? "" : ", ") + std::to_string(n);
    if (!swings.empty()) view.notices.push_back({NoticeKind::SwingLadder, {swings}});
}

/// In which repetitions the networks disagreed.
void sayDoubts(MeasuredView& view) {
    std::string reps, legs;
    for (const Rep& rep : view.reps)
        for (const auto& d : view.track->doubts) {
            if (d.timeS < view.track->timesS[rep.start] || d.timeS > view.track->timesS[rep.end]) continue;
            reps += (reps.empty() ? "" : ", ") + std::to_string(rep.index);
            if (d.legs) legs += (legs.empty() ? "" : ", ") + std::to_string(rep.index);
        }
    for (const Rep& rep : view.reps)
        if (view.track->sideSwapFixedWithin(rep.start, rep.end))
            legs += (legs.empty() ? "" : ", ") + std::to_string(rep.index);
    const auto kind = isFrontal(view.track->view) ? NoticeKind::HipsDoubted : NoticeKind::NetworksDisagree;
    if (!reps.empty()) view.notices.push_back({kind, {reps}});
    if (!legs.empty()) view.notices.push_back({NoticeKind::LegsDoubted, {legs}});
}

}  // namespace

void sayWhatLimits(MeasuredView& view, const SetContext& context) {
    view.notices = noticesOf(*view.track, view.series->levelDoubtDeg);
    sayDoubts(view);
    sayBack(view, context);
    sayMarks(view);
    saySwings(view, context);
}

}  // namespace zevo

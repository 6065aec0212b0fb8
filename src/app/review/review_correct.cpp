// What the coach puts right: points, repetitions, legs, rest, scale, and words pinned to a picture.
#include <QComboBox>
#include <QTimer>
#include <cmath>

#include "app/review/review_view.h"

namespace zevo::app {
namespace {

/// The points that measures read, with their names.
const std::pair<Landmark, const char*> kPoints[] = {
    {Landmark::LeftHip, QT_TRANSLATE_NOOP("ReviewView", "hip")},
    {Landmark::LeftKnee, QT_TRANSLATE_NOOP("ReviewView", "knee")},
    {Landmark::LeftAnkle, QT_TRANSLATE_NOOP("ReviewView", "ankle")},
    {Landmark::LeftHeel, QT_TRANSLATE_NOOP("ReviewView", "heel")},
    {Landmark::LeftToe, QT_TRANSLATE_NOOP("ReviewView", "toe tip")},
    {Landmark::LeftShoulder, QT_TRANSLATE_NOOP("ReviewView", "shoulder")},
    {Landmark::LeftEar, QT_TRANSLATE_NOOP("ReviewView", "ear")},
    {Landmark::LeftWrist, QT_TRANSLATE_NOOP("ReviewView", "wrist")}};

QPointF qt(const Vec2& p) {
    return {p.x(), p.y()};
}

}  // namespace

void ReviewView::toggleCorrecting() {
    if (!hasSet()) return;
    m_correcting = !m_correcting;
    m_stage->setPlaying(false);
    m_bar->letGo();
    m_bar->setVisible(m_correcting);
    fit();
    chooseTool(Stage::Tool::Points);
    refreshOverlay();
    refreshTransport();
}

void ReviewView::chooseTool(Stage::Tool tool) {
    m_stage->setTool(m_correcting ? tool : Stage::Tool::Play);
    switch (tool) {
        case Stage::Tool::Length: m_bar->setHint(tr("Draw along something whose length you know.")); break;
        case Stage::Tool::Person: m_bar->setHint(tr("Click the client in the picture.")); break;
        case Stage::Tool::Mark:
            m_bar->setHint(
                tr("Click it once, where it is seen best. It is followed both ways; where it is lost, click again."));
            break;
        default:
            m_bar->setHint(
                tr("Drag a point where it belongs, or a rep's end on the bar. Comma and point choose, Alt and "
                   "arrows move; neighbours follow over:"));
    }
}

/// The points of the side near the camera first, from the front both sides: a press takes the nearest.
void ReviewView::refreshHandles() {
    if (!m_correcting) return m_stage->setHandles({}, -1);
    const Track& track = presenter().track(m_second);
    const std::size_t sample = track.sampleAt(m_stage->shownTimeS());
    std::vector<Stage::Handle> handles;
    std::vector<Side> sides{track.near};
    if (track.view != ViewKind::Side) sides.push_back(otherSide(track.near));
    for (Side side : sides)
        for (const auto& [left, name] : kPoints) {
            const Landmark id = ofSide(left, side);
            const QString whose =
                sides.size() > 1 ? (side == Side::Left ? tr("left %1") : tr("right %1")) : QString("%1");
            handles.push_back(
                {id, qt(track.toPicture(track.at(id, sample))), track.isNearManual(id, sample), whose.arg(tr(name))});
        }
    m_point = std::min(m_point, static_cast<int>(handles.size()) - 1);
    m_stage->setHandles(std::move(handles), m_point);
    const auto& rep = presenter().result().reps[static_cast<std::size_t>(presenter().rep())];
    m_bar->setSet(rep.leg.has_value(),
                  rep.leg && *rep.leg == Side::Left ? tr("It is the right leg") : tr("It is the left leg"));
}

PointPlaced ReviewView::moveOf(Landmark id, const QPointF& at) const {
    const Track& track = presenter().track(m_second);
    const double atS = track.timesS[track.sampleAt(m_stage->shownTimeS())];
    double reach = m_bar->reachS();
    if (reach <= 0) {
        // To the further end of the repetition.
        const auto spans = presenter().spans(m_second);
        const int current = presenter().spanOfRep(m_second);
        reach = 0.6;
        if (current >= 0 && current < static_cast<int>(spans.size())) {
            const auto& span = spans[static_cast<std::size_t>(current)];
            reach = std::max({0.1, atS - span.startS, span.endS - atS});
        }
    }
    return {m_second, {atS, id, at.x(), at.y(), reach}};
}

/// While a point is in the hand only the newest place counts: it is measured when the window has nothing else to do, so
/// that the point never lags behind the hand.
void ReviewView::dragPoint(Landmark id, const QPointF& at, bool dropped) {
    if (dropped) {
        m_drag.reset();
        return takePoint(id, at);
    }
    const bool waiting = m_drag.has_value();
    m_drag = moveOf(id, at);
    if (waiting) return;
    QTimer::singleShot(0, this, [this] {
        const auto wish = std::exchange(m_drag, std::nullopt);
        if (!wish || !hasSet()) return;
        auto made = m_document->preview(*wish, m_try ? &*m_try : nullptr);
        if (!made) return;
        m_try = std::move(made);
        m_presenter->setState(*m_try);
        showValues();
    });
}

void ReviewView::takePoint(Landmark id, const QPointF& at) {
    const PointPlaced moved = moveOf(id, at);
    m_try.reset();
    m_presenter->setState(m_document->state());
    m_refining = true;  // the moment stays on the screen
    m_document->apply(moved, tr("a moved point"));
}

void ReviewView::stepPoint(int by) {
    const int n = static_cast<int>(m_stage->handles().size());
    if (n == 0) return;
    m_point = (std::max(0, m_point) + n + by) % n;
    refreshHandles();
}

void ReviewView::nudgePoint(const QPointF& by) {
    if (m_stage->tool() == Stage::Tool::Mark) return m_stage->moveCross(2 * by);
    if (!m_correcting || m_stage->handles().empty()) return;
    const auto& handle = m_stage->handles()[static_cast<std::size_t>(std::max(0, m_point))];
    takePoint(handle.id, handle.at + by);
}

/// Everything the coach placed in the picture that is shown goes back to what the network saw.
void ReviewView::pointsBack() {
    if (!hasSet()) return;
    m_refining = true;
    m_document->takeBack(
        [this](const Edit& e) {
            const auto* moved = std::get_if<PointPlaced>(&e);
            return moved && moved->second == m_second &&
                   std::abs(moved->point.atS - m_stage->shownTimeS()) <= std::max(0.05, moved->point.reachS);
        },
        tr("points put back"));
}

void ReviewView::setReps(Span within, std::vector<Span> reps, const QString& what) {
    // Two views at once have the repetitions of the first: what is said on the other clock is meant of those.
    const bool theirs = m_second && presenter().filmedApart();
    if (m_second && !theirs) {
        const double shift = presenter().inSecond(0);
        auto back = [shift](Span& s) { s.fromS -= shift, s.toS -= shift; };
        back(within);
        for (Span& s : reps) back(s);
    }
    m_refining = true;
    m_document->apply(RepetitionSet{theirs, {within, std::move(reps)}}, what);
}

std::optional<ReviewPresenter::RepSpan> ReviewView::chosenSpan() const {
    const auto spans = presenter().spans(m_second);
    const int at = presenter().spanOfRep(m_second);
    if (at < 0 || at >= static_cast<int>(spans.size())) return std::nullopt;
    return spans[static_cast<std::size_t>(at)];
}

void ReviewView::dragEdge(bool start, double timeS, bool dropped) {
    const auto span = chosenSpan();
    if (!span) return;
    constexpr double kLeastS = 0.3;
    // Not into its neighbours: they would share a stretch, and the next pull would take one of them away.
    double earliestS = -1e9, latestS = 1e9;
    for (const auto& other : presenter().spans(m_second)) {
        if (other.number < span->number) earliestS = std::max(earliestS, other.endS);
        if (other.number > span->number) latestS = std::min(latestS, other.startS);
    }
    const double from = start ? std::max(earliestS, std::min(timeS, span->bottomS - kLeastS)) : span->startS,
                 to = start ? span->endS : std::min(latestS, std::max(timeS, span->bottomS + kLeastS));
    if (dropped) return setReps({span->startS, span->endS}, {{from, to}}, tr("the ends of rep %1").arg(span->number));
    auto spans = presenter().spans(m_second);
    auto& mine = spans[static_cast<std::size_t>(presenter().spanOfRep(m_second))];
    mine.startS = from, mine.endS = to;
    m_stage->setSpans(spans, presenter().spanOfRep(m_second));
    m_stage->goTo(start ? from : to);
}

void ReviewView::moveEdge(bool start, int frames) {
    const auto span = chosenSpan();
    if (!span) return;
    const double step = frames / presenter().track(m_second).rate;
    dragEdge(start, (start ? span->startS : span->endS) + step, true);
}

void ReviewView::notARep() {
    if (const auto span = chosenSpan()) setReps({span->startS, span->endS}, {}, tr("rep %1 is none").arg(span->number));
}

void ReviewView::splitRep() {
    const auto span = chosenSpan();
    const double at = m_stage->shownTimeS();
    constexpr double kLeastS = 0.3;
    if (!span || at < span->startS + kLeastS || at > span->endS - kLeastS) return;
    setReps({span->startS, span->endS}, {{span->startS, at}, {at, span->endS}}, tr("rep %1 in two").arg(span->number));
}

void ReviewView::joinReps() {
    const auto spans = presenter().spans(m_second);
    const auto at = static_cast<std::size_t>(std::max(0, presenter().spanOfRep(m_second)));
    if (at + 1 >= spans.size()) return;
    const Span both{spans[at].startS, spans[at + 1].endS};
    setReps(both, {both}, tr("reps %1 and %2 in one").arg(spans[at].number).arg(spans[at + 1].number));
}

/// Around the moment shown, as wide as its neighbours leave room for, at most three seconds.
void ReviewView::addRep() {
    if (!hasSet()) return;
    constexpr double kHalfS = 1.5, kLeastS = 0.3;
    const double at = m_stage->shownTimeS();
    double from = std::max(presenter().track(m_second).timesS.front(), at - kHalfS),
           to = std::min(presenter().track(m_second).timesS.back(), at + kHalfS);
    for (const auto& span : presenter().spans(m_second)) {
        if (span.startS <= at && span.endS >= at) return;  // there is one
        if (span.endS < at) from = std::max(from, span.endS);
        if (span.startS > at) to = std::min(to, span.startS);
    }
    if (to - from < kLeastS) return;
    setReps({from, to}, {{from, to}}, tr("another rep"));
}

void ReviewView::nameLeg() {
    if (!hasSet()) return;
    const auto& rep = presenter().result().reps[static_cast<std::size_t>(presenter().rep())];
    if (!rep.leg) return;
    m_refining = true;
    m_document->apply(LegNamed{false, {rep.bottomS, otherSide(*rep.leg)}}, tr("the leg of rep %1").arg(rep.index));
}

void ReviewView::restsHere() {
    if (!hasSet()) return;
    m_refining = true;
    m_document->apply(RestPoseChosen{m_second, m_stage->shownTimeS()}, tr("where the client rests"));
}

void ReviewView::trim(bool begins) {
    if (!hasSet()) return;
    const auto& now = m_document->state().edited.views[m_second].trimmed;
    const auto& times = (m_second ? m_document->state().second : m_document->state().first)->poses;
    Span span = now ? *now : Span{times.front().timeS, times.back().timeS};
    (begins ? span.fromS : span.toS) = m_stage->shownTimeS();
    m_refining = true;
    m_document->apply(Trimmed{m_second, span}, begins ? tr("where the set begins") : tr("where the set ends"));
}

void ReviewView::untrim() {
    if (!hasSet()) return;
    m_refining = true;
    m_document->takeBack(
        [this](const Edit& e) {
            const auto* trimmed = std::get_if<Trimmed>(&e);
            return trimmed && trimmed->second == m_second;
        },
        tr("the whole clip"));
}

void ReviewView::tellLength(double cm) {
    m_refining = true;
    m_document->apply(ReferenceLength{m_second, {m_line.x1(), m_line.y1(), m_line.x2(), m_line.y2(), cm}},
                      tr("a true length"));
    chooseTool(Stage::Tool::Points);
}

void ReviewView::pinNote(const QString& text) {
    if (!hasSet()) return;
    m_refining = true;
    m_document->apply(NotePinned{m_second, m_stage->shownTimeS(), text.trimmed().toStdString()},
                      text.trimmed().isEmpty() ? tr("a note taken off") : tr("a note"));
}

/// The word pinned to the picture that is shown, or to one less than two frames away.
QString ReviewView::noteHere() const {
    for (const NotePinned& n : m_document->state().edited.views[m_second].notes)
        if (std::abs(n.atS - m_stage->shownTimeS()) < 1.5 / presenter().track(m_second).rate)
            return QString::fromStdString(n.text);
    return {};
}

void ReviewView::connectCorrecting() {
    connect(m_stage, &Stage::pointDragged, this, &ReviewView::dragPoint);
    connect(m_stage, &Stage::edgeDragged, this, &ReviewView::dragEdge);
    connect(m_stage, &Stage::lengthDrawn, this, [this](const QLineF& line) {
        m_line = line;
        m_bar->askLength(presenter().lengths());
    });
    connect(m_stage, &Stage::personClicked, this, [this](const QPointF& at) {
        m_bar->letGo();
        chooseTool(Stage::Tool::Points);
        m_bar->setHint(tr("The clip is followed again; the strip above shows how far it is."));
        emit personWanted(m_second, m_stage->shownTimeS(), at);
    });
    connect(m_bar, &CorrectBar::lengthWanted, this,
            [this](bool on) { chooseTool(on ? Stage::Tool::Length : Stage::Tool::Points); });
    connect(m_bar, &CorrectBar::personWanted, this,
            [this](bool on) { chooseTool(on ? Stage::Tool::Person : Stage::Tool::Points); });
    connect(m_bar, &CorrectBar::lengthTold, this, &ReviewView::tellLength);
    connectMarks();
    m_actions.on("correct", [this] { toggleCorrecting(); });
    m_actions.on("nextPoint", [this] { stepPoint(1); });
    m_actions.on("previousPoint", [this] { stepPoint(-1); });
    const std::pair<const char*, QPointF> nudges[] = {
        {"pointLeft", {-1, 0}}, {"pointRight", {1, 0}}, {"pointUp", {0, -1}}, {"pointDown", {0, 1}}};
    for (const auto& [id, by] : nudges) m_actions.on(id, [this, by = by] { nudgePoint(by); });
    const std::pair<const char*, void (ReviewView::*)()> plain[] = {
        {"notARep", &ReviewView::notARep},   {"splitRep", &ReviewView::splitRep},
        {"joinReps", &ReviewView::joinReps}, {"addRep", &ReviewView::addRep},
        {"nameLeg", &ReviewView::nameLeg},   {"restsHere", &ReviewView::restsHere},
        {"wholeClip", &ReviewView::untrim},  {"pointsBack", &ReviewView::pointsBack}};
    for (const auto& [id, slot] : plain) m_actions.on(id, [this, slot = slot] { (this->*slot)(); });
    m_actions.on("logSet", [this] { m_log->open(); });
    m_actions.on("pinNote", [this] { m_log->askNote(noteHere()); });
    m_actions.on("setBegins", [this] { trim(true); });
    m_actions.on("setEnds", [this] { trim(false); });
    m_actions.on("startEarlier", [this] { moveEdge(true, -1); });
    m_actions.on("startLater", [this] { moveEdge(true, 1); });
    m_actions.on("endEarlier", [this] { moveEdge(false, -1); });
    m_actions.on("endLater", [this] { moveEdge(false, 1); });
}

}  // namespace zevo::app

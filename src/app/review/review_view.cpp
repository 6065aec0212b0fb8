#include "app/review/review_view.h"

#include <QComboBox>
#include <QLabel>
#include <QPointer>
#include <QPushButton>
#include <QTimer>
#include <cmath>

namespace zevo::app {

using present::Overlay;

void ReviewView::setTheme(const Theme& theme) {
    m_theme = theme;
    m_strip->setTheme(theme);
    m_stage->setTheme(theme);
    m_card->setTheme(theme);
    m_column->setTheme(theme);
    m_plot->setTheme(theme);
    m_panel->setTheme(theme);
    m_feltPicker->setTheme(theme);
    if (hasSet()) refreshOffers();
    m_back->setIcon(icon("frame-back", theme.ink));
    m_on->setIcon(icon("frame-on", theme.ink));
    refreshTransport();
}

void ReviewView::setLengths(Lengths lengths) {
    if (!hasSet()) return;
    m_presenter->setLengths(lengths);
    refreshAll();
}

const record::Watchable& ReviewView::clip(bool second) const {
    static const record::Watchable none;
    const auto& edited = m_document->state().edited;
    const auto i = second && edited.second ? static_cast<std::size_t>(edited.second->observation) : 0;
    return i < m_clips.size() ? m_clips[i] : none;
}

void ReviewView::setSet(record::LoadedSet set, Lengths lengths) {
    m_following.clear();
    m_stage->setPlaying(false);
    m_presenter = std::make_unique<present::ReviewPresenter>(set.state, set.catalogue);
    m_presenter->setLengths(lengths);
    m_presenter->setScores(set.scores);
    m_scores = std::move(set.scores);
    Observations seen;
    for (const auto& s : set.stored.seen) seen.push_back(s.observation);
    const bool older = set.state.kept;
    m_document = std::make_unique<present::SetDocument>(
        std::move(seen), set.stored.edits, set.catalogue,
        older ? std::optional(set.stored.kept) : std::optional<KeptValues>(), std::move(set.state));
    connect(m_document.get(), &present::SetDocument::changed, this, &ReviewView::takeState);
    connect(m_document.get(), &present::SetDocument::refused, this, [this](const QString& why, const Error& error) {
        m_refining = false;
        refreshAll();  // controls that showed the wish go back to what is
        emit refused(why, error);
    });
    m_differencesOf.reset();
    m_before = std::move(set.before);
    m_refined = false;
    m_try.reset(), m_drag.reset();
    if (m_correcting) toggleCorrecting();
    m_clips = std::move(set.clips);
    m_stored = std::move(set.stored);
    m_stored.seen.clear();
    openView(false);
    refreshAll();
    showMoment();
}

void ReviewView::setCatalogue(std::shared_ptr<const Catalogue> catalogue) {
    const Lengths lengths = m_presenter->lengths();
    m_presenter = std::make_unique<present::ReviewPresenter>(m_document->state(), catalogue);
    m_presenter->setLengths(lengths);
    m_presenter->setScores(m_scores);
    m_document->setCatalogue(std::move(catalogue));
}

void ReviewView::takeState() {
    const bool hadSecond = presenter().hasSecond();
    m_presenter->setState(m_document->state());
    if (m_second && (!presenter().hasSecond() || !hadSecond)) openView(presenter().hasSecond() && m_second);
    refreshAll();
    // A change moves to what it changed; a reading that came later must not move what is being looked at.
    if (!std::exchange(m_refining, false)) showMoment();
    emit changed();
}

void ReviewView::openView(bool second) {
    m_second = second && presenter().hasSecond();
    const ClipFacts& facts = presenter().set().view(m_second).clip;
    const record::Watchable& shown = clip(m_second);
    m_stage->open(shown.path, shown.timesS, {facts.width, facts.height}, shown.missing);
}

void ReviewView::goTo(double timeS, bool second) {
    if (second != m_second) openView(second);
    m_stage->goTo(timeS);
}

void ReviewView::otherView() {
    if (!hasSet() || !presenter().hasSecond()) return;
    const double shift = presenter().inSecond(0);
    const double moment = m_second ? m_stage->timeS() - shift : m_stage->timeS() + shift;
    m_stage->setPlaying(false);
    goTo(moment, !m_second);
    refreshRep();
}

void ReviewView::refreshAll() {
    refreshAnswer();
    refreshAsks();
    m_strip->setTiles(presenter().tiles());
    m_standards->clear();
    for (const auto& s : presenter().standards()) {
        m_standards->addItem(QString::fromStdString(s.title), QString::fromStdString(s.id));
        m_standards->setItemData(m_standards->count() - 1, QString::fromStdString(s.reason), Qt::ToolTipRole);
    }
    m_standards->setCurrentIndex(m_standards->findData(QString::fromStdString(m_document->state().wholeStandard)));
    m_standards->setToolTip(QString::fromStdString(presenter().standard().reason).toHtmlEscaped());
    if (!m_panel->isHidden()) fillPanel();
    const SetFacts facts = m_document->facts();
    m_log->setFacts(facts, presenter().lengths());
    m_feltPicker->setPain({facts.pain.after, facts.pain.spots, facts.pain.sharp});
    m_feltPicker->setFelt(facts.felt);
    QStringList said;
    if (facts.pain.after) said.append(tr("pain %1").arg(*facts.pain.after));
    for (const auto& place : facts.felt) said.append(present::feltTitle(place).toLower());
    m_felt->setText(said.isEmpty() ? tr("After…") : said.size() == 1 ? said.front() : tr("%1, …").arg(said.front()));
    m_felt->setAccessibleDescription(said.join(", "));
    refreshOffers();
    QStringList notes = presenter().notes();
    for (const Error& e : m_document->catalogue().refused) notes.append(present::sentence(e));
    if (!client().consent) notes.prepend(tr("Consent to be filmed is not recorded for this client."));
    if (m_refined) notes.prepend(tr("Refined: read once more from the recording, picture by picture."));
    m_notes->setText(notes.join("\n"));
    m_notes->setVisible(!notes.isEmpty());
    refreshRep();
}

/// Only while it is looked at: its rows cost more than all of the page.
void ReviewView::fillPanel() {
    const auto& second = clip(true);
    m_panel->setSet(*m_document, presenter(), second.timesS.size() > 1 ? second.timesS[1] - second.timesS[0] : 1.0 / 30,
                    heldOn(), client().choices);
}

/// That older values are shown, and what measuring anew would change as soon as that is known.
QString ReviewView::keptOffer() {
    const QString measured = tr("Measured by an older Zevo. ");
    if (m_differencesOf != m_document->edits()) {
        m_differencesOf = m_document->edits();
        m_differences = tr("Finding out what measuring it anew would change …");
        m_document->askDifferences([this, of = QPointer(m_document.get()),
                                    edits = m_document->edits()](const auto& answer) {
            if (!of || of != m_document.get() || edits != m_document->edits()) return;
            const auto& book = m_document->catalogue().advice;
            m_differences =
                answer
                    ? tr("Measuring it anew would change: %1 <a href=\"anew\">Measure anew</a>")
                          .arg(present::differenceLines(*answer, book, presenter().lengths()).join(" ").toHtmlEscaped())
                    : tr("It cannot be measured anew: %1").arg(present::sentence(answer.error()).toHtmlEscaped());
            QTimer::singleShot(0, this, &ReviewView::refreshOffers);
        });
    }
    return measured + m_differences;
}

/// What could be done about the set as a whole, one line each, with a link to do it.
void ReviewView::refreshOffers() {
    QStringList offers;
    const QString looks = QString::fromStdString(presenter().result().looksLike);
    if (!looks.isEmpty())
        offers.append(tr("This looks like a %1, not a %2. <a href=\"movement:%1\">Measure it as a %1</a>")
                          .arg(looks, presenter().movementTitle().toLower()));
    const double stature = client().statureCm, used = m_document->facts().statureCm;
    if (stature > 0 && std::abs(stature - used) > 0.2)
        offers.append(tr("The client's stature was changed since. <a href=\"stature\">Measure with %1</a>")
                          .arg(present::statureText(stature, presenter().lengths())));
    if (m_document->isKept()) offers.append(keptOffer());
    m_offers->setText(offers.join("<br>").replace("<a ", QString("<a style=\"color:%1\" ").arg(m_theme.accent.name())));
    m_offers->setVisible(!offers.isEmpty());
}

/// What follows a point while it is dragged.
void ReviewView::showValues() {
    m_column->setReadings(presenter().readings(), presenter().measure(), presenter().lengths());
    m_plot->setCurve(presenter().curve(), presenter().lengths());
    m_plot->setCursor(m_stage->timeS());
    refreshOverlay();
}

void ReviewView::refreshRep() {
    m_strip->setCurrent(presenter().rep());
    m_card->setSaying(presenter().saying(), presenter().finding(), presenter().findingCount(),
                      presenter().overTheSet());
    m_column->setReadings(presenter().readings(), presenter().measure(), presenter().lengths());
    m_plot->setCurve(presenter().curve(), presenter().lengths());
    const auto spans = presenter().spans(m_second);
    const int current = presenter().spanOfRep(m_second);
    m_stage->setSpans(spans, current);
    if (current >= 0 && current < static_cast<int>(spans.size())) {
        const auto& span = spans[static_cast<std::size_t>(current)];
        m_stage->setLoop(m_stage->isLooping(), span.startS - 0.3, span.endS + 0.3);
    } else {
        m_stage->setLoop(false, 0, 0);
    }
    m_plot->setCursor(m_stage->timeS());
    refreshOverlay();
    refreshTransport();
}

/// Lines belong to the picture that is seen, not to the one that has been asked for.
void ReviewView::refreshOverlay() {
    if (!hasSet()) return;
    const Track& track = presenter().track(m_second);
    const double shownS = m_stage->shownTimeS();
    const std::size_t sample = track.sampleAt(shownS);
    QString text;
    bool here = !m_second;  // the measure belongs to the clip that is shown
    for (const auto& r : presenter().readings())
        if (r.measure == presenter().measureId()) {
            here = r.second == m_second;
            if (here && std::abs(r.atS - shownS) < 0.5 / track.rate) text = r.text;
        }
    const MeasureId measure = presenter().measureId();
    const auto span = chosenSpan();
    m_stage->setBody(present::bodyOver(track, span ? track.sampleAt(span->startS) : 0,
                                       span ? track.sampleAt(span->endS) : track.size() - 1));
    refreshHandles();
    refreshMarks();
    std::vector<double> notes;
    for (const NotePinned& n : m_document->state().edited.views[m_second].notes) notes.push_back(n.atS);
    m_stage->setNotes(std::move(notes), noteHere());
    m_stage->setOverlay(here ? present::overlayFor(measure, track, sample, presenter().standard().bandFor(measure),
                                                   presenter().leg(), m_document->state().set.view(m_second).back.get(),
                                                   m_document->state().set.view(m_second).marks.get())
                             : Overlay{},
                        text);
    m_stage->setSkeleton(m_skeleton ? present::skeletonOverlay(track, sample) : Overlay{}, m_skeleton);
    m_clock->setText(tr("%1 s · frame %2 of %3")
                         .arg(present::figures(m_stage->timeS(), 2))
                         .arg(m_stage->frame() + 1)
                         .arg(m_stage->frameCount()));
}

void ReviewView::refreshTransport() {
    m_play->setIcon(icon(m_stage->isPlaying() ? "pause" : "play", m_theme.ink));
    m_speed->setText(m_stage->speed() < 0.3 ? "¼×" : m_stage->speed() < 0.8 ? "½×" : "1×");
    m_loop->setChecked(m_stage->isLooping());
    m_loop->setIcon(icon("loop", m_loop->isChecked() ? m_theme.onAccent : m_theme.ink));
    m_figure->setChecked(m_skeleton);
    m_correct->setChecked(m_correcting);
    m_figure->setIcon(icon("figure", m_skeleton ? m_theme.onAccent : m_theme.ink));
    m_other->setVisible(hasSet() && presenter().hasSecond());
    if (!hasSet()) return;
    if (presenter().hasSecond()) m_other->setText(QString::fromStdString(viewName(presenter().track(!m_second).view)));
    const auto& rep = presenter().result().reps[static_cast<std::size_t>(presenter().rep())];
    m_leaveOut->setText(
        (presenter().isLeftOut(rep) ? tr("Count rep %1 again") : tr("Leave out rep %1")).arg(rep.index));
}

void ReviewView::chooseRep(int position) {
    if (!hasSet()) return;
    m_presenter->selectRep(position);
    refreshRep();
    for (const auto& r : presenter().readings())
        if (r.measure == presenter().measureId()) return goTo(r.atS, r.second);
    goTo(presenter().result().reps[static_cast<std::size_t>(presenter().rep())].bottomS, false);
}

void ReviewView::chooseFinding(int index) {
    if (!hasSet()) return;
    m_presenter->selectFinding(index);
    refreshRep();
    showMoment();
}

void ReviewView::chooseMeasure(const QString& id) {
    if (!hasSet()) return;
    m_presenter->selectMeasure(id);
    refreshRep();
    for (const auto& r : presenter().readings())
        if (r.id == id) goTo(r.atS, r.second);
    refreshRep();
}

void ReviewView::stepMeasure(int by) {
    if (!hasSet()) return;
    const auto list = presenter().readings();
    const int n = static_cast<int>(list.size());
    for (int i = 0; i < n; ++i)
        if (list[static_cast<std::size_t>(i)].measure == presenter().measureId())
            return chooseMeasure(list[static_cast<std::size_t>((i + n + by) % n)].id);
    if (n > 0) chooseMeasure(list.front().id);
}

void ReviewView::showMoment() {
    if (!hasSet()) return;
    if (presenter().findingCount() > 0) m_presenter->selectFinding(presenter().finding());
    refreshRep();
    m_stage->setPlaying(false);
    const auto saying = presenter().saying();
    goTo(saying.atS, saying.second);
    refreshRep();
}

void ReviewView::togglePlay() {
    m_stage->setPlaying(!m_stage->isPlaying());
}

void ReviewView::nextSpeed() {
    const bool playing = m_stage->isPlaying();
    m_stage->setPlaying(false);
    m_stage->setSpeed(m_stage->speed() < 0.3 ? 0.5 : m_stage->speed() < 0.8 ? 1.0 : 0.25);
    m_stage->setPlaying(playing);
    refreshTransport();
}

void ReviewView::toggleLoop() {
    if (!hasSet()) return;
    const auto spans = presenter().spans(m_second);
    // A second clip filmed apart has repetitions of its own: the one under the cursor is looped.
    int at = presenter().spanOfRep(m_second);
    for (std::size_t i = 0; at < 0 && i < spans.size(); ++i)
        if (m_stage->timeS() >= spans[i].startS && m_stage->timeS() <= spans[i].endS) at = static_cast<int>(i);
    if (at < 0 || at >= static_cast<int>(spans.size())) {
        m_stage->setLoop(false, 0, 0);
    } else {
        const auto& span = spans[static_cast<std::size_t>(at)];
        m_stage->setLoop(!m_stage->isLooping(), span.startS - 0.3, span.endS + 0.3);
    }
    refreshTransport();
}

void ReviewView::toggleSkeleton() {
    m_skeleton = !m_skeleton;
    refreshOverlay();
    refreshTransport();
}

void ReviewView::chooseStandard(const QString& id) {
    if (!hasSet() || id.isEmpty() || id.toStdString() == m_document->state().wholeStandard) return;
    m_document->apply(StandardChosen{id.toStdString()}, tr("choice of the standard"));
}

void ReviewView::nextStandard() {
    if (!hasSet()) return;
    const int next = (m_standards->currentIndex() + 1) % std::max(1, m_standards->count());
    chooseStandard(m_standards->itemData(next).toString());
}

void ReviewView::toggleLeftOut() {
    if (!hasSet()) return;
    const auto& rep = presenter().result().reps[static_cast<std::size_t>(presenter().rep())];
    const bool out = !presenter().isLeftOut(rep);
    m_document->apply(SpanLeftOut{presenter().currentSpan(), out},
                      (out ? tr("leaving out rep %1") : tr("counting rep %1 again")).arg(rep.index));
}

void ReviewView::setClient(const store::Client& client) {
    m_stored.client = client;
    SetFacts facts = m_document->facts();
    const PainCheck now = store::painOf(client, QDate::currentDate());
    facts.pain.redFlags = now.redFlags, facts.pain.cleared = now.cleared, facts.pain.limits = now.limits;
    if (now.before) facts.pain.before = now.before, facts.pain.spots = now.spots, facts.pain.sharp = now.sharp;
    if (facts.massKg <= 0) facts.massKg = client.massKg;  // one that was known when it was filmed stands
    if (facts == m_document->facts()) return refreshAll();
    m_document->apply(FactsSet{facts}, tr("what hurts"));
}

}  // namespace zevo::app

#include "app/review/review_view.h"

#include <QComboBox>
#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QUndoCommand>
#include <QUndoStack>
#include <cmath>

namespace zevo::app {

class ReviewView::StandardChange : public QUndoCommand {
  public:
    StandardChange(ReviewView* view, QString from, QString to)
        : m_view(view), m_from(std::move(from)), m_to(std::move(to)) {
        setText("choice of the standard");
    }
    void undo() override { m_view->applyStandard(m_from); }
    void redo() override { m_view->applyStandard(m_to); }

  private:
    ReviewView* m_view;
    QString m_from, m_to;
};

class ReviewView::LeaveOutChange : public QUndoCommand {
  public:
    LeaveOutChange(ReviewView* view, int rep, bool out) : m_view(view), m_rep(rep), m_out(out) {
        setText(QString(out ? "leaving out rep %1" : "counting rep %1 again").arg(rep));
    }
    void undo() override { m_view->applyLeftOut(m_rep, !m_out); }
    void redo() override { m_view->applyLeftOut(m_rep, m_out); }

  private:
    ReviewView* m_view;
    int m_rep;
    bool m_out;
};

void ReviewView::setTheme(const Theme& theme) {
    m_theme = theme;
    m_strip->setTheme(theme);
    m_stage->setTheme(theme);
    m_card->setTheme(theme);
    m_column->setTheme(theme);
    m_plot->setTheme(theme);
    m_panel->setTheme(theme);
    QPalette links = m_looks->palette();
    links.setColor(QPalette::Link, theme.accent);
    m_looks->setPalette(links);
    m_back->setIcon(icon("frame-back", theme.ink));
    m_on->setIcon(icon("frame-on", theme.ink));
    refreshTransport();
}

void ReviewView::setLengths(Lengths lengths) {
    if (!hasSet()) return;
    m_set.presenter->setLengths(lengths);
    refreshAll();
}

void ReviewView::setSet(const LoadedSet& set) {
    const Lengths lengths = hasSet() ? m_set.presenter->lengths() : set.presenter->lengths();
    // The same set measured anew keeps what can be undone.
    if (!hasSet() || m_set.id != set.id) m_undo->clear();
    m_set = set;
    m_set.presenter->setLengths(lengths);
    m_standards->clear();
    for (const auto& s : presenter().standards()) {
        m_standards->addItem(QString::fromStdString(s.title), QString::fromStdString(s.id));
        m_standards->setItemData(m_standards->count() - 1, QString::fromStdString(s.reason), Qt::ToolTipRole);
    }
    openView(false);
    refreshAll();
    showMoment();
}

void ReviewView::openView(bool second) {
    m_second = second && presenter().hasSecond();
    if (m_second) {
        const ClipFacts& clip = presenter().result().second->clip;
        m_stage->open(m_set.secondPath, m_set.secondTimesS, {clip.width, clip.height}, m_set.secondMissing);
    } else {
        const ClipFacts& clip = presenter().result().clip;
        m_stage->open(m_set.viewingPath, m_set.frameTimesS, {clip.width, clip.height}, m_set.missing);
    }
}

void ReviewView::goTo(double timeS, bool second) {
    if (second != m_second) openView(second);
    m_stage->goTo(timeS);
}

double ReviewView::repTime(double timeS) const {
    return m_second ? presenter().inSecond(timeS) : timeS;
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
    m_strip->setTiles(presenter().tiles());
    m_standards->setCurrentIndex(m_standards->findData(QString::fromStdString(presenter().standard().id)));
    m_standards->setToolTip(QString::fromStdString(presenter().standard().reason));
    m_panel->setSet(m_set);
    const QString looks = QString::fromStdString(presenter().result().looksLike);
    m_looks->setVisible(!looks.isEmpty());
    m_looks->setText(QString("This looks like a %1, not a %2. <a href=\"%1\">Measure it as a %1</a>")
                         .arg(looks, presenter().movementTitle().toLower()));
    QStringList notes = presenter().notes() + m_set.refusedStandards;
    if (!m_set.client.consent) notes.prepend("Consent to be filmed is not recorded for this client.");
    m_notes->setText(notes.join("\n"));
    m_notes->setVisible(!notes.isEmpty());
    refreshRep();
}

void ReviewView::refreshRep() {
    const auto& reps = presenter().result().reps;
    m_strip->setCurrent(presenter().rep());
    m_card->setSaying(presenter().saying(), presenter().finding(), presenter().findingCount(),
                      presenter().overTheSet());
    m_column->setReadings(presenter().readings(), presenter().measure(), presenter().lengths());
    m_plot->setCurve(presenter().curve(), presenter().lengths());
    std::vector<std::pair<double, double>> spans;
    for (const auto& r : reps) spans.emplace_back(repTime(r.startS), repTime(r.endS));
    m_stage->setSpans(spans, presenter().rep());
    const auto& rep = reps[static_cast<std::size_t>(presenter().rep())];
    m_stage->setLoop(m_stage->isLooping(), repTime(rep.startS) - 0.3, repTime(rep.endS) + 0.3);
    m_plot->setCursor(m_stage->timeS());
    refreshOverlay();
    refreshTransport();
}

void ReviewView::refreshOverlay() {
    if (!hasSet()) return;
    const Track& track = presenter().track(m_second);
    const std::size_t sample = track.sampleAt(m_stage->timeS());
    const std::string measure = presenter().measure().toStdString();
    QString text;
    bool here = !m_second;  // the measure belongs to the clip that is shown
    for (const auto& r : presenter().readings())
        if (r.id == presenter().measure()) {
            here = r.second == m_second;
            if (here && std::abs(r.atS - m_stage->timeS()) < 0.5 / track.rate) text = r.text;
        }
    m_stage->setOverlay(
        here ? overlayFor(measure, track, sample, presenter().standard().bandFor(measure), presenter().leg())
             : Overlay{},
        text);
    m_stage->setSkeleton(m_skeleton ? skeletonOverlay(track, sample) : Overlay{}, m_skeleton);
    m_clock->setText(QString("%1 s · frame %2 of %3")
                         .arg(m_stage->timeS(), 0, 'f', 2)
                         .arg(m_stage->frame() + 1)
                         .arg(m_stage->frameCount()));
}

void ReviewView::refreshTransport() {
    m_play->setIcon(icon(m_stage->isPlaying() ? "pause" : "play", m_theme.ink));
    m_speed->setText(m_stage->speed() < 0.3 ? "¼×" : m_stage->speed() < 0.8 ? "½×" : "1×");
    m_loop->setChecked(m_stage->isLooping());
    m_loop->setIcon(icon("loop", m_loop->isChecked() ? m_theme.onAccent : m_theme.ink));
    m_figure->setChecked(m_skeleton);
    m_figure->setIcon(icon("figure", m_skeleton ? m_theme.onAccent : m_theme.ink));
    m_other->setVisible(hasSet() && presenter().hasSecond());
    if (hasSet() && presenter().hasSecond())
        m_other->setText(QString::fromStdString(viewName(presenter().track(!m_second).view)));
    if (hasSet()) {
        const int rep = presenter().result().reps[static_cast<std::size_t>(presenter().rep())].index;
        m_leaveOut->setText(QString(presenter().isLeftOut(rep) ? "Count rep %1 again" : "Leave out rep %1").arg(rep));
    }
}

void ReviewView::chooseRep(int position) {
    if (!hasSet()) return;
    m_set.presenter->selectRep(position);
    refreshRep();
    for (const auto& r : presenter().readings())
        if (r.id == presenter().measure()) return goTo(r.atS, r.second);
    goTo(presenter().result().reps[static_cast<std::size_t>(presenter().rep())].bottomS, false);
}

void ReviewView::chooseFinding(int index) {
    if (!hasSet()) return;
    m_set.presenter->selectFinding(index);
    refreshRep();
    showMoment();
}

void ReviewView::chooseMeasure(const QString& id) {
    if (!hasSet()) return;
    m_set.presenter->selectMeasure(id);
    refreshRep();
    for (const auto& r : presenter().readings())
        if (r.id == id) goTo(r.atS, r.second);
    refreshRep();
}

void ReviewView::showMoment() {
    if (!hasSet()) return;
    if (presenter().findingCount() > 0) m_set.presenter->selectFinding(presenter().finding());
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
    const auto& rep = presenter().result().reps[static_cast<std::size_t>(presenter().rep())];
    m_stage->setLoop(!m_stage->isLooping(), repTime(rep.startS) - 0.3, repTime(rep.endS) + 0.3);
    refreshTransport();
}

void ReviewView::toggleSkeleton() {
    m_skeleton = !m_skeleton;
    refreshOverlay();
    refreshTransport();
}

void ReviewView::chooseStandard(const QString& id) {
    const QString now = QString::fromStdString(presenter().standard().id);
    if (id != now) m_undo->push(new StandardChange(this, now, id));
}

void ReviewView::applyStandard(const QString& id) {
    m_set.presenter->chooseStandard(id.toStdString());
    refreshAll();
    showMoment();
    emit standardChosen(id);
}

void ReviewView::toggleLeftOut() {
    if (!hasSet()) return;
    const int rep = presenter().result().reps[static_cast<std::size_t>(presenter().rep())].index;
    m_undo->push(new LeaveOutChange(this, rep, !presenter().isLeftOut(rep)));
}

void ReviewView::applyLeftOut(int rep, bool out) {
    m_set.presenter->setLeftOut(rep, out);
    refreshAll();
    emit leftOutChanged(rep, out);
}

void ReviewView::keyPressEvent(QKeyEvent* e) {
    if (!hasSet()) return QWidget::keyPressEvent(e);
    const bool shift = e->modifiers() & Qt::ShiftModifier;
    switch (e->key()) {
        case Qt::Key_Space: togglePlay(); break;
        case Qt::Key_Left: m_stage->step(shift ? -10 : -1); break;
        case Qt::Key_Right: m_stage->step(shift ? 10 : 1); break;
        case Qt::Key_Up: chooseRep(presenter().rep() - 1); break;
        case Qt::Key_Down: chooseRep(presenter().rep() + 1); break;
        case Qt::Key_N: chooseFinding(presenter().finding() + (shift ? -1 : 1)); break;
        case Qt::Key_M: {
            const auto list = presenter().readings();
            for (std::size_t i = 0; i < list.size(); ++i)
                if (list[i].id == presenter().measure()) {
                    chooseMeasure(list[(i + (shift ? list.size() - 1 : 1)) % list.size()].id);
                    break;
                }
            break;
        }
        case Qt::Key_W: m_card->otherWords(); break;
        case Qt::Key_C: m_card->showPart(SayCard::Part::Change); break;
        case Qt::Key_P: m_card->showPart(SayCard::Part::Prepare); break;
        case Qt::Key_F: m_card->showPart(SayCard::Part::Set); break;
        case Qt::Key_T: m_panel->toggle(); break;
        case Qt::Key_V: otherView(); break;
        case Qt::Key_Q: m_card->showPart(SayCard::Part::Progress); break;
        case Qt::Key_Return:
        case Qt::Key_Enter: showMoment(); break;
        case Qt::Key_S: nextSpeed(); break;
        case Qt::Key_L: toggleLoop(); break;
        case Qt::Key_K: toggleSkeleton(); break;
        case Qt::Key_X: toggleLeftOut(); break;
        case Qt::Key_J: {
            const int next = (m_standards->currentIndex() + 1) % std::max(1, m_standards->count());
            chooseStandard(m_standards->itemData(next).toString());
            break;
        }
        default:
            if (e->key() >= Qt::Key_1 && e->key() <= Qt::Key_9 && e->modifiers() == Qt::NoModifier)
                return chooseRep(e->key() - Qt::Key_1);
            QWidget::keyPressEvent(e);
    }
}

}  // namespace zevo::app

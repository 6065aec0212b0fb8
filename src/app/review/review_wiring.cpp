// What actions, keys and the parts of the page do.
#include <QKeyEvent>
#include <QPushButton>

#include "app/review/review_view.h"

namespace zevo::app {

void ReviewView::connectActions() {
    const std::pair<const char*, void (ReviewView::*)()> plain[] = {
        {"speed", &ReviewView::nextSpeed},         {"loop", &ReviewView::toggleLoop},
        {"skeleton", &ReviewView::toggleSkeleton}, {"otherView", &ReviewView::otherView},
        {"leaveOut", &ReviewView::toggleLeftOut},  {"nextStandard", &ReviewView::nextStandard}};
    for (const auto& [id, slot] : plain) m_actions.on(id, [this, slot = slot] { (this->*slot)(); });
    m_actions.on("nextFinding", [this] { chooseFinding(presenter().finding() + 1); });
    m_actions.on("previousFinding", [this] { chooseFinding(presenter().finding() - 1); });
    m_actions.on("nextMeasure", [this] { stepMeasure(1); });
    m_actions.on("previousMeasure", [this] { stepMeasure(-1); });
    m_actions.on("giveCue", [this] { giveCue(); });
    m_actions.on("ownWords", [this] { m_card->askOwnWords(); });
    connect(m_card, &SayCard::ownWordsGiven, this, &ReviewView::giveOwnWords);
    m_actions.on("watchOnly", [this] { watchOnly(); });
    m_actions.on("words", [this] { m_card->otherWords(); });
    m_actions.on("change", [this] { m_card->showPart(SayCard::Part::Change); });
    m_actions.on("askChange", [this] {
        m_card->showPart(SayCard::Part::Change);
        m_card->askChange();
    });
    m_actions.on("prepare", [this] { m_card->showPart(SayCard::Part::Prepare); });
    m_actions.on("overSet", [this] { m_card->showPart(SayCard::Part::Set); });
    m_actions.on("progress", [this] { m_card->showPart(SayCard::Part::Progress); });
    m_actions.on("aboutSet", [this] {
        if (m_panel->isHidden()) fillPanel();
        m_panel->toggle();
    });
    m_actions.bind(m_speed, "speed");
    m_actions.bind(m_loop, "loop");
    m_actions.bind(m_figure, "skeleton");
    m_actions.bind(m_other, "otherView");
    m_actions.bind(m_leaveOut, "leaveOut");
    m_actions.bind(m_about, "aboutSet");
    m_actions.bind(m_felt, "afterSet");
    m_actions.on("afterSet", [this] { m_feltPicker->toggle(); });
}

void ReviewView::connectPanel() {
    connect(m_log, &LogRow::factsChosen, this, [this](const SetFacts& facts) {
        m_refining = true;  // what is looked at stays
        m_document->apply(FactsSet{facts}, tr("the log of the set"));
    });
    connect(m_log, &LogRow::noteWanted, this, &ReviewView::pinNote);
    connect(m_panel, &SetPanel::factsChosen, this,
            [this](const SetFacts& facts) { m_document->apply(FactsSet{facts}, tr("change to the set")); });
    connect(m_panel, &SetPanel::secondRemoved, this,
            [this] { m_document->apply(SecondRemoved{}, tr("taking the other view away")); });
    connect(m_panel, &SetPanel::nudged, this, [this](double byS) {
        const auto& second = fold(m_document->edits()).second;
        if (second) m_document->apply(SecondNudged{second->nudgeS + byS}, tr("moving the other view"));
    });
    connect(m_panel, &SetPanel::togetherChosen, this,
            [this](bool sameTake) { m_document->apply(FilmedSeparately{sameTake}, tr("change to the other view")); });
    connect(m_panel, &SetPanel::heldOnChosen, this, [this](const QDate& day) {
        m_stored.heldOn = day;
        emit heldOnChosen(day);
    });
    connect(m_panel, &SetPanel::choicesKept, this, [this](const Choices& choices) {
        store::Client next = client();
        next.choices = choices;
        emit clientChanged(next);
    });
    connect(m_feltPicker, &FeltPicker::felt, this, [this](const std::vector<std::string>& places) {
        SetFacts facts = m_document->facts();
        facts.felt = places;
        m_document->apply(FactsSet{facts}, tr("where it was felt"));
    });
    connect(m_feltPicker, &FeltPicker::painAnswered, this, [this](const PainRow::Answer& a) {
        SetFacts facts = m_document->facts();
        facts.pain.after = a.score;
        facts.pain.spots = a.spots;
        facts.pain.sharp = a.sharp;
        m_document->apply(FactsSet{facts}, tr("the pain after the set"));
    });
}

bool ReviewView::takesDigit(QKeyEvent* e) {
    if (!hasSet() || e->key() < Qt::Key_1 || e->key() > Qt::Key_9 || e->modifiers() != Qt::NoModifier) return false;
    chooseRep(e->key() - Qt::Key_1);
    return true;
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
        case Qt::Key_Return:
        case Qt::Key_Enter: showMoment(); break;
        default:
            if (!takesDigit(e)) QWidget::keyPressEvent(e);
    }
}

}  // namespace zevo::app

#include "app/parts/actions.h"

#include <QAbstractButton>
#include <QCoreApplication>
#include <QKeySequence>
#include <QStringList>

namespace zevo::app {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("keys", text);
}

QList<QKeySequence> keysOf(const KeyRow& row) {
    QList<QKeySequence> out;
    for (const QString& key : QString(row.keys).split(' ', Qt::SkipEmptyParts))
        out.append(QKeySequence::fromString(key, QKeySequence::PortableText));
    return out;
}

QString shown(const KeyRow& row) {
    QStringList out;
    for (const QString& key : QString(row.keys).split(' ', Qt::SkipEmptyParts))
        out.append(row.where == Where::Focus ? key : QKeySequence(key).toString(QKeySequence::NativeText));
    return out.join("  ");
}

}  // namespace

const std::vector<KeyRow>& keyTable() {
    static const std::vector<KeyRow> all{
        {"rep", "↑ ↓", QT_TRANSLATE_NOOP("keys", "choose the rep; 1–9 too"), Where::Focus},
        {"frame", "← →", QT_TRANSLATE_NOOP("keys", "one frame back, on; with Shift ten"), Where::Focus},
        {"space", "Space", QT_TRANSLATE_NOOP("keys", "play, pause"), Where::Focus},
        {"enter", "Enter", QT_TRANSLATE_NOOP("keys", "show the moment of the finding"), Where::Focus},
        {"speed", "S", QT_TRANSLATE_NOOP("keys", "speed ¼×, ½×, 1×"), Where::Review},
        {"loop", "L", QT_TRANSLATE_NOOP("keys", "loop the rep"), Where::Review},
        {"nextFinding", "N", QT_TRANSLATE_NOOP("keys", "next finding; with Shift the one before"), Where::Review},
        {"previousFinding", "Shift+N", "", Where::Review},
        {"words", "W", QT_TRANSLATE_NOOP("keys", "say it in other words"), Where::Review},
        {"change", "C", QT_TRANSLATE_NOOP("keys", "what to change"), Where::Review},
        {"askChange", "Alt+C", QT_TRANSLATE_NOOP("keys", "ask the change of the next set; again: do not"),
         Where::Review},
        {"prepare", "P", QT_TRANSLATE_NOOP("keys", "what to prepare"), Where::Review},
        {"progress", "Q", QT_TRANSLATE_NOOP("keys", "when it is clean"), Where::Review},
        {"overSet", "F", QT_TRANSLATE_NOOP("keys", "what happens over the set"), Where::Review},
        {"nextMeasure", "M", QT_TRANSLATE_NOOP("keys", "next measure; with Shift the one before"), Where::Review},
        {"previousMeasure", "Shift+M", "", Where::Review},
        {"nextStandard", "J", QT_TRANSLATE_NOOP("keys", "judge by the next standard"), Where::Review},
        {"skeleton", "K", QT_TRANSLATE_NOOP("keys", "all tracked points"), Where::Review},
        {"otherView", "V", QT_TRANSLATE_NOOP("keys", "the other view of the set"), Where::Review},
        {"aboutSet", "T", QT_TRANSLATE_NOOP("keys", "about this set: movement, load, pain, other view"), Where::Review},
        {"afterSet", "A", QT_TRANSLATE_NOOP("keys", "after the set: pain, and where it was felt"), Where::Review},
        {"leaveOut", "X", QT_TRANSLATE_NOOP("keys", "this rep does not count, or counts again"), Where::Review},
        {"deleteSet", "Shift+Del", QT_TRANSLATE_NOOP("keys", "delete this set"), Where::Review},
        {"giveCue", "I", QT_TRANSLATE_NOOP("keys", "these words were given; again: they were not"), Where::Review},
        {"watchOnly", "Shift+I", QT_TRANSLATE_NOOP("keys", "nothing was said: watching"), Where::Review},
        {"ownWords", "Alt+I", QT_TRANSLATE_NOOP("keys", "something else was said: your own words"), Where::Review},
        {"compare", "B", QT_TRANSLATE_NOOP("keys", "compare this set; there again: back"), Where::Review},
        {"compareBack", "B", "", Where::Compare},
        {"compareOver", "V", QT_TRANSLATE_NOOP("keys", "comparing: one over the other, or side by side"),
         Where::Compare},
        {"compareMeasure", "M", QT_TRANSLATE_NOOP("keys", "comparing: the next measure"), Where::Compare},
        {"compareWith", "W", QT_TRANSLATE_NOOP("keys", "comparing: with what"), Where::Compare},
        {"compareSwap", "X", QT_TRANSLATE_NOOP("keys", "comparing: sides change places"), Where::Compare},
        {"correct", "E", QT_TRANSLATE_NOOP("keys", "correct what Zevo saw: points, reps, rest, scale"), Where::Review},
        {"nextPoint", ".", QT_TRANSLATE_NOOP("keys", "correcting: the next point; Alt and arrows move it"),
         Where::Review},
        {"previousPoint", ",", "", Where::Review},
        {"pointLeft", "Alt+Left", "", Where::Review},
        {"pointRight", "Alt+Right", "", Where::Review},
        {"pointUp", "Alt+Up", "", Where::Review},
        {"pointDown", "Alt+Down", "", Where::Review},
        {"pointsBack", "Alt+Backspace", QT_TRANSLATE_NOOP("keys", "points of this moment as the network saw them"),
         Where::Review},
        {"mark", "Ctrl+M", QT_TRANSLATE_NOOP("keys", "mark a point to be followed: bar, bell, tape, stick"),
         Where::Review},
        {"markHere", "Ctrl+Return",
         QT_TRANSLATE_NOOP("keys", "marking: it is where the cross is; Alt and arrows move the cross"), Where::Review},
        {"notARep", "Shift+X", QT_TRANSLATE_NOOP("keys", "this is no rep at all"), Where::Review},
        {"splitRep", "Ctrl+B", QT_TRANSLATE_NOOP("keys", "two reps, parted here"), Where::Review},
        {"joinReps", "Ctrl+J", QT_TRANSLATE_NOOP("keys", "one rep with the next"), Where::Review},
        {"addRep", "Ctrl+E", QT_TRANSLATE_NOOP("keys", "there is a rep here"), Where::Review},
        {"startEarlier", "Ctrl+Left", QT_TRANSLATE_NOOP("keys", "the rep starts a frame earlier; Ctrl+→ later"),
         Where::Review},
        {"startLater", "Ctrl+Right", "", Where::Review},
        {"endEarlier", "Ctrl+Shift+Left", QT_TRANSLATE_NOOP("keys", "the rep ends a frame earlier; with → later"),
         Where::Review},
        {"endLater", "Ctrl+Shift+Right", "", Where::Review},
        {"nameLeg", "Shift+L", QT_TRANSLATE_NOOP("keys", "it was the other leg"), Where::Review},
        {"restsHere", "Shift+S", QT_TRANSLATE_NOOP("keys", "the client is at rest here"), Where::Review},
        {"setBegins", "Ctrl+[", QT_TRANSLATE_NOOP("keys", "the set begins here"), Where::Review},
        {"setEnds", "Ctrl+]", QT_TRANSLATE_NOOP("keys", "the set ends here"), Where::Review},
        {"wholeClip", "Ctrl+0", QT_TRANSLATE_NOOP("keys", "the whole clip is the set"), Where::Review},
        {"logSet", "Y", QT_TRANSLATE_NOOP("keys", "log the set: kind, load, aids, shoes, effort, note"), Where::Review},
        {"pinNote", "Ctrl+N", QT_TRANSLATE_NOOP("keys", "pin a word to this picture"), Where::Review},
        {"film", "R", QT_TRANSLATE_NOOP("keys", "film a set; after one, the next of the same client")},
        {"filmOther", "Shift+R", QT_TRANSLATE_NOOP("keys", "film this set from another side as well"), Where::Review},
        {"filmPress", "PgDown PgUp", QT_TRANSLATE_NOOP("keys", "start and stop filming; also Space, Enter"),
         Where::Film},
        {"otherClient", "B", QT_TRANSLATE_NOOP("keys", "the client filmed before this one, and back"), Where::Film},
        {"clientDisplay", "E", QT_TRANSLATE_NOOP("keys", "a second picture, turned to the client"), Where::Film},
        {"showCue", "C", QT_TRANSLATE_NOOP("keys", "show the cue during the set, or hide it"), Where::Film},
        {"incoming", "Ctrl+I", QT_TRANSLATE_NOOP("keys", "choose the folder for clips from a phone")},
        {"palette", "Ctrl+K", QT_TRANSLATE_NOOP("keys", "everything that can be done, by its words")},
        {"clientPage", "Ctrl+P", QT_TRANSLATE_NOOP("keys", "the client's page: goals, what works, course, sets")},
        {"takeTarget", "Ctrl+T",
         QT_TRANSLATE_NOOP("keys", "what is measured here is right for this client: own target"), Where::Review},
        {"openClip", "O", QT_TRANSLATE_NOOP("keys", "open a clip; it is measured in the background")},
        {"showReady", "G", QT_TRANSLATE_NOOP("keys", "go to the set that was measured last")},
        {"home", "H", QT_TRANSLATE_NOOP("keys", "clients and their sets")},
        {"look", "D", QT_TRANSLATE_NOOP("keys", "light or dark")},
        {"units", "U", QT_TRANSLATE_NOOP("keys", "metric or US units")},
        {"pain", "!", QT_TRANSLATE_NOOP("keys", "does anything hurt? the question for this client")},
        {"rules", "Shift+F1", QT_TRANSLATE_NOOP("keys", "the stop rules")},
        {"undo", "Ctrl+Z", QT_TRANSLATE_NOOP("keys", "undo")},
        {"redo", "Ctrl+Y Ctrl+Shift+Z", QT_TRANSLATE_NOOP("keys", "redo")},
        {"stopWork", "Esc", QT_TRANSLATE_NOOP("keys", "stop measuring; the strip shows what")},
        {"tab", "Tab", QT_TRANSLATE_NOOP("keys", "to the next control"), Where::Focus},
        {"keys", "? F1", QT_TRANSLATE_NOOP("keys", "this page")},
        {"copyDetails", "Ctrl+Shift+C", QT_TRANSLATE_NOOP("keys", "the details of what went wrong, to read and copy")},
        {"coachName", "Ctrl+Alt+N", QT_TRANSLATE_NOOP("keys", "who works at this computer: stands with every change")},
        {"quit", "Ctrl+Q", QT_TRANSLATE_NOOP("keys", "close Zevo")}};
    return all;
}

Sheet::Rows keyRows() {
    Sheet::Rows out;
    for (const KeyRow& row : keyTable())
        if (*row.text) out.emplace_back(shown(row), tr(row.text));
    return out;
}

Actions::Actions(QWidget* window) {
    for (const KeyRow& row : keyTable()) {
        if (row.where == Where::Focus) continue;
        auto* action = new QAction(tr(*row.text ? row.text : row.id), window);
        action->setObjectName(row.id);
        action->setShortcuts(keysOf(row));
        action->setAutoRepeat(QString(row.id).startsWith("next") || QString(row.id).startsWith("previous") ||
                              QString(row.id).startsWith("point") || QString(row.id).startsWith("start") ||
                              QString(row.id).startsWith("end") || QString(row.id) == "undo" ||
                              QString(row.id) == "redo");
        action->setProperty("where", static_cast<int>(row.where));
        QString tip = action->text();
        if (!tip.isEmpty()) tip[0] = tip[0].toUpper();
        action->setToolTip(QString("%1 (%2)").arg(tip, shown(row)));
        window->addAction(action);
        m_all[row.id] = action;
    }
}

QAction* Actions::get(const char* id) const {
    const auto found = m_all.find(id);
    Q_ASSERT(found != m_all.end());
    return found->second;
}

std::vector<QAction*> Actions::worded() const {
    std::vector<QAction*> out;
    for (const KeyRow& row : keyTable())
        if (row.where != Where::Focus && *row.text && QString(row.id) != "palette") out.push_back(get(row.id));
    return out;
}

void Actions::on(const char* id, std::function<void()> slot) {
    QObject::connect(get(id), &QAction::triggered, get(id), std::move(slot));
}

void Actions::bind(QAbstractButton* button, const char* id) {
    QAction* action = get(id);
    auto follow = [button, action] {
        button->setEnabled(action->isEnabled());
        button->setToolTip(action->toolTip());
        button->setAccessibleName(action->toolTip());
    };
    QObject::connect(action, &QAction::changed, button, follow);
    QObject::connect(button, &QAbstractButton::clicked, action, [action] { action->trigger(); });
    follow();
}

void Actions::setPage(Where page) {
    for (const auto& [id, action] : m_all)
        if (const auto where = static_cast<Where>(action->property("where").toInt()); where != Where::Everywhere)
            action->setEnabled(where == page);
}

}  // namespace zevo::app

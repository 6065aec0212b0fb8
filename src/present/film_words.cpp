#include "present/film_words.h"

#include <QCoreApplication>
#include <QLocale>
#include <cmath>

namespace zevo::present {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("film", text);
}

/// Lengths a hand can do without a tape: to five centimetres, or two inches.
QString about(double metres, Lengths lengths) {
    if (lengths == Lengths::Us) {
        const double inches = std::max(2.0, 2 * std::round(metres * 100 / 2.54 / 2));
        return tr("about %1 in").arg(QLocale().toString(inches, 'f', 0));
    }
    const double cm = std::max(5.0, 5 * std::round(metres * 20));
    return tr("about %1 cm").arg(QLocale().toString(cm, 'f', 0));
}

/// A step is 0.7 m.
QString steps(double metres) {
    const int halves = std::max(1, static_cast<int>(std::lround(metres / 0.35)));
    if (halves == 1) return tr("half a step");
    if (halves == 2) return tr("one step");
    if (halves == 3) return tr("one and a half steps");
    return tr("%1 steps").arg(QLocale().toString(halves / 2.0, 'g', 2));
}

/// A hand's width at the end of the arm is ten degrees.
QString turn(double degrees) {
    if (degrees < 4) return tr("a finger's width");
    if (degrees < 14) return tr("a hand's width");
    return tr("two hands' widths");
}

/// Steps round a client three metres away.
QString walk(double degrees) {
    return steps(3.3 * std::sin(degrees * 0.0174533));
}

}  // namespace

QString cameraSentence(const CameraAdvice& a, Lengths lengths) {
    switch (a.move) {
        case CameraMove::Back: return tr("Camera back: %1").arg(steps(a.amount));
        case CameraMove::Nearer: return tr("Camera nearer: %1").arg(steps(a.amount));
        case CameraMove::Up: return tr("Raise the camera %1").arg(about(a.amount, lengths));
        case CameraMove::Down: return tr("Lower the camera %1").arg(about(a.amount, lengths));
        case CameraMove::AimLeft: return tr("Turn it to the left: %1").arg(turn(a.amount));
        case CameraMove::AimRight: return tr("Turn it to the right: %1").arg(turn(a.amount));
        case CameraMove::AimUp: return tr("Tip it up: %1").arg(turn(a.amount));
        case CameraMove::AimDown: return tr("Tip it down: %1").arg(turn(a.amount));
        case CameraMove::WalkLeft: return tr("Walk it to the left: %1").arg(walk(a.amount));
        case CameraMove::WalkRight: return tr("Walk it to the right: %1").arg(walk(a.amount));
        case CameraMove::LevelLeft: return tr("Level it: its left side down, %1°").arg(std::lround(a.amount));
        case CameraMove::LevelRight: return tr("Level it: its right side down, %1°").arg(std::lround(a.amount));
        case CameraMove::None: break;
    }
    switch (a.problem) {
        case CameraProblem::Nobody: return tr("Step in, or come nearer");
        case CameraProblem::OffSquare: return tr("Stand sideways, or face the camera");
        case CameraProblem::ShinHidden: return tr("Clear what hides the shin");
        case CameraProblem::SomebodyElse: return tr("One person in the picture, please");
        case CameraProblem::Dark: return tr("More light on the client");
        case CameraProblem::Blurred: return tr("The picture is blurred: wipe or focus it");
        case CameraProblem::FewFrames: return tr("Too few pictures a second");
        default: return tr("Move the camera");
    }
}

QString cameraReason(CameraProblem problem) {
    switch (problem) {
        case CameraProblem::Nobody: return tr("nobody is seen; somebody far away is not found");
        case CameraProblem::CutOff: return tr("part of the body is outside, now or at the turning point");
        case CameraProblem::TooNear: return tr("there is no room for the movement");
        case CameraProblem::TooFar: return tr("so small a body is measured roughly");
        case CameraProblem::Rolled: return tr("it is not level: every angle against the floor is off by that much");
        case CameraProblem::OffSquare: return tr("it does not stand square: angles come out too small");
        case CameraProblem::TooLow: return tr("it looks up: it should stand at the height of the hips");
        case CameraProblem::TooHigh: return tr("it looks down: it should stand at the height of the hips");
        case CameraProblem::ShinHidden: return tr("something stands before the shin");
        case CameraProblem::SomebodyElse: return tr("the wrong one may be followed");
        case CameraProblem::Dark: return tr("dark pictures shake");
        case CameraProblem::Blurred: return tr("edges are blurred, so joints are");
        case CameraProblem::FewFrames:
            return tr("the camera delivers fewer than it promised; more light or another size may help");
    }
    return {};
}

QString endedBecause(FilmingSwitch::Reason reason) {
    switch (reason) {
        case FilmingSwitch::Reason::Still: return tr("stood still");
        case FilmingSwitch::Reason::Hand: return tr("a hand went up");
        case FilmingSwitch::Reason::Gone: return tr("left the picture");
        case FilmingSwitch::Reason::Nothing: return tr("nothing happened");
        case FilmingSwitch::Reason::Key:
        case FilmingSwitch::Reason::None: break;
    }
    return {};
}

namespace {

QString chanceText(double p) {
    return p < 0.001 ? tr("under 0.1 %") : tr("%1 %").arg(QLocale().toString(100 * p, 'g', 2));
}

QString ruleText() {
    return tr(
        "Sets are compared, not reps: their means, by what sets of this client differ by when nothing is said or "
        "changed. While there is little of that, it is taken to be a little more than their reps differ by (Student's "
        "t, "
        "Satterthwaite 1946). A cue is held against the mean of the sets before it, because the set one speaks up "
        "after went badly by chance as well. Both legs are taken together, and where several values are looked at, "
        "Holm's correction (1979) keeps chance at one comparison in twenty. The change has to be a fifth of a "
        "reading's ± as well.");
}

}  // namespace

CueWords cueWords(const CueAnswer& a, const AdviceBook& book, Lengths lengths, bool seenAlike) {
    CueWords out;
    out.said = QString::fromStdString(a.cue.wording);
    out.rule = ruleText();
    QStringList brought;
    for (const auto& fault : seenAlike ? a.newFaults : std::vector<std::string>())
        brought.append(QString::fromStdString(book.title(fault)));
    if (!brought.isEmpty()) out.brought = tr("But now: %1.").arg(brought.join(", "));
    if (a.effect == CueEffect::CannotSay) {
        out.answer = tr("Whether it helped cannot be said");
        out.how = tr("it was not read in three reps of both sets");
        return out;
    }
    const MeasureDef& info = *a.measure;
    const char* title = a.bothLegs && info.bothLegs ? info.bothLegs : info.title;
    const QString values = tr("%1: %2 → %3")
                               .arg(QString::fromUtf8(title), readingText(a.measure, a.before, a.beforePm, lengths),
                                    readingText(a.measure, a.after, a.afterPm, lengths));
    if (!seenAlike) {
        out.answer = tr("Not filmed alike: whether it helped is left open");
        out.how = values;
        return out;
    }
    switch (a.effect) {
        case CueEffect::Worked: out.answer = a.gone ? tr("Worked, and it is gone") : tr("Worked"); break;
        case CueEffect::Worse: out.answer = tr("Worse than before"); break;
        default: out.answer = tr("No difference beyond noise"); break;
    }
    out.answer += ". " + values;
    const QString against = a.earlierSets > 1 ? tr("against the %1 sets before it").arg(a.earlierSets)
                                              : tr("against the one set before it");
    out.how = a.effect == CueEffect::NoDifference
                  ? tr("%1; sets differ as much by themselves (by chance: %2)").arg(against, chanceText(a.p))
                  : tr("%1; more than sets differ by themselves (by chance: %2)").arg(against, chanceText(a.p));
    return out;
}

CueWords cueWordsSoFar(const CueAnswer& a, const AdviceBook& book, Lengths lengths, bool seenAlike) {
    CueWords out = cueWords(a, book, lengths, seenAlike);
    if (a.effect == CueEffect::CannotSay) {
        out.answer = tr("Whether it helped is not known yet");
        out.how = tr("the set is being read once more, picture by picture");
    }
    return out;
}

CueWords trialWords(const std::vector<SetUpChange>& changes, const std::vector<MeasureDifference>& differences,
                    const Catalogue& catalogue, const std::string& movement, Lengths lengths, bool seenAlike) {
    CueWords out;
    out.rule = ruleText();
    QStringList what, significant;
    for (const SetUpChange& c : changes) what.append(changeText(c, catalogue, movement, lengths));
    out.said = what.join(", ");
    constexpr int kMost = 2;
    for (const MeasureDifference& d : differences)
        if (d.significant && significant.size() < kMost) significant.append(differenceText(d, lengths));
    out.answer = !seenAlike              ? tr("Not filmed alike: what it did is left open")
                 : significant.isEmpty() ? tr("No difference beyond noise")
                                         : significant.join(". ");
    out.how = tr("judged measures looked at: %1").arg(differences.size());
    return out;
}

QStringList beforeFirstRep(const SetFacts& facts, const Choices& choices, const Catalogue& catalogue, Lengths lengths) {
    QStringList out;
    const Movement* movement = catalogue.movement(facts.movement);
    if (!movement) return out;
    for (const Ask& ask : facts.asks)
        if (const QString text = askText(ask, catalogue.asks, *movement, lengths); !text.isEmpty())
            out.append(tr("Asked: %1.").arg(text));
    for (const auto& line : movement->setUpOf(facts.variation)) out.append(QString::fromStdString(line));
    for (const auto& line : setUpOf(choices, catalogue.choices, *movement, facts.variation))
        out.append(QString::fromStdString(line));
    return out;
}

QString modeText(int width, int height, double rate) {
    return tr("%1 × %2, %3 a second").arg(width).arg(height).arg(QLocale().toString(rate, 'g', 3));
}

}  // namespace zevo::present

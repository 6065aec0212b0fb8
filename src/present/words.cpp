#include "present/words.h"

#include <QCoreApplication>
#include <QLocale>
#include <cmath>
#include <map>
#include <optional>

namespace zevo::present {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("words", text);
}
QString text(const std::string& s) {
    return QString::fromStdString(s);
}

struct Shown {
    double factor;
    int decimals;
    const char* suffix;
};

Shown shownAs(Unit unit, Lengths lengths) {
    const bool us = lengths == Lengths::Us;
    switch (unit) {
        case Unit::Degrees: return {1, 0, "°"};
        case Unit::Centimetres: return us ? Shown{1 / 2.54, 1, " in"} : Shown{1, 1, " cm"};
        case Unit::Seconds: return {1, 1, " s"};
        case Unit::Milliseconds: return {0.001, 2, " s"};  // nobody says milliseconds aloud
        case Unit::Share: return {100, 0, " %"};
        case Unit::MetresPerSecond: return us ? Shown{1 / 0.3048, 1, " ft/s"} : Shown{1, 2, " m/s"};
        case Unit::MetresPerSecond2: break;
    }
    return us ? Shown{1 / 0.3048, 0, " ft/s²"} : Shown{1, 1, " m/s²"};
}

}  // namespace

namespace {

/// Coach's words for the ids of stop_rules.h.
QString worded(const std::string& id, const std::map<std::string, const char*>& words) {
    const auto found = words.find(id);
    return found == words.end() ? text(id) : tr(found->second);
}

}  // namespace

QString markWords(MarkKind kind) {
    switch (kind) {
        case MarkKind::BarEnd: return tr("end of the bar");
        case MarkKind::Bell: return tr("bell, or what the hands hold");
        case MarkKind::HipLeft: return tr("left hip bone, tape");
        case MarkKind::HipRight: return tr("right hip bone, tape");
        case MarkKind::KneeLeft: return tr("left knee, tape");
        case MarkKind::KneeRight: return tr("right knee, tape");
        case MarkKind::StickTop: return tr("stick, upper end");
        case MarkKind::StickLow: return tr("stick, lower end");
        case MarkKind::BackHigh: return tr("between the shoulder blades, tape");
        case MarkKind::BackLow: break;
    }
    return tr("sacrum, tape");
}

QString movementTitle(const Movement& movement, const std::string& variation) {
    const Variation* v = movement.variation(variation);
    return QString::fromStdString(movement.title) + (v ? ", " + QString::fromStdString(v->title).toLower() : QString());
}

QString redFlagTitle(const std::string& id) {
    static const std::map<std::string, const char*> kWords{
        {"chest", QT_TR_NOOP("Chest pain or pressure, or breathless at rest")},
        {"fainting", QT_TR_NOOP("Fainting or a black-out")},
        {"no-weight", QT_TR_NOOP("Cannot put weight on it")},
        {"weakness", QT_TR_NOOP("New weakness, or a foot that drops")},
        {"calf", QT_TR_NOOP("A hot or swollen calf")},
        {"fever", QT_TR_NOOP("Fever, or feeling unwell")},
        {"headache", QT_TR_NOOP("Sudden severe headache")},
        {"bladder", QT_TR_NOOP("Loss of bladder or bowel control")},
        {"saddle", QT_TR_NOOP("Numb between the legs, with back pain")},
        {"numbness", QT_TR_NOOP("Numbness or tingling")},
        {"leg-pain", QT_TR_NOOP("Pain running down a leg")},
        {"giving-way", QT_TR_NOOP("Giving way")},
        {"locking", QT_TR_NOOP("Locking")},
        {"swelling", QT_TR_NOOP("Swelling")},
        {"night-pain", QT_TR_NOOP("Pain at night")},
        {"fall", QT_TR_NOOP("Injury in a fall")},
        {"dizziness", QT_TR_NOOP("Dizzy in a set: sit down first")},
        {"pregnancy", QT_TR_NOOP("Pregnancy")},
        {"surgery", QT_TR_NOOP("Recent surgery")}};
    return worded(id, kWords);
}

QString painPlaceTitle(const std::string& id) {
    static const std::map<std::string, const char*> kWords{{"knee-front", QT_TR_NOOP("Knee, front")},
                                                           {"knee-inner", QT_TR_NOOP("Knee, inner side")},
                                                           {"knee-outer", QT_TR_NOOP("Knee, outer side")},
                                                           {"rear-knee", QT_TR_NOOP("Knee of the rear leg")},
                                                           {"hip-front", QT_TR_NOOP("Hip, front")},
                                                           {"hip-outer", QT_TR_NOOP("Hip, outer side")},
                                                           {"low-back", QT_TR_NOOP("Low back")},
                                                           {"mid-back", QT_TR_NOOP("Mid-back")},
                                                           {"neck", QT_TR_NOOP("Neck")},
                                                           {"shoulder", QT_TR_NOOP("Shoulder")},
                                                           {"elbow", QT_TR_NOOP("Elbow")},
                                                           {"wrist", QT_TR_NOOP("Wrist")},
                                                           {"ankle", QT_TR_NOOP("Ankle")},
                                                           {"foot", QT_TR_NOOP("Foot")}};
    return worded(id, kWords);
}

QString sideTitle(BodySide side) {
    switch (side) {
        case BodySide::Left: return tr("left");
        case BodySide::Right: return tr("right");
        case BodySide::Both: return tr("both sides");
        case BodySide::NotSaid: break;
    }
    return tr("side not said");
}

QString painSpotsWords(const PainSpots& spots) {
    QStringList out;
    for (const PainSpot& s : spots) {
        const QString title = painPlaceTitle(s.place);
        out.append(s.side == BodySide::NotSaid ? title : tr("%1, %2").arg(title, sideTitle(s.side)));
    }
    return out.join(" · ");
}

QString feltTitle(const std::string& id) {
    static const std::map<std::string, const char*> kWords{
        {"front-thigh", QT_TR_NOOP("Front of the thigh")},
        {"hamstring", QT_TR_NOOP("Back of the thigh")},
        {"inner-thigh", QT_TR_NOOP("Inner thigh")},
        {"rear-leg", QT_TR_NOOP("Thigh of the rear leg")},
        {"seat", QT_TR_NOOP("Seat")},
        {"hip-front", QT_TR_NOOP("Front of the hip")},
        {"knee", QT_TR_NOOP("Knee")},
        {"calf", QT_TR_NOOP("Calf")},
        {"foot", QT_TR_NOOP("Foot")},
        {"low-back", QT_TR_NOOP("Low back")},
        {"mid-back", QT_TR_NOOP("Mid-back")},
        {"neck", QT_TR_NOOP("Neck")},
        {"shoulder", QT_TR_NOOP("Shoulder")},
        {"belly", QT_TR_NOOP("Belly")},
        {"foot-rolls", QT_TR_NOOP("Foot rolls out when the knee is pushed out")}};
    return worded(id, kWords);
}

StopWords stopWords(const StopAnswer& stop) {
    using Reason = StopAnswer::Reason;
    const QString stopped = tr("Stop. This set is not scored");
    const QString after = tr(" ends the session for this movement. If it stays or comes back, a licensed clinician.");
    QStringList named;
    for (const auto& f : stop.redFlags) named.append(redFlagTitle(f));
    const QString flags = named.join(", ");
    QStringList allowed;
    for (const auto& l : stop.limits) allowed.append(QString::fromStdString(l));
    const QString limits = allowed.join("; ");
    switch (stop.reason) {
        case Reason::None: break;
        case Reason::RedFlags:
            if (stop.level == StopAnswer::Level::HelpNow)
                return {tr("Stop. Medical help now"),
                        tr("%1: stop at once and call for medical help, by your local rules. Stay with the client.")
                            .arg(flags)};
            return {stopped,
                    tr("%1: see a licensed clinician before training goes on, by your local rules. Zevo coaches; it "
                       "does not diagnose.")
                        .arg(flags)};
        case Reason::SharpPain: return {stopped, tr("Sharp pain") + after};
        case Reason::RisingPain: return {stopped, tr("Pain that rises") + after};
        case Reason::MuchPain: return {stopped, tr("Pain of 5 or more") + after};
        case Reason::SomePain:
            return {tr("Lighten or make it easier"),
                    tr("Pain of 3 or 4: less load, less range or an easier version, and ask again in this session.") +
                        (limits.isEmpty() ? QString() : tr(" Cleared for: %1; nothing past that.").arg(limits))};
        case Reason::Cleared:
            return {tr("Cleared with care"),
                    limits.isEmpty()
                        ? tr("%1, cleared by a clinician: the gentler versions, nothing heavier than was cleared.")
                              .arg(flags)
                        : tr("%1, cleared by a clinician for: %2. Nothing past that.").arg(flags, limits)};
    }
    return {};
}

QString repsText(const std::vector<int>& reps) {
    QString out;
    for (std::size_t i = 0; i < reps.size();) {
        std::size_t k = i;
        while (k + 1 < reps.size() && reps[k + 1] == reps[k] + 1) ++k;
        out += (out.isEmpty() ? "" : ", ") + QString::number(reps[i]);
        if (k > i) out += (k > i + 1 ? "–" : ", ") + QString::number(reps[k]);
        i = k + 1;
    }
    return (reps.size() == 1 ? tr("rep %1") : tr("reps %1")).arg(out);
}

QString repCount(int reps) {
    return (reps == 1 ? tr("%1 rep") : tr("%1 reps")).arg(reps);
}

QString traceText(const Counsel& c) {
    QStringList ruled;
    for (const auto& r : c.ruledOut) ruled.append(text(r));
    const QString ruledOut = ruled.join("; ");
    if (c.limiter.empty()) return ruledOut;
    const auto& t = c.trace;
    const QString reps = tr("%1 of %2").arg(repsText(t.reps)).arg(t.of);
    QStringList said;
    switch (t.when) {
        case Signs::Reps::Any: said.append(tr("in %1").arg(reps)); break;
        case Signs::Reps::Late: said.append(tr("only in %1").arg(reps)); break;
        case Signs::Reps::FromFirst: said.append(tr("from the first rep on")); break;
    }
    if (t.oneSide) said.append(*t.oneSide == Side::Left ? tr("on the left side alone") : tr("on the right side alone"));
    if (t.loaded) said.append(*t.loaded ? tr("under load") : tr("without load"));
    if (t.felt) said.append(tr("by where it was felt"));
    if (t.withOthers) said.append(tr("together with other signs"));
    return said.join(", ") + " → " + text(t.why) + (ruledOut.isEmpty() ? QString() : "; " + ruledOut);
}

QString figures(double v, int decimals) {
    if (!std::isfinite(v)) return QStringLiteral("—");
    const QString shown = QLocale().toString(std::abs(v), 'f', decimals);
    const bool nothing = QString::number(std::abs(v), 'f', decimals).toDouble() == 0;
    return v < 0 && !nothing ? QChar(0x2212) + shown : shown;
}

QString valueText(double value, Unit unit, Lengths lengths) {
    const Shown s = shownAs(unit, lengths);
    return figures(value * s.factor, s.decimals) + s.suffix;
}

QString changeText(double before, double after, Unit unit, Lengths lengths) {
    const Shown s = shownAs(unit, lengths);
    const double scale = s.factor * std::pow(10.0, s.decimals);
    const double shown = std::abs(std::round(after * scale) - std::round(before * scale)) / scale;
    return valueText(shown > 0 ? shown : std::abs(after - before), unit, lengths);
}

QString valueWithPm(double value, double pm90, Unit unit, Lengths lengths) {
    const Shown s = shownAs(unit, lengths);
    // An uncertainty is not shown smaller than it is: it rounds up.
    const double step = std::pow(10.0, -s.decimals);
    const double pm = std::ceil(pm90 * s.factor / step - 1e-6) * step;
    const QString unitText = QString(s.suffix);
    const QString number = figures(value * s.factor, s.decimals);
    return unitText == "°" ? number + "° ±" + figures(pm, s.decimals)
                           : number + " ±" + figures(pm, s.decimals) + unitText;
}

namespace {

/// What a measure of its own way of speaking reads; empty: it is said by its unit.
QString saidText(MeasureId measure, double value, std::optional<double> pm90) {
    const std::string id = measure.name();
    const bool lead = id == "knee_lead";
    if (!lead && id != "hip_per_knee") return {};
    const int decimals = lead ? 2 : 1;
    const double factor = lead ? 0.001 : 1, step = std::pow(10.0, -decimals);
    // An uncertainty is not shown smaller than it is: it rounds up.
    const QString pm =
        pm90 ? QString(" ±%1").arg(figures(std::ceil(*pm90 * factor / step - 1e-6) * step, decimals)) : QString();
    if (!lead) return tr("%1%2 : 1").arg(figures(value, decimals), pm);
    return (value < 0 ? tr("hips %1%2 s first") : tr("knees %1%2 s first"))
        .arg(figures(std::abs(value) * factor, decimals), pm);
}

}  // namespace

QString readingText(MeasureId measure, double value, Lengths lengths) {
    const QString said = saidText(measure, value, std::nullopt);
    return said.isEmpty() ? valueText(value, measure->unit, lengths) : said;
}

QString readingText(MeasureId measure, double value, double pm90, Lengths lengths) {
    const QString said = saidText(measure, value, pm90);
    return said.isEmpty() ? valueWithPm(value, pm90, measure->unit, lengths) : said;
}

QString statureText(double cm, Lengths lengths) {
    if (cm <= 0) return tr("stature not known");
    if (lengths == Lengths::Metric) return tr("%1 cm").arg(std::lround(cm));
    const long inches = std::lround(cm / 2.54);
    return tr("%1 ft %2 in").arg(inches / 12).arg(inches % 12);
}

QString filmedFrom(ViewKind view) {
    switch (view) {
        case ViewKind::Side: return tr("from the side");
        case ViewKind::Front: return tr("from the front");
        case ViewKind::Rear: return tr("from the back");
        case ViewKind::FootEnd: return tr("from the foot end");
        case ViewKind::Oblique: break;
    }
    return tr("at an angle");
}

QString lagText(double lagS) {
    // A clip that was switched on later shows every moment earlier on its own clock.
    return (lagS < 0 ? tr("begun %1 s later") : tr("begun %1 s earlier")).arg(figures(std::abs(lagS), 2));
}

QString tempoWords(const Tempo& tempo) {
    auto part = [](double s) { return QLocale().toString(s, 'g', 3); };
    return part(tempo.lowerS) + "-" + part(tempo.pauseS) + "-" + part(tempo.liftS);
}

QStringList differenceLines(const Differences& d, const AdviceBook& book, Lengths lengths) {
    QStringList out;
    if (d.none()) return {tr("Nothing changes.")};
    auto title = [&](const std::string& fault) { return text(book.title(fault)); };
    if (d.repsBefore != d.repsAfter)
        out.append(tr("%1 before, %2 now.").arg(repCount(d.repsBefore), repCount(d.repsAfter)));
    for (const auto& f : d.faultsNew) out.append(tr("New: %1.").arg(title(f)));
    for (const auto& f : d.faultsGone) out.append(tr("No longer: %1.").arg(title(f)));
    constexpr std::size_t kMost = 6;
    for (std::size_t i = 0; i < d.values.size() && i < kMost; ++i) {
        const ValueChange& v = d.values[i];
        out.append(tr("%1, rep %2: %3 before, %4 now.")
                       .arg(v.measure->title)
                       .arg(v.rep)
                       .arg(valueText(v.before, v.measure->unit, lengths),
                            valueWithPm(v.after, v.pm90, v.measure->unit, lengths)));
    }
    if (d.values.size() > kMost) out.append(tr("%1 smaller differences.").arg(d.values.size() - kMost));
    return out;
}

ResultWords resultWords() {
    return {[](const Notice& n) { return sentence(n).toStdString(); },
            [](const Counsel& c) { return traceText(c).toStdString(); },
            [](const StopAnswer& s) {
                const StopWords w = stopWords(s);
                return std::pair(w.title.toStdString(), w.text.toStdString());
            }};
}

}  // namespace zevo::present

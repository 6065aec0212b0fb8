#include "present/log_words.h"

#include <QCoreApplication>
#include <QDate>
#include <QLocale>
#include <algorithm>
#include <cmath>

#include "core/base/number_text.h"

namespace zevo::present {
namespace {

/// So long an easier version is kept before the same test without it (common practice, no source).
constexpr int kTrialDays = 14;

constexpr double kKgPerLb = 0.45359237, kCmPerInch = 2.54;

QString tr(const char* text) {
    return QCoreApplication::translate("log", text);
}

}  // namespace

double fromKg(double kg, Lengths lengths) {
    return lengths == Lengths::Us ? kg / kKgPerLb : kg;
}

double fromCm(double cm, Lengths lengths) {
    return lengths == Lengths::Us ? cm / kCmPerInch : cm;
}

double toCm(double shown, Lengths lengths) {
    return lengths == Lengths::Us ? shown * kCmPerInch : shown;
}

double toKg(double shown, Lengths lengths) {
    return lengths == Lengths::Us ? shown * kKgPerLb : shown;
}

QString massText(double kg, Lengths lengths) {
    const double shown = fromKg(kg, lengths);
    const bool whole = std::abs(shown - std::round(shown)) < 0.05 || lengths == Lengths::Us;
    return QString("%1 %2").arg(figures(shown, whole ? 0 : 1), lengths == Lengths::Us ? "lb" : "kg");
}

const Named& shoesNamed() {
    static const Named all{{"", tr("any shoes")},          {"bare", tr("barefoot")},   {"flat", tr("flat shoes")},
                           {"heeled", tr("raised heels")}, {"soft", tr("soft soles")}, {"boots", tr("boots")}};
    return all;
}

const Named& endedNamed() {
    static const Named all{{"", tr("not said")},         {"planned", tr("planned end")}, {"legs", tr("legs")},
                           {"grip", tr("grip or arms")}, {"form", tr("form")},           {"breath", tr("breath")},
                           {"pain", tr("pain")}};
    return all;
}

const Named& heldNamed() {
    static const Named all{
        {"", tr("nothing held")}, {"bell", tr("one weight")}, {"bar", tr("bar")}, {"pair", tr("two weights")}};
    return all;
}

const std::vector<std::pair<Shirt, QString>>& shirtsNamed() {
    static const std::vector<std::pair<Shirt, QString>> all{{Shirt::NotSaid, tr("shirt?")},
                                                            {Shirt::Tight, tr("shirt tight or tucked in")},
                                                            {Shirt::Loose, tr("loose shirt")}};
    return all;
}

QString shirtText(Shirt shirt) {
    for (const auto& [lies, title] : shirtsNamed())
        if (lies == shirt) return title;
    return {};
}

QString titleOf(const Named& names, const std::string& id) {
    for (const auto& [name, title] : names)
        if (name == id) return title;
    return QString::fromStdString(id);
}

QString kindText(SetKind kind) {
    switch (kind) {
        case SetKind::WarmUp: return tr("warm-up");
        case SetKind::Test: return tr("test");
        case SetKind::Working: break;
    }
    return tr("working set");
}

QString loadText(const Load& load, Lengths lengths) {
    if (load.totalKg() <= 0) return {};
    if (load.held == "bar") return tr("bar %1 + %2").arg(massText(load.barKg, lengths), massText(load.eachKg, lengths));
    if (load.held == "pair")
        return tr("2 × %1 = %2").arg(massText(load.eachKg, lengths), massText(load.totalKg(), lengths));
    return massText(load.totalKg(), lengths);
}

QString aidsText(const SetFacts& f, Lengths lengths) {
    QStringList out;
    if (f.wedgeDeg > 0) out.append(tr("wedge %1°").arg(figures(f.wedgeDeg, 0)));
    if (f.log.boxCm > 0) out.append(tr("box %1").arg(valueText(f.log.boxCm, Unit::Centimetres, lengths)));
    if (f.log.belt) out.append(tr("lifting belt"));
    if (f.log.pole) out.append(tr("pole"));
    return out.join(", ");
}

QString askText(const Ask& ask, const AskBook& book, const Movement& movement, Lengths lengths) {
    const AskRung* rung = rungOf(ask, book, movement);
    if (!rung) return {};
    const QString asked = QString::fromStdString(rung->asked);
    const auto amount = amountOf(ask, *rung);
    if (!amount) return asked;
    auto shown = [](double v) { return figures(v, std::abs(v - std::round(v)) < 0.05 ? 0 : 1); };
    // What is set up by hand is said to the half inch.
    const QString text = rung->unit == "deg"      ? shown(*amount) + QChar(0xB0)
                         : rung->unit == "s"      ? tr("%1 s").arg(shown(*amount))
                         : lengths == Lengths::Us ? tr("%1 in").arg(shown(std::round(2 * fromCm(*amount, lengths)) / 2))
                                                  : tr("%1 cm").arg(shown(*amount));
    return tr("%1, %2").arg(asked, text);
}

QString askOrigin(const Ask& ask, const AdviceBook& book) {
    QStringList out;
    if (!ask.by.empty()) out.append(tr("by %1").arg(QString::fromStdString(ask.by)));
    const QDate day = QDate::fromString(QString::fromStdString(ask.on), Qt::ISODate);
    if (day.isValid()) out.append(QLocale().toString(day, "d MMM"));
    const auto& places = painPlaces();
    const bool painful = std::find(places.begin(), places.end(), ask.why) != places.end();
    if (!ask.why.empty())
        out.append(tr("for: %1").arg(painful ? painPlaceTitle(ask.why) : QString::fromStdString(book.title(ask.why))));
    if (painful && day.isValid() && day.daysTo(QDate::currentDate()) >= kTrialDays)
        out.append(tr("two weeks are over: the same test without it"));
    return out.isEmpty() ? QString() : tr("asked %1").arg(out.join(", "));
}

QString PainTrial::text() const {
    return tr("Pain %1 → %2: %3").arg(before).arg(after).arg(with);
}

std::optional<PainTrial> painTrialOf(const SetFacts& facts, const Catalogue& catalogue, Lengths lengths) {
    const Movement* movement = catalogue.movement(facts.movement);
    if (!facts.pain.after || !movement) return std::nullopt;
    auto tried = [after = *facts.pain.after](int before, const QString& with) {
        return PainTrial{with, before, after, substituteAnswer(before, after)};
    };
    if (const auto& s = facts.substitute; s && s->pain) {
        const Movement* of = catalogue.movement(s->of);
        return tried(*s->pain, tr("%1 instead of %2")
                                   .arg(movementTitle(*movement, facts.variation),
                                        of ? movementTitle(*of, s->variation) : QString::fromStdString(s->of))
                                   .toLower());
    }
    // What was asked last is what was tried.
    const auto ask = std::find_if(facts.asks.rbegin(), facts.asks.rend(),
                                  [&](const Ask& a) { return a.pain && rungOf(a, catalogue.asks, *movement); });
    if (ask == facts.asks.rend()) return std::nullopt;
    return tried(*ask->pain, askText(*ask, catalogue.asks, *movement, lengths));
}

QString asksText(const SetFacts& facts, const Catalogue& catalogue, Lengths lengths) {
    const Movement* movement = catalogue.movement(facts.movement);
    QStringList out;
    if (movement)
        for (const Ask& ask : facts.asks)
            if (const QString text = askText(ask, catalogue.asks, *movement, lengths); !text.isEmpty())
                out.append(text);
    return out.join(QString(" ") + QChar(0xB7) + " ");
}

QString changeText(const SetUpChange& c, const Catalogue& catalogue, const std::string& movement, Lengths lengths) {
    using W = SetUpChange::What;
    auto degrees = [](const std::string& v) { return v == "0" ? tr("none") : QString::fromStdString(v) + QChar(0xB0); };
    auto yes = [](const std::string& v) { return v == "0" ? tr("without") : tr("with"); };
    auto option = [&](const char* choice, const std::string& id) {
        if (id.empty()) return tr("as the school says");
        for (const auto& known : catalogue.choices)
            if (known.id == choice)
                for (const auto& o : known.options)
                    if (o.id == id) return QString::fromStdString(o.title).toLower();
        return QString::fromStdString(id);
    };
    auto amount = [](const std::string& v, auto text) {
        return v == "0" ? tr("none") : text(numberFrom(v).value_or(0));
    };
    auto centimetres = [&](const std::string& v) {
        return amount(v, [&](double cm) { return valueText(cm, Unit::Centimetres, lengths); });
    };
    auto mass = [&](const std::string& v) { return amount(v, [&](double kg) { return massText(kg, lengths); }); };
    QString what, from, to;
    switch (c.what) {
        case W::Wedge: what = tr("heel wedge"), from = degrees(c.from), to = degrees(c.to); break;
        case W::Stance: what = tr("stance"), from = option("stance", c.from), to = option("stance", c.to); break;
        case W::Toes: what = tr("toes"), from = option("toes", c.from), to = option("toes", c.to); break;
        case W::Arms: what = tr("arms"), from = option("arms", c.from), to = option("arms", c.to); break;
        case W::LoadPlace: {
            const Movement* m = catalogue.movement(movement);
            auto variation = [&](const std::string& id) {
                const auto* v = m ? m->variation(id) : nullptr;
                return v ? QString::fromStdString(v->title).toLower() : tr("plain");
            };
            what = tr("variation"), from = variation(c.from), to = variation(c.to);
            break;
        }
        case W::Box:
            what = tr("box");
            from = centimetres(c.from);
            to = centimetres(c.to);
            break;
        case W::Pole: what = tr("pole"), from = yes(c.from), to = yes(c.to); break;
        case W::Belt: what = tr("lifting belt"), from = yes(c.from), to = yes(c.to); break;
        case W::Shoes:
            what = tr("shoes"), from = titleOf(shoesNamed(), c.from), to = titleOf(shoesNamed(), c.to);
            break;
        case W::Load:
            what = tr("load");
            from = mass(c.from);
            to = mass(c.to);
            break;
        case W::Asked: {
            const Movement* m = catalogue.movement(movement);
            auto asked = [&](const std::string& key) {
                const QStringList parts = QString::fromStdString(key).split('/');
                if (parts.size() != 3 || !m) return tr("nothing");
                Ask ask{parts[0].toStdString(), parts[1].toStdString()};
                if (!parts[2].isEmpty()) ask.amount = numberFrom(parts[2].toStdString());
                const QString text = askText(ask, catalogue.asks, *m, lengths);
                return text.isEmpty() ? parts[1] : text;
            };
            what = tr("asked"), from = asked(c.from), to = asked(c.to);
            break;
        }
    }
    return tr("%1: %2 (before: %3)").arg(what, to, from);
}

QString differenceText(const MeasureDifference& d, Lengths lengths) {
    const MeasureDef& info = *d.measure;
    const QString values = tr("%1: %2 → %3")
                               .arg(QString::fromUtf8(info.title), readingText(d.measure, d.before, lengths),
                                    readingText(d.measure, d.after, lengths));
    if (d.judged && !d.significant) return tr("%1, within noise").arg(values);
    const QString by = changeText(d.before, d.after, info.unit, lengths);
    return d.change() > 0 ? tr("%1, %2 more").arg(values, by) : tr("%1, %2 less").arg(values, by);
}

QString comparabilityText(ComparabilityIssue issue) {
    switch (issue) {
        case ComparabilityIssue::View: return tr("one is filmed from another side");
        case ComparabilityIssue::Angle: return tr("the cameras stood at different angles");
        case ComparabilityIssue::Size: return tr("the client is larger in one picture");
        case ComparabilityIssue::Place: return tr("the client stands elsewhere in the picture");
        case ComparabilityIssue::Network: return tr("read by different networks or versions");
        case ComparabilityIssue::Scale: return tr("lengths by a told length in one, by the stature in the other");
        case ComparabilityIssue::Unknown: break;
    }
    return tr("where the camera stood was not kept for one of them");
}

QString scoreText(const CueScore& s) {
    if (s.tried() == 0) return tr("not tried yet");
    QStringList out;
    if (s.worked) out.append(tr("worked %1 of %2").arg(s.worked).arg(s.worked + s.failed()));
    if (!s.worked && s.noDifference) out.append(tr("did nothing %1 ×").arg(s.noDifference));
    if (s.worse) out.append(tr("made it worse %1 ×").arg(s.worse));
    if (out.isEmpty()) out.append(tr("not answered yet"));
    return out.join(", ");
}

}  // namespace zevo::present

// What is advised in every situation that can come up: that something is, that nothing in it is forbidden there, and
// that nothing pushes a client further the wrong way.
#include <QFile>
#include <QRegularExpression>
#include <nlohmann/json.hpp>
#include <set>

#include "core/advice/reasoning.h"
#include "core/judge/choices.h"
#include "core/judge/retired_faults.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

const AdviceBook& book() {
    return made::catalogue()->advice;
}

/// One thing that can be found: a fault over or under a band.
struct Found {
    std::string fault;
    MeasureId measure;
    bool above = false;
};

std::vector<Found> findable(const Standard& standard, const Movement& movement) {
    std::vector<Found> out;
    for (const Band& b : standard.bands) {
        const auto& read = movement.measures;
        if (!read.empty() && std::find(read.begin(), read.end(), b.measure.name()) == read.end()) continue;
        if (!b.faultBelow.empty()) out.push_back({b.faultBelow, b.measure, false});
        if (!b.faultAbove.empty()) out.push_back({b.faultAbove, b.measure, true});
    }
    return out;
}

/// A school, and it with each other option of each choice.
std::vector<Standard> asItMayBe(const Standard& school, const Movement& movement, const std::string& variation) {
    std::vector<Standard> out{school.forSet(movement.id, variation)};
    for (const Choice& c : made::catalogue()->choices)
        for (const ChoiceOption& o : c.options)
            if (c.isFor(movement))
                out.push_back(withChoices(school, made::catalogue()->choices,
                                          {{c.id, o.asksNumber ? o.id + ":10" : o.id}}, movement)
                                  .forSet(movement.id, variation));
    return out;
}

/// Everything that can be before a coach: each movement, variation, school and choice.
void everySituation(const std::function<void(const Situation&, const Standard&, const Movement&)>& see) {
    for (const Movement& m : made::catalogue()->movements) {
        std::vector<std::string> variations{""};
        for (const auto& v : m.variations) variations.push_back(v.id);
        for (const auto& school : made::catalogue()->standardsFor(m))
            for (const auto& variation : variations)
                for (const Standard& standard : asItMayBe(school, m, variation)) {
                    SetResult r;
                    r.context.movement = m;
                    r.context.variation = variation;
                    r.standard = standard.id;
                    r.choices = standard.choices;
                    see(situationOf(r), standard, m);
                }
    }
}

QString spoken(const Situation& s, const std::string& fault) {
    QString choices;
    for (const auto& [c, o] : s.choices) choices += QString::fromStdString(" " + c + "=" + o);
    return QString::fromStdString(s.movement + " " + s.variation + " " + s.school + " " + s.hands + " " + s.limiter +
                                  ": " + fault) +
           choices;
}

int wordsIn(const std::string& text) {
    return static_cast<int>(QString::fromStdString(text).split(' ').size());
}

/// What is wrong in a walk through all situations: a check inside a lambda would only leave the lambda.
struct Problems {
    QStringList all;
    void add(const QString& what) {
        if (!all.contains(what)) all.append(what);
    }
    QByteArray some() const {
        constexpr int kMost = 12;
        return (QString("%1: ").arg(all.size()) + all.mid(0, kMost).join("\n")).toUtf8();
    }
};
/// The words are only made when they are needed.
#define WRONG_UNLESS(problems, right, what) \
    do {                                    \
        if (!(right)) (problems).add(what); \
    } while (false)
#define NO_PROBLEMS(problems) QVERIFY2((problems).all.isEmpty(), (problems).some().constData())

bool claims(const std::vector<std::string>& list, const std::string& id) {
    return std::find(list.begin(), list.end(), id) != list.end();
}

/// Calls for every text of a card with its claims and whether it is a drill.
void everyText(const Card& c,
               const std::function<void(const std::string&, const std::vector<std::string>&, bool)>& see) {
    for (const auto& t : c.say) see(t.text, t.claims, false);
    for (const auto& t : c.change) see(t.text, t.claims, false);
    for (const auto& t : c.prepare) see(t.text, t.claims, true);
}

}  // namespace

class TestAdvice : public QObject {
    Q_OBJECT
  private slots:
    /// Every (movement, variation, school, choice, hands, fault, limiter): two wordings, a change, a drill, a goal.
    void everySituationHasACard() {
        Problems p;
        std::set<std::string> named, told;
        long seen = 0;
        everySituation([&](const Situation& plain, const Standard& standard, const Movement& movement) {
            for (const Found& f : findable(standard, movement)) {
                named.insert(f.fault);
                std::vector<std::string> limiters{""};
                for (const Card& c : book().cards)
                    if (c.fault == f.fault && c.limiter && c.when.holds(plain)) limiters.push_back(c.limiter->id);
                for (const auto& limiter : limiters) {
                    Situation s = plain;
                    s.measure = f.measure, s.above = f.above, s.limiter = limiter;
                    const Advice a = adviceFor(f.fault, s, book());
                    const QString where = spoken(s, f.fault);
                    WRONG_UNLESS(p, book().fault(f.fault), where);
                    WRONG_UNLESS(p, a.say.size() >= 2 && a.say.front().kind == "external", where);
                    WRONG_UNLESS(p, !a.change.empty() && !a.prepare.empty() && !a.progress.empty(), where);
                    ++seen;
                }
            }
        });
        qInfo("%ld situations", seen);
        QVERIFY(seen > 10000);
        for (const auto& [id, words] : book().faults)
            if (id != kCleanCard && id != kFeltCard && id != kPainCard) told.insert(id);
        QCOMPARE(named, told);
        NO_PROBLEMS(p);
    }

    /// The same again by the words themselves: no wall behind a swing, no post for a client with a bar on the back.
    void nothingIsNamedThatTheSituationForbids() {
        Problems p;
        auto has = [](const Advice& a, const QString& pattern) {
            const QRegularExpression wanted(pattern, QRegularExpression::CaseInsensitiveOption);
            QStringList all;
            for (const auto& c : a.say) all.append(QString::fromStdString(c.text));
            for (const auto& c : a.change) all.append(QString::fromStdString(c.text));
            return QString(all.filter(wanted).join(" | "));
        };
        everySituation([&](const Situation& plain, const Standard& standard, const Movement& movement) {
            for (const Found& f : findable(standard, movement)) {
                Situation s = plain;
                s.measure = f.measure, s.above = f.above;
                const Advice a = adviceFor(f.fault, s, book());
                auto never = [&](const QString& pattern) {
                    const QString said = has(a, pattern);
                    WRONG_UNLESS(p, said.isEmpty(), spoken(s, f.fault) + ": " + said);
                };
                if (s.hands != "free") never("hold a (post|weight|light)|hands? on |weight at the chest|hands high");
                if (s.hands == "free") never("lighter|the bell|the bar\\b");
                if (s.room) never("\\bwall\\b");
                if (s.variation == "swing") never("\\bbox\\b|slower");
                if (s.family == "squat" && s.choices.at("knees") != "over")
                    never("knees? (go|travel|come)?\\s?forward|wedge");
                if (s.family == "squat" && s.choices.at("start") != "hips-first")
                    never("hips? back|sit back|wall behind");
                if (s.family == "hinge" && s.choices.at("hinge_top") == "soft")
                    never("squeeze (the seat|hard)|hips through");
                if (s.family == "hinge" && s.choices.at("hinge_top") == "squeeze")
                    never("soft knees|knees (just )?soft");
                if (s.family == "bridge" && s.choices.at("bridge_style") != "segment")
                    never("piece by piece|roll down");
            }
        });
        NO_PROBLEMS(p);
    }

    /// While it hurts, and as far as was cleared, nothing asks for deeper, higher, longer, heavier or faster: not by
    /// its claims, and not by its words.
    void nothingAsksForMoreWhileItHurts() {
        Problems p;
        static const QRegularExpression more(
            "\\b(deeper|lower, every|all the way down|heavier|add (the )?weight|faster|"
            "quick|until I say|hips to the ceiling|weight at the chest)",
            QRegularExpression::CaseInsensitiveOption);
        long said = 0, withheld = 0, leftAlone = 0;
        everySituation([&](const Situation& plain, const Standard& standard, const Movement& movement) {
            for (const Found& f : findable(standard, movement))
                for (const char* level : {"free", "lighten", "care"}) {
                    Situation s = plain;
                    s.measure = f.measure, s.above = f.above, s.level = level;
                    const Advice a = adviceFor(f.fault, s, book());
                    if (s.level == "free") {
                        said += static_cast<long>(a.say.size());
                        continue;
                    }
                    // A weight that swings or is overhead: nothing betters it today.
                    if (s.variation == "swing" || s.hands == "overhead") {
                        ++leftAlone;
                        WRONG_UNLESS(p, a.say.empty() && a.change.empty() && a.prepare.empty(), spoken(s, f.fault));
                        continue;
                    }
                    withheld += a.say.empty();
                    auto see = [&](const std::string& text, const std::vector<std::string>& made) {
                        for (const char* claim : {"deeper", "higher", "longer", "heavier", "faster"})
                            WRONG_UNLESS(p, !claims(made, claim), spoken(s, f.fault) + ": " + text.c_str());
                        WRONG_UNLESS(p, !QString::fromStdString(text).contains(more),
                                     spoken(s, f.fault) + ": " + text.c_str());
                    };
                    for (const auto& t : a.say) see(t.text, t.claims);
                    for (const auto& t : a.change) see(t.text, t.claims);
                    for (const auto& t : a.prepare) see(t.text, t.claims);
                }
        });
        qInfo("%ld cues said without pain; cards left with none: %ld; left alone: %ld", said, withheld, leftAlone);
        QVERIFY(leftAlone > 0 && withheld > 0 && said > 10 * withheld);
        NO_PROBLEMS(p);
    }

    /// Whom the floor is too far down for gets every drill on a chair, and nobody else does.
    void everyDrillOfTheFloorHasAChairVersion() {
        Problems p;
        std::set<std::string> chairs;
        everySituation([&](const Situation& plain, const Standard& standard, const Movement& movement) {
            for (const char* where : {"floor", "chair"}) {
                Situation s = plain;
                s.choices["drills"] = where;
                for (const Found& f : findable(standard, movement)) {
                    s.measure = f.measure, s.above = f.above;
                    const Advice a = adviceFor(f.fault, s, book());
                    const bool chair = std::string(where) == "chair";
                    WRONG_UNLESS(p, !a.prepare.empty(), spoken(s, f.fault));
                    for (const Drill& d : a.prepare) {
                        WRONG_UNLESS(p, !claims(d.claims, chair ? "needs-floor" : "on-a-chair"),
                                     spoken(s, f.fault) + ": " + d.text.c_str());
                        if (claims(d.claims, "on-a-chair")) chairs.insert(d.text);
                    }
                    for (const Change& c : a.change)
                        WRONG_UNLESS(p, !chair || !claims(c.claims, "needs-floor"), QString::fromStdString(c.text));
                }
            }
        });
        QVERIFY(chairs.size() > 15);
        NO_PROBLEMS(p);
    }

    /// What is logged is not asked for: a wedge that is in, the box the client sits to, flat shoes, the post in hand;
    /// and kilos are a load, whatever the variation is called.
    void adviceSeesWhatIsLogged() {
        Problems p;
        struct Logged {
            std::vector<std::string> aids;
            std::string shoes;
            const char* never;
        };
        const std::vector<Logged> all{{{"wedge"}, "", "wedge|raise the heels"},
                                      {{"box"}, "", "(sit to|set|use the) a? ?box"},
                                      {{"pole"}, "", "hold a post"},
                                      {{}, "bare", "flat shoes"},
                                      {{}, "flat", "flat shoes"},
                                      {{}, "", "lower the box a little"}};
        std::set<std::string> seen;
        everySituation([&](const Situation& plain, const Standard& standard, const Movement& movement) {
            for (const Logged& logged : all)
                for (const bool there : {false, true}) {
                    if (there && plain.variation == "box") continue;
                    Situation s = plain;
                    const QRegularExpression never(logged.never, QRegularExpression::CaseInsensitiveOption);
                    // A box is only lowered where there is one; the others are only asked for where they are not.
                    const bool nothing = logged.aids.empty() && logged.shoes.empty();
                    const bool about = there || (nothing && plain.variation != "box");
                    if (there) s.aids = logged.aids, s.shoes = logged.shoes;
                    std::vector<Found> faults = findable(standard, movement);
                    faults.push_back({kPainCard, {}, false});
                    faults.push_back({kFeltCard, {}, false});
                    for (const Found& f : faults) {
                        s.measure = f.measure, s.above = f.above;
                        for (const auto& change : adviceFor(f.fault, s, book()).change) {
                            const bool says = QString::fromStdString(change.text).contains(never);
                            if (says && !there) seen.insert(logged.never);
                            WRONG_UNLESS(p, !says || !about, spoken(s, f.fault) + ": " + change.text.c_str());
                        }
                    }
                }
        });
        QVERIFY(seen.size() >= 3);
        NO_PROBLEMS(p);
        SetResult thrust;
        thrust.context.movement = made::movement("bridge");
        thrust.context.variation = "thrust";
        QVERIFY(!thrust.context.loaded() && !situationOf(thrust).loaded);
        thrust.context.heldKg = 100;
        QVERIFY(thrust.context.loaded());
        auto offers = [&](const char* text) {
            const auto changes = adviceFor("bridge_low", situationOf(thrust), book()).change;
            return std::any_of(changes.begin(), changes.end(),
                               [&](const Change& c) { return c.text.find(text) != std::string::npos; });
        };
        QVERIFY(offers("Lighter"));
        thrust.context.heldKg = 0;
        QVERIFY(!offers("Lighter"));
        // Not the same again after the hardest of sets.
        SetResult clean;
        clean.context.movement = made::movement("squat");
        auto said = [&] { return adviceWithoutFinding(kCleanCard, clean, book()).say.front().text; };
        QVERIFY(said().find("Same again") != std::string::npos);
        clean.context.effort = 9;
        QVERIFY(said().find("ame again") == std::string::npos);
    }

    /// A cue never pushes further the wrong way, and texts of the two directions of a measure never meet.
    void noFaultIsAnsweredWithMoreOfIt() {
        Problems p;
        everySituation([&](const Situation& plain, const Standard& standard, const Movement& movement) {
            std::map<MeasureId, std::array<std::set<std::string>, 2>> said;
            for (const Found& f : findable(standard, movement)) {
                Situation s = plain;
                s.measure = f.measure, s.above = f.above;
                const Advice a = adviceFor(f.fault, s, book());
                for (const auto& cue : a.say) {
                    said[f.measure][f.above].insert(cue.text);
                    for (const Claim& c : book().claims)
                        for (const auto& push : c.pushes)
                            WRONG_UNLESS(p,
                                         !claims(cue.claims, c.id) || push.measure != f.measure || push.up != f.above,
                                         spoken(s, f.fault) + " " + cue.text.c_str());
                }
            }
            for (const auto& [measure, directions] : said) {
                if (measure->of == Of::BySign || measure.name() == "hip_turn") continue;  // left and right
                for (const auto& text : directions[0])
                    WRONG_UNLESS(p, !directions[1].count(text), spoken(plain, measure.name()) + " " + text.c_str());
            }
        });
        NO_PROBLEMS(p);
    }

    /// A text that holds a claim's words makes the claim; so the table cannot be forgotten.
    void textsMakeTheClaimsTheirWordsMake() {
        Problems p;
        for (const Card& c : book().cards)
            everyText(c, [&](const std::string& text, const std::vector<std::string>& made, bool drill) {
                const QString lower = QString::fromStdString(text).toLower();
                for (const Claim& claim : book().claims) {
                    if (drill && claim.setOnly) continue;
                    for (const auto& words : claim.words)
                        WRONG_UNLESS(p, !lower.contains(QString::fromStdString(words)) || claims(made, claim.id),
                                     QString::fromStdString(c.fault + ": " + text + " → " + claim.id));
                }
            });
        NO_PROBLEMS(p);
    }

    /// The list that is read through says what the cards say.
    void theListOfTextsIsUpToDate() {
        QFile f(ZEVO_DATA_DIR "/../docs/texts.md");
        QVERIFY(f.open(QFile::ReadOnly));
        std::set<QString> listed, said;
        while (!f.atEnd()) {
            const QString line = QString::fromUtf8(f.readLine());
            if (line.startsWith("| ") && !line.startsWith("| text |")) listed.insert(line.section('|', 1, 2));
        }
        for (const Card& c : book().cards)
            everyText(c, [&](const std::string& text, const std::vector<std::string>& made, bool) {
                QStringList claims;
                for (const auto& claim : made) claims.append(QString::fromStdString(claim));
                said.insert(QString(" %1 | %2 ").arg(QString::fromStdString(text), claims.join(' ')));
            });
        QCOMPARE(listed, said);
    }

    /// What a coach says once, across a room, to an adult.
    void wordsAreShortCommonAndForEverybody() {
        Problems p;
        static const QRegularExpression gendered("\\b(he|she|his|her|him|hers|guys?|lad(y|ies)|man|woman)\\b",
                                                 QRegularExpression::CaseInsensitiveOption);
        static const QRegularExpression jargon("valgus|varus|anterior|posterior|flexion|extension|eccentric",
                                               QRegularExpression::CaseInsensitiveOption);
        for (const Card& c : book().cards) {
            for (const auto& cue : c.say) WRONG_UNLESS(p, wordsIn(cue.text) <= 10, QString::fromStdString(cue.text));
            for (const auto& d : c.prepare)
                WRONG_UNLESS(p, QString::fromStdString(d.dose).contains(QRegularExpression("[0-9]")),
                             QString::fromStdString(d.dose));
            if (c.limiter)
                WRONG_UNLESS(p, !c.limiter->why.empty() && !c.limiter->why.ends_with('.'),
                             QString::fromStdString(c.limiter->why));
            everyText(c, [&](const std::string& text, const auto&, bool) {
                const QString t = QString::fromStdString(text);
                WRONG_UNLESS(p, !t.contains(gendered) && !t.contains(jargon), QString::fromStdString(text));
                WRONG_UNLESS(p, t.size() <= 70, QString::fromStdString(text));
            });
        }
        NO_PROBLEMS(p);
    }

    /// Where the coach is asked to film differently, the view that is named reads the measure.
    void viewsThatAreAskedForReadTheMeasure() {
        Problems p;
        static const std::map<std::string, unsigned> kBits{
            {"side", kSideView}, {"front", kFrontView}, {"foot-end", kFootEndView}};
        std::set<std::string> checked;
        everySituation([&](const Situation& s, const Standard& standard, const Movement& movement) {
            for (const Found& f : findable(standard, movement)) {
                const FaultWords* w = book().fault(f.fault);
                if (!w || w->view.empty()) continue;
                const unsigned bit = s.family == "bridge" && w->view == "front" ? kFootEndView : kBits.at(w->view);
                WRONG_UNLESS(p, f.measure->views & bit, spoken(s, f.fault));
                const QString view = w->view == "foot-end" ? "foot end" : QString::fromStdString(w->view);
                WRONG_UNLESS(p, QString::fromStdString(w->unsure).contains(view), QString::fromStdString(w->unsure));
                checked.insert(f.fault);
            }
        });
        QVERIFY(checked.size() > 40);
        NO_PROBLEMS(p);
    }

    /// No cue asks for a longer hold than the band does, and bands say where they come from.
    void pausesAgreeAndBandsHaveASource() {
        Problems p;
        everySituation([&](const Situation& s, const Standard& standard, const Movement& movement) {
            for (const Band& b : standard.bands)
                WRONG_UNLESS(p, (b.faultAbove.empty() && b.faultBelow.empty()) || !b.source.empty(),
                             QString::fromStdString(s.school + " " + b.measure.name()));
            for (const Found& f : findable(standard, movement)) {
                if (f.measure.name() != "pause_s") continue;
                static const QRegularExpression number("\\b(two|three|four|[2-9])\\b");
                for (const auto& cue : adviceFor(f.fault, s, book()).say)
                    WRONG_UNLESS(p, !QString::fromStdString(cue.text).contains(number),
                                 QString::fromStdString(cue.text));
            }
        });
        NO_PROBLEMS(p);
    }

    /// No text is kept from every situation there can be, by its own claims or by a more special card.
    void everyTextIsSaidSomewhere() {
        struct Waiting {
            const Card* card;
            std::set<std::string> texts;  ///< with their part, not said yet
        };
        std::map<std::string, std::vector<Waiting>> waiting;
        std::size_t all = 0;
        auto parts = [](const auto& from) {
            std::set<std::string> out;
            for (const auto& t : from.say) out.insert("say: " + t.text);
            for (const auto& t : from.change) out.insert("change: " + t.text);
            for (const auto& t : from.prepare) out.insert("prepare: " + t.text);
            if (!from.progress.empty()) out.insert("progress: " + from.progress);
            return out;
        };
        for (const Card& c : book().cards) {
            waiting[c.fault].push_back({&c, parts(c)});
            all += waiting[c.fault].back().texts.size();
        }
        everySituation([&](const Situation& plain, const Standard& standard, const Movement& movement) {
            std::vector<Found> faults = findable(standard, movement);
            for (const char* card : {kCleanCard, kFeltCard, kPainCard}) faults.push_back({card, {}, false});
            for (const Found& f : faults)
                for (Waiting& w : waiting[f.fault]) {
                    if (w.texts.empty()) continue;
                    // As the card wants it, where the coach or the client may say so.
                    const When& when = w.card->when;
                    Situation s = plain;
                    s.measure = f.measure, s.above = f.above;
                    if (w.card->limiter) s.limiter = w.card->limiter->id;
                    if (!when.complaints.empty()) s.complaints = {when.complaints.front()};
                    if (!when.levels.empty()) s.level = when.levels.front();
                    if (!when.aids.empty()) s.aids = {when.aids.front()};
                    if (!when.shoes.empty()) s.shoes = when.shoes.front();
                    if (when.effortFrom) s.effort = when.effortFrom;
                    if (when.loaded) s.loaded = *when.loaded;
                    s.felt = when.felt;
                    if (!when.holds(s)) continue;
                    for (const bool loaded : {s.loaded, true}) {
                        s.loaded = loaded;
                        if (!when.holds(s)) continue;
                        for (const std::string& text : parts(adviceFor(f.fault, s, book()))) w.texts.erase(text);
                    }
                }
        });
        Problems p;
        for (const auto& [fault, cards] : waiting)
            for (const Waiting& w : cards)
                for (const std::string& text : w.texts) p.add(QString::fromStdString(fault + ", " + text));
        qInfo("%zu texts on cards, %lld never said", all, static_cast<long long>(p.all.size()));
        for (const QString& text : p.all) qInfo("%s", qPrintable(text));
        NO_PROBLEMS(p);
    }

    /// Of two cards that hold at once and give the same part, one is the more special.
    void noTwoCardsTie() {
        Problems p;
        everySituation([&](const Situation& s, const Standard& standard, const Movement& movement) {
            std::set<std::string> done;
            for (const Found& f : findable(standard, movement)) {
                if (!done.insert(f.fault).second) continue;
                std::map<std::string, int> holding;
                for (const Card& c : book().cards) {
                    if (c.fault != f.fault || !c.when.holds(s)) continue;
                    const std::string key = (c.limiter ? c.limiter->id : "") + "/" + std::to_string(c.when.weight());
                    for (const auto& [part, given] : {std::pair("say", !c.say.empty()),
                                                      {"change", !c.change.empty()},
                                                      {"prepare", !c.prepare.empty()},
                                                      {"progress", !c.progress.empty()}})
                        if (given) WRONG_UNLESS(p, ++holding[key + part] == 1, spoken(s, f.fault + " " + part));
                }
            }
        });
        NO_PROBLEMS(p);
    }

    void everyPainPlaceAndFamilyHasASubstitute() {
        Problems p;
        everySituation([&](const Situation& plain, const Standard&, const Movement&) {
            for (const auto& place : painPlaces()) {
                Situation s = plain;
                s.complaints = {place};
                const Advice a = adviceFor(kPainCard, s, book());
                WRONG_UNLESS(p, !a.say.empty() && !a.change.empty() && !a.prepare.empty(), spoken(s, place));
                QVERIFY(a.progress.find("same test again") != std::string::npos);
                for (const auto& c : a.change)
                    WRONG_UNLESS(
                        p, !QString::fromStdString(c.text).contains(QRegularExpression("same again|heavier|add ")),
                        QString::fromStdString(c.text));
            }
        });
        // The ones that coaches name first.
        auto first = [&](const char* movement, const char* place) {
            SetResult r;
            r.context.movement = made::movement(movement);
            r.choices = made::standard(r.context.movement.standards.front()).choices;
            r.context.pain.spots = {{place}};
            return adviceWithoutFinding(kPainCard, r, book()).change.front().text;
        };
        QVERIFY(first("squat", "knee-front").find("Box squat") == 0);
        QVERIFY(first("forward-lunge", "knee-inner").find("Step back") == 0);
        QVERIFY(first("split-squat", "rear-knee").find("Less upright") == 0 ||
                first("split-squat", "rear-knee").find("Front foot a little nearer") ==
                    0);  // the tall school does not bow
        QVERIFY(first("hinge", "low-back").find("higher stop") != std::string::npos);
        NO_PROBLEMS(p);
    }

    void whatIsFeltIsAnsweredByFamily() {
        SetResult r;
        r.context.movement = made::movement("bridge");
        r.context.felt = {"hamstring"};
        QVERIFY(adviceWithoutFinding(kFeltCard, r, book()).change.front().text.find("Feet a little nearer") == 0);
        r.context.felt = {"seat"};
        QVERIFY(adviceWithoutFinding(kFeltCard, r, book()).say.empty());  // where it belongs
        r.context.movement = made::movement("split-squat");
        r.context.felt = {"rear-leg"};
        QVERIFY(!adviceWithoutFinding(kFeltCard, r, book()).say.empty());
        for (const Card& c : book().cards)
            for (const auto& place : c.when.felt) QVERIFY2(claims(feltPlaces(), place), place.c_str());
    }

    void olderIdsAreStillUnderstood() {
        const MeasureId neck = MeasureId::named("neck_change");
        QCOMPARE(currentFault("head_off_line", neck, true), std::string("chin_up"));
        QCOMPARE(currentFault("head_off_line", neck, false), std::string("chin_down"));
        QCOMPARE(currentFault("heels_rise", neck, true), std::string("heels_rise"));
        QCOMPARE(currentFault("toe_out_off", MeasureId::named("toe_out_uneven"), true), std::string("feet_uneven"));
        QCOMPARE(book().title("stance_off"), std::string("Stance off the standard"));
        for (const RetiredFault& old : retiredFaults()) {
            QVERIFY2(!book().fault(old.id) || old.id == "back_leads" || old.id == "rear_knee_lands", old.id.c_str());
            for (const auto& now : {old.below, old.above}) QVERIFY2(now.empty() || book().fault(now), now.c_str());
        }
        const std::string mine = R"({"schema":"zevo-standard-1","id":"m","movement":"squat","title":"Mine","reason":"x",
            "bands":[{"measure":"mass_over_foot","min":0.3,"max":0.6,"fault_below":"balance_off_foot",
                      "fault_above":"balance_off_foot"}]})";
        const auto read = parseStandard(mine, "mine.json");
        QVERIFY(bool(read));
        QCOMPARE(read->bands[0].faultBelow, std::string("weight_on_heels"));
        QCOMPARE(read->bands[0].faultAbove, std::string("weight_on_toes"));
    }

    void damagedFilesAreRefusedWithPathAndValue_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("says");
        auto card = [](const char* inside) {
            return QString(R"({"schema":"zevo-cards-1","cards":[{"fault":"chin_up",%1}]})").arg(inside);
        };
        QTest::newRow("fault") << QString(R"({"schema":"zevo-cards-1","cards":[{"fault":"chin"}]})")
                               << "/cards/0/fault “chin”";
        QTest::newRow("kind") << card(R"("say":[{"kind":"shout","text":"x"}])") << "/cards/0/say/0/kind “shout”";
        QTest::newRow("claim") << card(R"("change":[{"text":"x","claims":["magic"]}])") << "/change/0/claims “magic”";
        QTest::newRow("stage") << card(R"("prepare":[{"stage":"nap","text":"x","dose":"1"}])")
                               << "/prepare/0/stage “nap”";
        QTest::newRow("condition") << card(R"("when":{"weather":["rain"]})") << "/when/weather is not a condition";
        QTest::newRow("signs") << card(R"("limiter":{"id":"a","why":"b","signs":{"reps":"early"}})")
                               << "/signs/reps “early”";
        QTest::newRow("why") << card(R"("limiter":{"id":"a","signs":{}})") << "/limiter/why is missing";
        QTest::newRow("no object") << QString(R"({"schema":"zevo-cards-1","cards":[7]})")
                                   << "/cards/0 must be an object";
        QTest::newRow("schema") << QString(R"({"schema":"zevo-cards-9"})") << "must be zevo-cards-1";
    }
    void damagedFilesAreRefusedWithPathAndValue() {
        QFETCH(QString, text);
        QFETCH(QString, says);
        const auto read = parseCards(text.toStdString(), "mine.json", book());
        const QString message = read ? QString() : QString::fromStdString(read.error().message);
        QVERIFY2(message.contains(says) && message.contains("mine.json"), qPrintable(message));
        QVERIFY(!parseFaults("{}", "x") && !parseClaims("[]", "x") && !parseCards("", "x", book()));
    }
};

ZEVO_SUITE(TestAdvice, "advice")
#include "test_advice.moc"

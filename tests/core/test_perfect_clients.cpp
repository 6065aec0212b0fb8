// A client who does what was chosen is clean, whatever was chosen; and every option chooses something.
#include <cstdio>

#include "core/advice/advice.h"
#include "tests/support/outlined_sets.h"
#include "tests/support/perfect_client.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

/// What one set is judged by.
struct Way {
    const Movement* movement;
    std::string variation;
    const Standard* school;
    Choices overrides;
    bool front;

    std::string name() const {
        std::string out = movement->id + (variation.empty() ? "" : "/" + variation) + ", " + school->id;
        for (const auto& [choice, option] : overrides) out += ", " + choice + " " + option;
        return out + (front ? ", front" : ", side");
    }
};

/// The judged set of a client who does it. With outlines where the back is what was chosen.
SetState stateOf(const Way& way) {
    const auto spec = made::perfectClient(*way.movement, way.variation, *way.school, way.overrides, way.front);
    SetFacts facts = made::factsOf(spec);
    facts.variation = way.variation;
    facts.loadShare = spec.motion.loadShare;
    facts.choices = way.overrides;
    std::shared_ptr<const Observation> seen = made::observation(spec);
    if (way.overrides.count("hinge_back") && !way.front) {
        facts.shirt = Shirt::Tight;
        seen = std::make_shared<const Observation>(made::outlined(spec));
    }
    auto state = recompute({seen}, {FactsSet{facts}, StandardChosen{way.school->id}}, *made::catalogue());
    if (!state) qFatal("%s: %s", way.name().c_str(), made::words(state.error()));
    return *state;
}

/// Every school of every movement: its own choices with every variation, and each option of each choice by itself.
std::vector<Way> ways() {
    std::vector<Way> out;
    const Catalogue& all = *made::catalogue();
    static const std::vector<Standard> schools = all.standards;
    for (const Movement& m : all.movements)
        for (const Standard& s : schools) {
            if (!judges(s, m) || std::find(m.standards.begin(), m.standards.end(), s.id) == m.standards.end()) continue;
            for (const bool front : {false, true}) {
                for (const std::string& variation : sim::movements().at(m.id))
                    out.push_back({&m, variation, &s, {}, front});
                for (const Choice& c : all.choices) {
                    if (!c.isFor(m) || c.id == "drills" || c.id == "breath") continue;  // they change no band
                    for (const ChoiceOption& o : c.options) {
                        const std::string chosen = o.asksNumber ? o.id + ":10" : o.id;
                        if (const auto own = s.choices.find(c.id); own != s.choices.end() && own->second == chosen)
                            continue;
                        if (c.id == "hinge_stop") {
                            for (const char* v : {"romanian", "stiff-leg"})
                                out.push_back({&m, v, &s, {{c.id, chosen}}, front});
                        } else {
                            out.push_back({&m, c.id == "stick_head" ? "dowel" : "", &s, {{c.id, chosen}}, front});
                        }
                    }
                }
            }
        }
    return out;
}

}  // namespace

class TestPerfectClients : public QObject {
    Q_OBJECT
  private slots:
    void aPerfectClientOfEveryOptionIsClean() {
        int sets = 0, doubts = 0;
        QStringList faulted;
        for (const Way& way : ways()) {
            const SetState state = stateOf(way);
            const QString name = QString::fromStdString(way.name());
            ++sets;
            const auto& reps = state.set.result.reps;
            const auto whole =
                std::count_if(reps.begin(), reps.end(), [](const MeasuredRep& r) { return r.kind == RepKind::Full; });
            if (whole != 3) faulted.append(QString("%1: %2 of 3 repetitions").arg(name).arg(whole));
            for (const Finding& f : state.set.result.findings) {
                const QString said = QString("%1: %2 %3 (%4 %5 ± %6 for %7 in %8)")
                                         .arg(name, QString::fromStdString(severityName(f.severity)),
                                              QString::fromStdString(f.fault), QString::fromStdString(f.measure.name()))
                                         .arg(f.value)
                                         .arg(f.pm90)
                                         .arg(f.edge)
                                         .arg(f.reps.size());
                if (f.severity == Severity::Unsure)
                    ++doubts;
                else
                    faulted.append(said);
                qInfo("%s", qPrintable(said));
            }
        }
        std::printf("%d sets of clients who do what was chosen: %d faulted, %d doubts\n", sets, int(faulted.size()),
                    doubts);
        QVERIFY2(faulted.isEmpty(), qPrintable(faulted.join("\n")));
    }
};

ZEVO_SUITE(TestPerfectClients, "perfect_clients")
#include "test_perfect_clients.moc"

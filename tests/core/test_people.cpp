// What the networks saw of three lifelike people (bench/people: a packaged parametric human, dressed, in rooms of their
// own), with what truly happened. Kept from bench_accuracy --people b --keep; nothing of the package is in them.
#include <QFile>
#include <nlohmann/json.hpp>

#include "core/serial/pose_record.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

struct Person {
    nlohmann::json truth;
    std::shared_ptr<Observation> seen;
    Edits edits;
};

Person person(const QString& name) {
    auto bytes = [&](const char* ending) {
        QFile f(ZEVO_TEST_DIR "/fixtures/people/" + name + ending);
        if (!f.open(QIODevice::ReadOnly)) qFatal("missing %s", qPrintable(f.fileName()));
        const QByteArray all = f.readAll();
        return std::vector<std::uint8_t>(all.begin(), all.end());
    };
    Person out;
    const auto text = bytes(".json");
    out.truth = nlohmann::json::parse(text.begin(), text.end());
    out.seen = std::make_shared<Observation>();
    out.seen->poses = *readPoses(bytes(".poses"));
    out.seen->secondEstimates = *readSecondEstimates(bytes(".second"));
    out.seen->clip.width = out.truth["width"], out.seen->clip.height = out.truth["height"];
    SetFacts facts;
    facts.movement = out.truth["movement"], facts.variation = out.truth["variation"];
    facts.statureCm = out.truth["stature_cm"];
    out.edits = {FactsSet{facts}};
    return out;
}

constexpr const char* kAngles[] = {"knee_flexion", "hip_flexion", "trunk_lean", "shin_angle"};

}  // namespace

class TestPeople : public QObject {
    Q_OBJECT
  private slots:
    void theirRepsAreReadAndNothingIsClaimed_data() {
        QTest::addColumn<QString>("name");
        for (const char* name : {"squat", "split-squat", "hinge-romanian"}) QTest::newRow(name) << name;
    }
    void theirRepsAreReadAndNothingIsClaimed() {
        QFETCH(QString, name);
        const Person p = person(name);
        const auto state = recompute({p.seen}, p.edits, *made::catalogue());
        QVERIFY2(bool(state), state ? "" : made::words(state.error()));
        const auto& reps = state->set.result.reps;
        QCOMPARE(reps.size(), p.truth["reps"].size());
        for (std::size_t i = 0; i < reps.size(); ++i) {
            const auto& truth = p.truth["reps"][i];
            NEAR(reps[i].startS, truth["start_s"].get<double>(), 0.35);
            NEAR(reps[i].endS, truth["end_s"].get<double>(), 0.35);
        }
        // They move soundly: nothing is claimed surely.
        for (const Finding& f : state->set.result.findings)
            QVERIFY2(f.severity != Severity::Clear, qPrintable(QString::fromStdString(f.fault)));
    }

    /// A ± is meant to hold nine of ten; of what it does not hold, none may be far out.
    void theirPmHoldNineOfTen() {
        int inside = 0, all = 0;
        for (const char* name : {"squat", "split-squat", "hinge-romanian"}) {
            const Person p = person(name);
            const auto state = recompute({p.seen}, p.edits, *made::catalogue());
            for (std::size_t i = 0; i < p.truth["reps"].size(); ++i)
                for (const char* angle : kAngles) {
                    const Measurement* m = state->set.result.reps[i].find(angle);
                    QVERIFY2(m, angle);
                    const double off = std::abs(m->value - p.truth["reps"][i][angle].get<double>());
                    ++all, inside += off <= m->pm90;
                    QVERIFY2(off <= 1.3 * m->pm90, qPrintable(QString("%1 %2: %3 off").arg(name, angle).arg(off)));
                }
        }
        QCOMPARE(all, 36);
        QVERIFY2(inside >= 32, qPrintable(QString::number(inside)));
    }
};

ZEVO_SUITE(TestPeople, "people")
#include "test_people.moc"

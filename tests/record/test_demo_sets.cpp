// The demo's sets as they are shipped: all there, made by this engine, small; what is in them is what their clips were
// made to show and what reading a clip afresh gives.
#include <QDir>
#include <QFile>
#include <QTemporaryDir>
#include <set>

#include "core/serial/observation_cbor.h"
#include "record/demo_sets.h"
#include "record/opening.h"
#include "tests/support/libraries.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::record;

namespace {

const std::atomic<bool> kGoOn{false};

std::vector<pipeline::DemoSet> story() {
    auto demo = pipeline::loadDemo();
    if (!demo) qFatal("%s", made::words(demo.error()));
    return std::move(*demo);
}

QString shippedFile(const pipeline::DemoSet& set) {
    return QDir(demoFolder()).filePath(shippedSetName(set));
}

}  // namespace

class TestDemoSets : public QObject {
    Q_OBJECT

  private slots:
    void everySetIsShippedAndSmall() {
        for (const auto& set : story()) {
            const auto shipped = readShippedSet(shippedFile(set));
            QVERIFY2(bool(shipped), shipped ? "" : made::words(shipped.error()));
            QCOMPARE(shipped->seen.size(), set.frontName.empty() ? std::size_t{1} : std::size_t{2});
            for (const auto& seen : shipped->seen) QVERIFY(!seen->poses.empty() && !seen->network.empty());
            QVERIFY(!shipped->seen[0]->contours.empty());
            const auto marks = std::count_if(shipped->edits.begin(), shipped->edits.end(),
                                             [](const Edit& e) { return std::holds_alternative<PointMarked>(e); });
            QCOMPARE(marks, static_cast<long>(set.marks.size()));
        }
        qint64 bytes = 0;
        for (const QFileInfo& file : QDir(demoFolder()).entryInfoList(QDir::Files)) bytes += file.size();
        QVERIFY2(bytes < 20'000'000, qPrintable(QString::number(bytes)));
    }

    /// Nothing lies about that no set of the story needs: a story that changed leaves its old files behind.
    void nothingElseLiesThere() {
        std::set<QString> wanted;
        for (const auto& set : story()) {
            wanted.insert(shippedSetName(set));
            wanted.insert(QString::fromStdString(pipeline::shippedName(set.clipName, set.specJson)));
            if (!set.frontName.empty())
                wanted.insert(QString::fromStdString(pipeline::shippedName(set.frontName, set.frontSpecJson)));
        }
        for (const QString& name : QDir(demoFolder()).entryList(QDir::Files))
            QVERIFY2(wanted.contains(name), qPrintable(name));
    }

    void theLibraryIsMadeFromThem() {
        QTemporaryDir dir;
        const auto demo = story();
        for (int again = 0; again < 2; ++again)  // a second start finds them there
            for (const auto& set : demo) {
                const auto done = prepareDemoSet(dir.path(), set, made::catalogue(), kGoOn, {});
                QVERIFY2(bool(done), done ? "" : made::words(done.error()));
            }
        auto library = store::Library::open(dir.path());
        std::size_t sets = 0;
        for (const auto& client : *library->clients()) {
            QVERIFY(client.statureCm > 150);
            for (const auto& s : *library->sets(client.id)) {
                ++sets;
                const auto opened = openSet(dir.path(), s.id, made::catalogue());
                QVERIFY2(bool(opened), opened ? "" : made::words(opened.error()));
                QVERIFY(opened->clips[0].missing.isEmpty());
                const QString path = opened->stored.seen[0].clip.path;
                const auto told = std::find_if(demo.begin(), demo.end(), [&](const auto& d) {
                    return path.endsWith(QString::fromStdString(pipeline::shippedName(d.clipName, d.specJson)));
                });
                QVERIFY(told != demo.end());
                QCOMPARE(client.name, QString::fromStdString(told->client));
                const SetResult& r = opened->state.set.result;
                QCOMPARE(static_cast<int>(r.reps.size()), told->reps);
                std::set<std::string> found;
                for (const Finding& f : r.findings)
                    if (f.severity != Severity::Unsure) found.insert(f.fault);
                QString said = path;
                for (const Finding& f : r.findings)
                    said += QString(", %1 (%2)").arg(f.fault.c_str()).arg(static_cast<int>(f.severity));
                QVERIFY2(found == std::set<std::string>(told->planted.begin(), told->planted.end()), qPrintable(said));
            }
        }
        QCOMPARE(sets, demo.size());
    }

    /// The shortest one read afresh by the networks at hand.
    void oneMeasuredAfreshIsTheSame() {
        const auto demo = story();
        const auto shortest = std::min_element(demo.begin(), demo.end(), [](const auto& a, const auto& b) {
            return QFileInfo(shippedFile(a)).size() < QFileInfo(shippedFile(b)).size();
        });
        QTemporaryDir dir;
        const auto file = shipDemoSet(dir.path(), *shortest, made::catalogue(), kGoOn);
        QVERIFY2(bool(file), file ? "" : made::words(file.error()));
        const auto now = readShippedSet(*file), then = readShippedSet(shippedFile(*shortest));
        QCOMPARE(now->seen[0]->network, then->seen[0]->network);  // another network: ship the sets anew
        auto result = [](const ShippedSet& s) {
            auto state = recompute(s.seen, s.edits, *made::catalogue());
            if (!state) qFatal("%s", made::words(state.error()));
            return state->set.result;
        };
        const SetResult a = result(*now), b = result(*then);
        QCOMPARE(a.reps.size(), b.reps.size());
        for (std::size_t i = 0; i < a.reps.size(); ++i) {
            NEAR(a.reps[i].bottomS, b.reps[i].bottomS, 0.04);
            QVERIFY(a.reps[i].measures.size() > 10);
            for (const Measurement& m : a.reps[i].measures) {
                const Measurement* shipped = b.reps[i].find(m.measure);
                QVERIFY2(shipped, m.measure.name().c_str());
                NEAR(m.value, shipped->value, std::max(1e-6, 0.1 * m.pm90));
            }
        }
    }

    void damagedOnesAreRefused() {
        QTemporaryDir dir;
        const QString path = dir.filePath("a.set");
        QVERIFY(!readShippedSet(path));
        QFile whole(shippedFile(story()[1]));
        QVERIFY(whole.open(QFile::ReadOnly));
        const QByteArray bytes = whole.readAll();
        for (const QByteArray& broken : {QByteArray(), bytes.left(bytes.size() / 2), QByteArray("no such thing")}) {
            QFile file(path);
            QVERIFY(file.open(QFile::WriteOnly | QFile::Truncate));
            file.write(broken);
            file.close();
            QVERIFY(!readShippedSet(path));
        }
        Observation older;
        older.poses.resize(2);
        auto block = writeObservation(older);
        QVERIFY(bool(readObservation(block)));
        block.resize(block.size() - 3);
        QVERIFY(!readObservation(block));
    }

    void observationsComeBackAsTheyWere() {
        const auto shipped = readShippedSet(shippedFile(story()[0]));
        const Observation& o = *shipped->seen[0];
        const auto again = readObservation(writeObservation(o));
        QVERIFY(bool(again));
        QVERIFY(again->clip == o.clip && again->model == o.model && again->network == o.network);
        QCOMPARE(again->notices, o.notices);
        QCOMPARE(again->poses.size(), o.poses.size());
        QCOMPARE(writeObservation(*again), writeObservation(o));
    }
};

ZEVO_SUITE(TestDemoSets, "demo_sets")
#include "test_demo_sets.moc"

// Clients in the record: found by what one remembers of them, joined, listed before deletion; sets that stand
// elsewhere; what the ledger and the courses read.
#include <QDir>
#include <QTemporaryDir>
#include <QTest>

#include "store/library.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::store;

namespace {

Library open(const QString& folder) {
    auto library = Library::open(folder);
    if (!library) qFatal("%s", made::words(library.error()));
    return std::move(*library);
}

NewSet newSet(ClientId client, const QDate& day, const QByteArray& hash,
              const QString& headline = "Heels leave the floor") {
    static const auto reps = made::measured(made::spec(2))->result.reps;
    NewSet s;
    s.client = client;
    s.heldOn = day;
    Observation o = *made::observation(made::spec(1));
    o.clip = {100, 4.0, 640, 360, 0};
    s.seen = {{{{}, hash, "/videos/" + hash + ".mp4", 1234}, std::make_shared<const Observation>(o)}};
    s.edits = {FactsSet{made::factsOf(made::spec(1))}, CueGiven{"heels_rise", "Press the floor away."}};
    s.outcome.movement = "squat", s.outcome.standard = "whole-foot", s.outcome.headline = headline;
    s.outcome.reps = 2, s.outcome.engine = kEngine, s.outcome.measured = reps;
    return s;
}

QStringList names(const std::vector<ClientSummary>& found) {
    QStringList out;
    for (const auto& c : found) out.append(c.client.name);
    return out;
}

const QDate kMay(2026, 5, 4), kJune(2026, 6, 1);

}  // namespace

class TestClients : public QObject {
    Q_OBJECT
    QTemporaryDir m_dir;
    std::unique_ptr<Library> m_library;

  private slots:
    void init() {
        QDir(m_dir.path()).removeRecursively();
        QDir().mkpath(m_dir.path());
        m_library = std::make_unique<Library>(open(m_dir.path()));
    }
    void cleanup() { m_library.reset(); }

    void everythingOfAClientComesBack() {
        Client c{{}, "Tamsel Orrick", 181, "", kMay};
        c.massKg = 83.5, c.goals = "carry a sill alone", c.emphasis = "hips", c.equipment = "one bell";
        c.build = {{"thigh", 44}, {"foot", 27.5}};
        c.targets = {{"squat", "thigh_angle", -8.5, kMay}};
        c.choices["depth"] = "own:-9";
        c.archived = true;
        c.id = *m_library->addClient(c);
        QCOMPARE(*m_library->client(c.id), c);
    }

    void clientsAreFoundByWhatOneRemembers() {
        const auto a = *m_library->addClient({{}, "Anwen Strode", 170, "", {}}),
                   b = *m_library->addClient({{}, "Bevis Orrick", 170, "old ankle", {}});
        Client c{{}, "Corwen 100%_Ash", 170, "", {}};
        c.goals = "Stairs with a load";
        c.id = *m_library->addClient(c);
        (void)*m_library->addSet(newSet(a, kMay, "1", "Knees drift in"));
        (void)*m_library->addSet(newSet(b, kJune, "2"));
        // Whom the coach saw last comes first; who was never filmed, last.
        QCOMPARE(names(*m_library->findClients("")), (QStringList{"Bevis Orrick", "Anwen Strode", "Corwen 100%_Ash"}));
        QCOMPARE(names(*m_library->findClients("orr")), QStringList{"Bevis Orrick"});
        QCOMPARE(names(*m_library->findClients("ankle")), QStringList{"Bevis Orrick"});
        QCOMPARE(names(*m_library->findClients("knees in")), QStringList{"Anwen Strode"});  // both words, in any order
        QCOMPARE(names(*m_library->findClients("stairs")), QStringList{"Corwen 100%_Ash"});
        QCOMPARE(names(*m_library->findClients("%_")), QStringList{"Corwen 100%_Ash"});  // signs stand for themselves
        QVERIFY(m_library->findClients("'; DROP TABLE clients; --")->empty());
        const auto found = *m_library->findClients("strode");
        QCOMPARE(*found[0].lastOn, kMay);
        QCOMPARE(found[0].headline, QString("Knees drift in"));
        QCOMPARE(found[0].sets, 1);
        c.archived = true;
        QVERIFY(bool(m_library->updateClient(c)));
        QCOMPARE(m_library->findClients("")->size(), std::size_t{2});
        QCOMPARE(names(*m_library->findClients("", true)), QStringList{"Corwen 100%_Ash"});
    }

    void aHiddenSetIsNotTheNewest() {
        const auto a = *m_library->addClient({{}, "Anwen Strode", 170, "", {}});
        (void)*m_library->addSet(newSet(a, kMay, "1", "Clean"));
        const auto late = *m_library->addSet(newSet(a, kJune, "2", "Knees drift in"));
        QVERIFY(bool(m_library->hideSet(late, true)));
        QCOMPARE(m_library->findClients("")->at(0).headline, QString("Clean"));
        QVERIFY(m_library->findClients("knees")->empty());
    }

    void setsStandWhereTheyArePut() {
        const auto a = *m_library->addClient({{}, "A", 170, "", {}}), b = *m_library->addClient({{}, "B", 170, "", {}});
        const auto first = *m_library->addSet(newSet(a, kMay, "1")), second = *m_library->addSet(newSet(a, kMay, "2"));
        auto order = [&](ClientId of) {
            std::vector<SetId> out;
            const auto sets = *m_library->sets(of);
            for (const auto& s : sets) out.push_back(s.id);
            return out;
        };
        QCOMPARE(order(a), (std::vector{second, first}));
        SetPlace x = *m_library->placeOf(first), y = *m_library->placeOf(second);
        const SetPlace was = x;
        std::swap(x.position, y.position);
        QVERIFY(bool(m_library->putSet(first, x)) && bool(m_library->putSet(second, y)));
        QCOMPARE(order(a), (std::vector{first, second}));
        QCOMPARE(m_library->log(a)->front().id, second);
        // To another client and day, and back.
        QVERIFY(bool(m_library->putSet(first, {b, kJune, 1})));
        QCOMPARE(order(b), (std::vector{first}));
        QCOMPARE(m_library->loadSet(first)->heldOn, kJune);
        QVERIFY(bool(m_library->putSet(first, was)));
        QCOMPARE(*m_library->placeOf(first), was);
        QVERIFY(!m_library->placeOf(SetId::fresh()));
    }

    void twoClientsBecomeOne() {
        Client a{{}, "Tam Orrick", 0, "from the phone list", {}};
        a.flags = {{"fall", kMay}};
        a.complaint = {6, {{"low-back"}}, false, kJune};
        a.targets = {{"squat", "thigh_angle", -5, kMay}, {"hinge", "trunk_lean", 60, kMay}};
        a.goals = "stairs";
        a.build = {{"thigh", 45}, {"foot", 26}};
        a.choices["depth"] = "own:-9", a.choices["toes"] = "out";
        a.id = *m_library->addClient(a);
        Client b{{}, "Tamsel Orrick", 181, "", kMay};
        b.targets = {{"squat", "thigh_angle", -12, kJune}};
        b.complaint = {2, {{"knee-front"}}, false, kMay};
        b.build = {{"thigh", 44}};
        b.choices["depth"] = "level";
        b.id = *m_library->addClient(b);
        // On one day both were asked: the worse answer counts, wherever it was given.
        for (const auto& [id, score] : {std::pair{a.id, 7}, std::pair{b.id, 4}}) {
            Client c = *m_library->client(id);
            const Complaint last = c.complaint;
            c.complaint = {score, {{"hip-front"}}, score == 4, QDate(2026, 5, 20)};
            QVERIFY(bool(m_library->updateClient(c)));
            c.complaint = last;
            QVERIFY(bool(m_library->updateClient(c)));
        }
        const auto first = *m_library->addSet(newSet(a.id, kMay, "1"));
        const auto second = *m_library->addSet(newSet(b.id, kMay, "2"));
        QVERIFY(!m_library->mergeClients(a.id, a.id));
        QVERIFY(bool(m_library->mergeClients(a.id, b.id)));
        QVERIFY(!m_library->client(a.id));
        const Client joined = *m_library->client(b.id);
        QCOMPARE(joined.name, b.name);
        QCOMPARE(joined.statureCm, 181.0);
        QCOMPARE(joined.goals, a.goals);
        QCOMPARE(joined.note, a.note);
        QCOMPARE(joined.flags, a.flags);  // what stood at one stands at both
        QCOMPARE(joined.complaint, a.complaint);
        QCOMPARE(joined.targets.size(), std::size_t{2});
        QCOMPARE(joined.targets[0].value, -12.0);
        QCOMPARE(m_library->sets(b.id)->size(), std::size_t{2});
        QCOMPARE(m_library->loadSet(first)->client.id, b.id);
        QVERIFY(bool(m_library->loadSet(second)));
        QCOMPARE(joined.build, (std::map<QString, double>{{"thigh", 44}, {"foot", 26}}));
        QCOMPARE(joined.choices.at("depth"), std::string("level"));
        QCOMPARE(joined.choices.at("toes"), std::string("out"));
        const auto asked = *m_library->complaints(b.id);
        QCOMPARE(asked.size(), std::size_t{3});
        QCOMPARE(asked[1], (Complaint{7, {{"hip-front"}}, true, QDate(2026, 5, 20)}));
    }

    void complaintsAreKeptWithTheirDays() {
        Client c{{}, "A", 170, "", {}};
        c.complaint = {3, {{"knee-front"}}, true, kMay};
        c.id = *m_library->addClient(c);
        c.complaint = {1, {{"knee-front"}}, false, kJune};
        QVERIFY(bool(m_library->updateClient(c)));
        c.complaint.score = 0;  // asked again the same day: the last answer counts
        QVERIFY(bool(m_library->updateClient(c)));
        const auto all = *m_library->complaints(c.id);
        QCOMPARE(all.size(), std::size_t{2});
        QCOMPARE(all[0], (Complaint{0, {{"knee-front"}}, false, kJune}));
        QCOMPARE(all[1], (Complaint{3, {{"knee-front"}}, true, kMay}));
    }

    /// A clearance has limits and may run out; then the flag stands again, until a clinician says that it is over.
    void aClearanceHasLimitsAndEnds() {
        Client c{{}, "A", 170, "", {}};
        c.complaint = {2, {{"knee-front", BodySide::Left}, {"low-back"}}, false, kMay};
        ClientFlag fall{"fall", kMay};
        fall.clearedOn = kMay.addDays(3), fall.clearedBy = "a physiotherapist";
        fall.limits = "to a box, bodyweight", fall.clearedUntil = kJune;
        c.flags = {fall};
        c.id = *m_library->addClient(c);
        const Client kept = *m_library->client(c.id);
        QCOMPARE(kept.flags, c.flags);
        QCOMPARE(kept.complaint, c.complaint);
        QCOMPARE(m_library->complaints(c.id)->front(), c.complaint);
        const PainCheck during = painOf(kept, kJune), after = painOf(kept, kJune.addDays(1));
        QVERIFY(during.redFlags.empty() && during.cleared == std::vector<std::string>{"fall"});
        QCOMPARE(during.limits, std::vector<std::string>{"to a box, bodyweight"});
        QCOMPARE(during.spots, c.complaint.spots);
        QVERIFY(after.redFlags == std::vector<std::string>{"fall"} && after.cleared.empty() && after.limits.empty());
        c.flags[0].overOn = kJune.addDays(5), c.flags[0].overBy = "the same";
        QVERIFY(bool(m_library->updateClient(c)));
        const Client over = *m_library->client(c.id);
        QCOMPARE(over.flags, c.flags);
        QVERIFY(painOf(over, kJune.addDays(4)).redFlags.size() == 1);
        const PainCheck free = painOf(over, kJune.addDays(5));
        QVERIFY(free.redFlags.empty() && free.cleared.empty() && free.limits.empty());
    }

    void whatThereIsIsListedBeforeItGoes() {
        const auto a = *m_library->addClient({{}, "A", 170, "", {}});
        auto filmed = newSet(a, kMay, "1");
        filmed.seen[0].clip.filmed = true;
        filmed.seen[0].clip.path = m_library->recordings() + "/1.mkv";
        (void)*m_library->addSet(filmed);
        (void)*m_library->addSet(newSet(a, kJune, "2"));
        const Holdings h = *m_library->holdings(a);
        QCOMPARE(h.sets, 2);
        QCOMPARE(h.sessions, 2);
        QVERIFY(h.values > 10);
        QCOMPARE(h.filmed, QStringList{m_library->recordings() + "/1.mkv"});
        QCOMPARE(h.elsewhere, QStringList{"/videos/2.mp4"});
        QVERIFY(bool(m_library->deleteClient(a)));
        QCOMPARE(m_library->holdings(a)->values, 0);
        QVERIFY(m_library->complaints(a)->empty());
    }

    void theLogHoldsWhatTheLedgerNeeds() {
        const auto a = *m_library->addClient({{}, "A", 170, "", {}});
        auto corrected = newSet(a, kJune, "2");
        corrected.outcome.measured[0].measures[0].withoutManual = 12.5;
        (void)*m_library->addSet(corrected);
        auto earlier = newSet(a, kMay, "1");
        earlier.outcome.seenFrom = {{"full 3", ViewKind::Front, Side::Left, 88.5, 0.7, -0.1, 0.35, 16.0 / 9, true},
                                    {"full 3", ViewKind::Side, Side::Right, 2.5, 0.6, 0.05, 0.4, 4.0 / 3, false}};
        (void)*m_library->addSet(earlier);
        auto lunge = newSet(a, kJune, "3");
        lunge.outcome.movement = "split-squat";
        (void)*m_library->addSet(lunge);
        auto log = *m_library->log(a, "squat");
        QVERIFY(log[1].reps.empty() && log[1].measured);
        QVERIFY(bool(m_library->readRepetitions(log, [&](const LoggedSet& s) { return s.heldOn == kJune; })));
        QVERIFY(log[0].reps.empty());
        QVERIFY(bool(m_library->readRepetitions(log)));
        QCOMPARE(log.size(), std::size_t{2});
        QCOMPARE(log[0].heldOn, kMay);  // oldest first
        QCOMPARE(log[1].reps.size(), std::size_t{2});
        QVERIFY(fold(log[0].edits).cue);
        QCOMPARE(log[0].seenFrom, earlier.outcome.seenFrom);
        QVERIFY(log[1].seenFrom.empty());  // not kept: not known
        QCOMPARE(*log[1].reps[0].measures[0].withoutManual, 12.5);
        QVERIFY(!log[1].reps[1].measures[0].withoutManual);
        QCOMPARE(m_library->log(a)->size(), std::size_t{3});
    }
};

ZEVO_SUITE(TestClients, "clients")
#include "test_clients.moc"

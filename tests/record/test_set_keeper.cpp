// The one way to change a set: nothing is overwritten, whoever else writes; entries are added and never changed.
#include <QTemporaryDir>

#include "record/readings.h"
#include "record/set_keeper.h"
#include "record/set_writer.h"
#include "tests/support/libraries.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::record;
using store::StoredSet;

class TestSetKeeper : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> m_dir;
    std::unique_ptr<store::Library> m_library;
    store::ClientId m_client{};
    store::SetId m_set{};

    store::Library& library() { return *m_library; }
    SetKeeper keeper(const QString& author = "Ysolde") { return {*m_library, made::catalogue(), author}; }
    StoredSet stored() {
        auto set = m_library->loadSet(m_set);
        if (!set) qFatal("%s", made::words(set.error()));
        return std::move(*set);
    }
    SetFacts factsWith(const std::function<void(SetFacts&)>& change) {
        SetFacts f = fold(stored().edits).facts;
        change(f);
        return f;
    }

  private slots:
    void init() {
        m_dir = std::make_unique<QTemporaryDir>();
        m_library = std::make_unique<store::Library>(made::library(m_dir->path()));
        m_client = *m_library->addClient({{}, "Tamsel Orrick", 175, "", {}});
        m_set = *m_library->addSet(made::newSet(m_client, "side"));
    }
    void cleanup() {
        m_library.reset();
        m_dir.reset();
    }

    void aChangeIsAddedAndNothingIsRewritten() {
        const StoredSet before = stored();
        const Edits to = with(before.edits, StandardChosen{"upright"});
        const auto done = keeper().commit(before, {before.edits, to});
        QVERIFY2(bool(done), done ? "" : made::words(done.error()));
        QCOMPARE(done->known.revision, 1);
        QVERIFY(!done->merged);
        const StoredSet after = stored();
        QCOMPARE(after.edits, to);
        QCOMPARE(m_library->sets(m_client)->at(0).standard, QString("upright"));
        // The entries from before stand as they were; the one replaced is taken back by a new one.
        QVERIFY(after.entries.size() == before.entries.size() + 2);
        for (std::size_t i = 0; i < before.entries.size(); ++i) {
            QCOMPARE(after.entries[i].id, before.entries[i].id);
            QCOMPARE(after.entries[i].madeAt, before.entries[i].madeAt);
        }
        QVERIFY(after.entries[2].isTakingBack() && after.entries[2].takesBack == before.entries[1].id);
        QCOMPARE(after.entries[3].author, QString("Ysolde"));
        // Undone, the first choice is in force again at its old place, by entries that say so.
        const auto undone = keeper("Perran").commit(done->known, {to, before.edits});
        QVERIFY(bool(undone));
        QCOMPARE(stored().edits, before.edits);
        QCOMPARE(stored().entries.size(), std::size_t{6});
        const auto redone = keeper().commit(undone->known, {before.edits, to});
        QVERIFY(bool(redone));
        QCOMPARE(stored().edits, to);
        QCOMPARE(redone->known.edits(), to);
    }

    /// The second camera joins while the coach has the set open on another page; the coach's next change takes nothing
    /// of it away, and the coach is told what the set is now.
    void whatJoinedMeanwhileStays() {
        const StoredSet open = stored();
        QVERIFY(bool(joinSeen(library(), m_set, made::seen("front", "/videos/front.mp4", made::frontSpec(3)), true,
                              std::nullopt, made::catalogue())));
        QCOMPARE(stored().seen.size(), std::size_t{2});
        SetChange change{open.edits, with(open.edits, StandardChosen{"upright"}), open.seen};
        change.outcome = store::Outcome{};  // as that page believed it to be
        const auto done = keeper().commit(open, std::move(change));
        QVERIFY2(bool(done), done ? "" : made::words(done.error()));
        QVERIFY(done->merged);
        const StoredSet now = stored();
        QCOMPARE(now.seen.size(), std::size_t{2});
        QVERIFY(fold(now.edits).second.has_value());
        QCOMPARE(fold(now.edits).standard, std::string("upright"));
        QVERIFY(!now.kept.secondReps.empty() && !now.kept.reps.empty());  // not what the page believed
        QCOMPARE(done->known.revision, now.revision);
    }

    /// Taken away, and back again by undo: the filmed view is still there. Only the end of the sitting lets it go.
    void aViewTakenAwayIsThereForUndo() {
        QVERIFY(bool(joinSeen(library(), m_set, made::seen("front", "/videos/front.mp4", made::frontSpec(3)), true,
                              std::nullopt, made::catalogue())));
        const StoredSet both = stored();
        const Edits gone = with(both.edits, SecondRemoved{});
        auto away = keeper().commit(both, {both.edits, gone, both.seen});
        QVERIFY(bool(away));
        QVERIFY(!fold(stored().edits).second && stored().seen.size() == 2);
        auto back = keeper().commit(away->known, {gone, both.edits, both.seen});
        QVERIFY(bool(back));
        QVERIFY(fold(stored().edits).second && stored().seen[1].observation);
        QVERIFY(bool(library().beginSitting()));
        QCOMPARE(stored().seen.size(), std::size_t{2});
        QVERIFY(bool(keeper().commit(stored(), {both.edits, gone, both.seen})));
        QVERIFY(bool(library().beginSitting()));
        QCOMPARE(stored().seen.size(), std::size_t{1});
        QVERIFY(!made::allBytes(m_dir->path()).contains("/videos/front.mp4"));
    }

    /// Two added a view at once: both are there, at places of their own, and each edit speaks of its own.
    void twoViewsAddedAtOnceKeepTheirPlaces() {
        const StoredSet a = stored();
        auto other = made::frontSpec(3);
        other.startS = 0.2;
        SetChange mine{a.edits, with(a.edits, SecondAdded{1, true}), a.seen};
        mine.seen.push_back(made::seen("mine", "/videos/mine.mp4", other));
        QVERIFY(bool(joinSeen(library(), m_set, made::seen("theirs", "/videos/theirs.mp4", made::frontSpec(3)), true,
                              std::nullopt, made::catalogue())));
        const auto done = keeper().commit(a, mine);
        QVERIFY2(bool(done), done ? "" : made::words(done.error()));
        QCOMPARE(done->moved, (std::map<int, int>{{1, 2}}));
        const StoredSet now = stored();
        QCOMPARE(now.seen.size(), std::size_t{3});
        QCOMPARE(now.seen[1].clip.sha256, QByteArray("theirs"));
        QCOMPARE(now.seen[2].clip.sha256, QByteArray("mine"));
        QCOMPARE(fold(now.edits).second->observation, 2);
    }

    /// A careful reading takes minutes. What it comes to is made of the set as it is when it is done.
    void aCarefulReadingOverwritesNoNewerOutcome() {
        const StoredSet begun = stored();
        store::Seen careful = begun.seen[0];
        auto better = std::make_shared<Observation>(*careful.observation);
        better->model = "heavy";
        careful.observation = better;
        SetFacts facts = factsWith([](SetFacts& f) { f.wedgeDeg = 10; });
        const Edits edited = with(with(begun.edits, FactsSet{facts}), SpanLeftOut{{0, 4.2}, true});
        QVERIFY(bool(keeper().commit(begun, {begun.edits, edited})));
        const int counted = m_library->sets(m_client)->at(0).reps;
        QVERIFY(counted < 3);
        QVERIFY(bool(keeper().commit(begun, {begun.edits, begun.edits, {}, careful})));
        QCOMPARE(stored().edits, edited);
        QCOMPARE(stored().seen[0].observation->model, std::string("heavy"));
        QCOMPARE(m_library->sets(m_client)->at(0).reps, counted);
    }

    /// A second clip is another clip: who was chosen, put right, trimmed and marked in the one before means nothing in
    /// it.
    void aNewSecondClipInheritsNothing() {
        const Edits old{FactsSet{},
                        SecondAdded{1, true},
                        PointPlaced{true, {1.0, Landmark::LeftKnee, 5, 5, 0.2}},
                        PointPlaced{false, {1.0, Landmark::LeftKnee, 6, 6, 0.2}},
                        Trimmed{true, {1, 5}},
                        PersonChosen{true, 1.0, 10, 10, 2},
                        PointMarked{true, {MarkKind::KneeLeft, 0, {{1, 1, 1}}, nullptr}},
                        NotePinned{true, 2, "look"}};
        for (const Edits& edits :
             {with(old, SecondAdded{3, true}), Edits(with(with(old, SecondRemoved{}), SecondAdded{3, true}))}) {
            const EditedSet e = fold(edits);
            QCOMPARE(e.second->observation, 3);
            QVERIFY(e.views[1] == EditedSet::View());
            QCOMPARE(e.views[0].corrections.moved.size(), std::size_t{1});
        }
        // Also where both lists were laid together, so that nothing was replaced.
        Edits laid = old;
        laid.push_back(SecondAdded{3, true});
        QVERIFY(fold(laid).views[1] == EditedSet::View());
        // And the other person has none of the points that were dragged on the wrong one.
        const EditedSet person = fold(with(old, PersonChosen{false, 1.0, 300, 200, 4}));
        QVERIFY(person.views[0].corrections.moved.empty());
        QCOMPARE(person.views[0].person->observation, 4);
        QCOMPARE(person.views[1].person->observation, 2);
    }

    /// Filed under another client, a set is theirs: size, mass, pain, flags and choices; undo gives all of it back.
    void aSetGivenToAnotherClientIsTheirs() {
        store::Client other{{}, "Merrin Colvard", 158, "", {}};
        other.massKg = 61;
        other.flags = {{"fall", QDate(2026, 5, 1)}};
        other.complaint = {4, {{"knee-front"}}, true, QDate(2026, 5, 4)};
        other.id = *library().addClient(other);
        const SetFacts was = fold(stored().edits).facts;
        store::SetPlace place = *library().placeOf(m_set), from = place;
        place.client = other.id;
        const auto before = giveSet(library(), m_set, place, std::nullopt, made::catalogue());
        QVERIFY2(bool(before), before ? "" : made::words(before.error()));
        const SetFacts now = fold(stored().edits).facts;
        NEAR(now.statureCm, 158, 0);
        NEAR(now.massKg, 61, 0);
        QCOMPARE(now.pain.redFlags, std::vector<std::string>{"fall"});
        QCOMPARE(*now.pain.before, 4);
        QVERIFY(now.movement == was.movement && now.loadShare == was.loadShare);
        QCOMPARE(stored().client.id, other.id);
        const auto after = giveSet(library(), m_set, from, *before, made::catalogue());
        QVERIFY(bool(after));
        QVERIFY(fold(stored().edits).facts == was);
        QCOMPARE(stored().client.id, m_client);
        QVERIFY(*after == now);
    }

    void marksAreKeptWhoeverLooks() {
        const StoredSet open = stored();
        auto path = std::make_shared<std::vector<MarkStep>>();
        for (const auto& f : open.seen[0].observation->poses) path->push_back({f.timeS, 300 + f.timeS, 200});
        QVERIFY(bool(keepMarks(m_dir->path(), m_set, {{false, {MarkKind::Bell, 0, {{1, 300, 200}}, path}}},
                               made::catalogue(), "Perran")));
        // The coach, who has not heard of it, changes something else.
        const auto done =
            keeper().commit(open, {open.edits, with(open.edits, CueGiven{"heels_rise", "Press the floor away."})});
        QVERIFY(bool(done));
        const EditedSet now = fold(stored().edits);
        QVERIFY(now.cue && now.views[0].marks.size() == 1);
        QCOMPARE(now.views[0].marks[0].path->size(), path->size());
    }

    void whatCannotBeMeasuredIsNotKept() {
        const StoredSet open = stored();
        const auto refused = keeper().commit(
            open, {open.edits, with(open.edits, FactsSet{factsWith([](SetFacts& f) { f.movement = "bridge"; })})});
        QVERIFY(!refused);
        QCOMPARE(stored().edits, open.edits);
        QCOMPARE(stored().revision, open.revision);
        QVERIFY(!keeper().commit(KnownSet{store::SetId::fresh(), 0, {}, {}}, {}));
    }

    /// The window's writer: in order, never waited for; everything is done when it ends, and what fails says so.
    void theWriterKeepsTheOrder() {
        const StoredSet open = stored();
        int answers = 0, failures = 0;
        {
            SetWriter writer(m_dir->path());
            writer.know(KnownSet::of(open));
            Edits last = open.edits;
            for (int i = 1; i <= 8; ++i) {
                const Edits next = with(last, NotePinned{false, i * 0.5, "word " + std::to_string(i)});
                SetChange change{last, next};
                change.outcome =
                    store::Outcome{"squat", "", "whole-foot", 3, "after " + QString::number(i), kEngine, {}, {}};
                writer.commit(m_set, std::move(change), made::catalogue(), "Ysolde", [&, i](const auto& kept) {
                    QVERIFY(bool(kept));
                    QCOMPARE(++answers, i);
                });
                last = next;
            }
            SetChange bad{open.edits, with(open.edits, StandardChosen{"x"})};
            writer.commit(store::SetId::fresh(), bad, made::catalogue(), {},
                          [&](const auto& kept) { failures += !kept; });
            writer.run([](store::Library&) -> Result<void> { throw std::runtime_error("inside"); },
                       [&](const auto& done) { failures += !done; });
            QCOMPARE(writer.pending(), 10);
            writer.flush();
            QCOMPARE(answers, 8);
            QCOMPARE(failures, 2);
            QCOMPARE(writer.pending(), 0);
            // Asked for and not waited for.
            writer.commit(m_set, {last, with(last, StandardChosen{"upright"})}, made::catalogue(), {}, {});
        }
        // Where another Zevo has the library, nothing is written by this way either.
        {
            SetWriter reading(m_dir->path(), store::Access::Read);
            int refused = 0;
            reading.commit(m_set, {open.edits, {}}, made::catalogue(), {}, [&](const auto& kept) { refused += !kept; });
            reading.run(
                [](store::Library& l) -> Result<void> {
                    auto added = l.addClient({{}, "No", 0, "", {}});
                    return added ? Result<void>() : added.error();
                },
                [&](const auto& done) { refused += !done; });
            reading.flush();
            QCOMPARE(refused, 2);
        }
        QCOMPARE(fold(stored().edits).views[0].notes.size(), std::size_t{8});
        QCOMPARE(fold(stored().edits).standard, std::string("upright"));
    }
};

ZEVO_SUITE(TestSetKeeper, "set_keeper")
#include "test_set_keeper.moc"

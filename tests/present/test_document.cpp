// The open set: a change is measured, shown and kept, or refused and nothing happens; undo means the same whatever
// runs.
#include <QSignalSpy>

#include "present/set_document.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::present;

namespace {

/// A document over made poses, with what was kept of it and a runner that the test lets go.
struct Desk {
    std::vector<std::function<void()>> waiting;   ///< work and what follows, in order
    std::vector<std::function<void()>> failures;  ///< what the record still has to say
    Edits kept;
    QString keptStandard;
    int writes = 0;
    bool diskFull = false;
    QStringList refused;
    std::unique_ptr<SetDocument> document;

    explicit Desk(const sim::ClipSpec& spec, bool slow = false, std::optional<KeptValues> older = {},
                  const std::string& standard = "whole-foot") {
        const Observations seen{made::observation(spec)};
        const Edits edits{FactsSet{made::factsOf(spec)}, StandardChosen{standard}};
        auto state = SetDocument::open(seen, edits, *made::catalogue(), older);
        if (!state) qFatal("%s", made::words(state.error()));
        document = std::make_unique<SetDocument>(seen, edits, made::catalogue(), older, std::move(*state));
        kept = edits;
        document->setKeeper([this](const SetDocument::Change& change) {
            if (diskFull) {
                // Said later, as by a writer on another thread.
                failures.push_back([this, from = change.from, to = change.to] {
                    document->notKept(from, to, Error{"This could not be saved.", "full"});
                });
                return;
            }
            ++writes;
            kept = change.to;
            if (change.state) keptStandard = QString::fromStdString(change.state->wholeStandard);
        });
        QObject::connect(document.get(), &SetDocument::refused, document.get(),
                         [this](const QString& why) { refused.append(why); });
        if (slow)
            document->setRunner([this](std::function<void()> work, std::function<void()> done) {
                waiting.push_back([work = std::move(work), done = std::move(done)] {
                    work();
                    done();
                });
            });
    }
    /// The first view was read more carefully, and is in the record so.
    void refine(std::shared_ptr<const Observation> seen) {
        const Edits known = document->handedOver();
        document->rebase(known, known, {std::move(seen)});
    }
    void fail() {
        for (auto& say : std::exchange(failures, {})) say();
    }
    void letGo() {
        while (!waiting.empty()) {
            auto next = std::move(waiting.front());
            waiting.erase(waiting.begin());
            next();
        }
    }
};

/// Long enough to be measured away from the window's thread.
sim::ClipSpec longSet() {
    auto spec = made::spec(14);
    spec.motion.reps[1].heelRiseCm = spec.motion.reps[2].heelRiseCm = 6;
    return spec;
}

}  // namespace

class TestDocument : public QObject {
    Q_OBJECT
  private slots:
    void openingWritesNothing() {
        Desk desk(made::spec(2));
        QCOMPARE(desk.writes, 0);
        QVERIFY(!desk.document->canUndo() && !desk.document->canRedo());
    }

    void aChangeIsShownThenKeptAndUndone() {
        Desk desk(made::spec(3));
        QSignalSpy changed(desk.document.get(), &SetDocument::changed);
        desk.document->apply(StandardChosen{"upright"}, "choice of the standard");
        QCOMPARE(changed.size(), 1);
        QCOMPARE(desk.document->state().wholeStandard, std::string("upright"));
        QCOMPARE(desk.keptStandard, QString("upright"));
        QCOMPARE(desk.document->undoText(), QString("choice of the standard"));
        desk.document->undo();
        QCOMPARE(desk.keptStandard, QString("whole-foot"));
        desk.document->redo();
        QCOMPARE(desk.keptStandard, QString("upright"));
        desk.document->apply(StandardChosen{"upright"}, "the same again");
        QCOMPARE(desk.writes, 3);  // what changes nothing is no change
    }

    /// A careful reading is kept by the job that made it. Were it kept here once more, what joined the set in the
    /// record meanwhile would be taken out of it again.
    void aCarefulReadingIsShownAndNotKeptTwice() {
        const auto spec = made::spec(3);
        Desk quick(spec);
        QSignalSpy changed(quick.document.get(), &SetDocument::changed);
        quick.refine(made::observation(spec));
        QVERIFY(changed.size() == 1 && quick.writes == 0);
        quick.document->apply(StandardChosen{"upright"}, "choice of the standard");
        QCOMPARE(quick.writes, 1);
        // A wish under way when it comes is kept all the same, and so is one that comes after it.
        Desk slow(longSet(), true);
        slow.document->apply(StandardChosen{"upright"}, "choice of the standard");
        slow.refine(made::observation(longSet()));
        slow.letGo();
        QVERIFY(slow.writes >= 1 && slow.keptStandard == "upright");
        slow.refine(made::observation(longSet()));
        slow.document->apply(StandardChosen{"hips-back"}, "choice of the standard");
        slow.letGo();
        QCOMPARE(slow.keptStandard, QString("hips-back"));
    }

    /// A movement that the set does not show: said why, and everything is as it was; nothing is locked.
    void whatCannotBeMeasuredIsRefused() {
        Desk desk(made::spec(3));
        const Edits before = desk.document->edits();
        for (const char* id : {"bridge", "walking-lunge"}) {
            SetFacts facts = desk.document->facts();
            facts.movement = id;
            desk.document->apply(FactsSet{facts}, "the movement");
            QVERIFY(!desk.refused.isEmpty() && desk.refused.back().contains("looks like"));
            QCOMPARE(desk.document->edits(), before);
            QCOMPARE(desk.kept, before);
            QCOMPARE(desk.writes, 0);
            QVERIFY(!desk.document->canUndo());
            QCOMPARE(desk.document->state().set.result.context.movement.id, std::string("squat"));
            desk.refused.clear();
        }
        SetFacts facts = desk.document->facts();
        facts.pain.after = 3;
        desk.document->apply(FactsSet{facts}, "pain");  // and it goes on
        QCOMPARE(desk.writes, 1);
    }

    /// What could not be kept is taken back on the screen, said once, and is no step to undo; what was built on it
    /// stays.
    void aFullDiskTakesTheStepBack() {
        Desk desk(made::spec(2));
        const Edits before = desk.document->edits();
        desk.diskFull = true;
        desk.document->apply(StandardChosen{"upright"}, "x");
        QCOMPARE(desk.document->state().wholeStandard, std::string("upright"));
        desk.diskFull = false;
        SetFacts facts = desk.document->facts();
        facts.wedgeDeg = 5;
        desk.document->apply(FactsSet{facts}, "wedge");  // before the record has answered
        desk.fail();
        QCOMPARE(desk.refused.size(), 1);
        QCOMPARE(desk.document->state().wholeStandard, std::string("whole-foot"));
        QCOMPARE(fold(desk.document->edits()).facts.wedgeDeg, 5.0);
        desk.document->undo();
        QCOMPARE(desk.document->edits(), before);
        QVERIFY(!desk.document->canUndo());
        QCOMPARE(desk.kept, before);
    }

    /// Another view joined in the record while this document was open, on whatever page: it is seen here, undo walks
    /// over what was done here alone, and nothing of it is taken out of the record.
    void whatJoinedInTheRecordIsNotUndoneHere() {
        auto side = made::spec(3), front = side;
        front.scene.camera.azimuthDeg = 0;
        front.startS = 0.4;
        Desk desk(side);
        desk.document->apply(StandardChosen{"upright"}, "choice of the standard");
        const Edits known = desk.document->handedOver();
        desk.document->rebase(known, with(known, SecondAdded{1, true}),
                              {desk.document->observations()[0], made::observation(front)});
        QVERIFY(desk.document->state().set.other.has_value());
        QCOMPARE(desk.writes, 1);
        desk.document->undo();
        QCOMPARE(desk.document->state().wholeStandard, std::string("whole-foot"));
        QVERIFY(desk.document->state().set.other.has_value() && !desk.document->canUndo());
        QVERIFY(fold(desk.kept).second.has_value());
        // The coach had added one of their own meanwhile: it stands behind the other one.
        Desk both(side);
        auto late = front;
        late.startS = 0.2;
        both.document->addSecond(made::observation(late), true);
        const Edits had = both.document->handedOver();
        both.document->rebase({had.begin(), had.end() - 1},
                              with(Edits(had.begin(), had.end() - 1), SecondAdded{1, true}),
                              {made::observation(side), made::observation(front), made::observation(late)}, {{1, 2}});
        QCOMPARE(both.document->state().edited.second->observation, 2);
        both.document->undo();
        QCOMPARE(both.document->state().edited.second->observation, 1);
        // The same where the record had put it behind the other one already.
        Desk kept(side);
        kept.document->addSecond(made::observation(late), true);
        const Edits handed = kept.document->handedOver();
        const Edits before(handed.begin(), handed.end() - 1);
        kept.document->rebase(handed, with(with(before, SecondAdded{1, true}), SecondAdded{2, true}),
                              {made::observation(side), made::observation(front), made::observation(late)}, {{1, 2}});
        QCOMPARE(kept.document->state().edited.second->observation, 2);
        kept.document->undo();
        QVERIFY(!kept.document->state().edited.second);
    }

    /// A reading from behind is measured behind, however short the set; what the coach does meanwhile is kept.
    void whatCameFromBehindIsMeasuredBehind() {
        const auto spec = made::spec(3);
        Desk desk(spec, true);
        const int before = static_cast<int>(desk.document->state().set.result.reps.size());
        auto more = spec;
        more.motion.reps.push_back(more.motion.reps.back());
        desk.refine(made::observation(more));
        QCOMPARE(desk.waiting.size(), std::size_t{1});  // nobody waits for it
        QCOMPARE(static_cast<int>(desk.document->state().set.result.reps.size()), before);
        desk.document->apply(StandardChosen{"upright"}, "choice of the standard");
        desk.letGo();
        QCOMPARE(static_cast<int>(desk.document->state().set.result.reps.size()), before + 1);
        QCOMPARE(desk.document->state().wholeStandard, std::string("upright"));
        QCOMPARE(desk.writes, 1);
        QCOMPARE(desk.keptStandard, QString("upright"));
        desk.document->undo();  // what the coach does is measured at once
        QVERIFY(desk.waiting.empty());
        QCOMPARE(desk.keptStandard, QString("whole-foot"));
        desk.refine(made::observation(spec));  // and a reading alone is not kept once more
        desk.letGo();
        QCOMPARE(desk.writes, 2);
    }

    /// Work that throws ends without an answer: the wish is refused, and the document goes on.
    void workThatEndsWithoutAnAnswerIsARefusal() {
        Desk desk(longSet(), true);
        desk.document->setRunner(
            [&](std::function<void()>, std::function<void()> done) { desk.waiting.push_back(done); });
        SetFacts facts = desk.document->facts();
        facts.wedgeDeg = 5;
        desk.document->apply(FactsSet{facts}, "wedge");
        desk.letGo();
        QCOMPARE(desk.refused.size(), 1);
        QVERIFY(!desk.document->canUndo() && desk.writes == 0);
        bool answered = false;
        desk.document->askDifferences([&](const auto& answer) { answered = !answer; });
        desk.letGo();
        QVERIFY(answered);
    }

    /// A long set: one wish is being measured, undone, and another taken in its place before it is refused. The other
    /// one stays.
    void aRefusalDoesNotDropTheWishThatTookItsPlace() {
        Desk desk(longSet(), true);
        SetFacts facts = desk.document->facts(), other = facts;
        facts.movement = "bridge";
        desk.document->apply(FactsSet{facts}, "bridge");
        desk.document->undo();
        other.wedgeDeg = 7;
        desk.document->apply(FactsSet{other}, "wedge");
        desk.letGo();
        QCOMPARE(fold(desk.document->edits()).facts.wedgeDeg, 7.0);
        QCOMPARE(desk.kept, desk.document->edits());
    }

    /// Ctrl+Z held down while the set is being measured: what is shown at the end is what is kept.
    void undoHeldDownWhileMeasuring() {
        Desk desk(longSet(), true);
        for (int i = 1; i <= 6; ++i) {
            SetFacts facts = desk.document->facts();
            facts.wedgeDeg = i;
            desk.document->apply(FactsSet{facts}, "wedge");
            QVERIFY(desk.document->isWaiting());
        }
        QCOMPARE(desk.writes, 0);
        QCOMPARE(desk.waiting.size(), std::size_t{1});  // only one is under way, however many were wished for
        for (int i = 0; i < 4; ++i) desk.document->undo();
        QCOMPARE(fold(desk.document->edits()).facts.wedgeDeg, 0.0);  // shown is what is measured
        desk.letGo();
        QCOMPARE(fold(desk.document->edits()).facts.wedgeDeg, 2.0);
        QCOMPARE(desk.document->state().edited.facts.wedgeDeg, 2.0);
        QCOMPARE(desk.kept, desk.document->edits());
        while (desk.document->canUndo()) desk.document->undo();
        desk.document->undo();  // one more than there is
        desk.letGo();
        QCOMPARE(fold(desk.kept).facts.wedgeDeg, 0.0);
        QCOMPARE(desk.kept, desk.document->edits());
        desk.document->redo();
        desk.letGo();
        QCOMPARE(fold(desk.kept).facts.wedgeDeg, 1.0);
    }

    void aRefusalUnderwayTakesNothingElseAlong() {
        Desk desk(longSet(), true);
        SetFacts facts = desk.document->facts();
        facts.wedgeDeg = 5;
        desk.document->apply(FactsSet{facts}, "wedge");
        desk.letGo();
        facts.movement = "bridge";
        desk.document->apply(FactsSet{facts}, "bridge");
        desk.document->undo();
        desk.document->undo();
        desk.letGo();
        QCOMPARE(fold(desk.document->edits()).facts.movement, std::string("squat"));
        QCOMPARE(desk.kept, desk.document->edits());
        QCOMPARE(desk.document->state().edited.facts.wedgeDeg, fold(desk.kept).facts.wedgeDeg);
    }

    void aSetThatWasClosedMeanwhileIsNotTouched() {
        Desk desk(longSet(), true);
        SetFacts facts = desk.document->facts();
        facts.wedgeDeg = 5;
        desk.document->apply(FactsSet{facts}, "wedge");
        desk.document->finish();
        QCOMPARE(fold(desk.kept).facts.wedgeDeg, 5.0);  // it is kept all the same
        desk.document->finish();
        desk.document.reset();
        desk.letGo();  // the work ends, and finds nobody
        QCOMPARE(desk.writes, 1);
    }

    /// A missing school is judged by the default meanwhile; nothing is saved for it, and undoing a change of movement
    /// brings the choice back.
    void theSchoolOutlivesItsAbsence() {
        Desk desk(made::spec(3), false, {}, "yard-school");
        QVERIFY(desk.document->state().standardMissing);
        QCOMPARE(desk.writes, 0);
        SetFacts facts = desk.document->facts();
        facts.wedgeDeg = 5;
        desk.document->apply(FactsSet{facts}, "wedge");
        QCOMPARE(fold(desk.kept).standard, std::string("yard-school"));

        auto hinge = made::spec(3);
        hinge.motion.movement = "hinge";
        Desk other(hinge, false, {}, "full-squeeze");
        SetFacts squat = other.document->facts();
        squat.movement = "squat";
        other.document->apply(FactsSet{squat}, "the movement");
        if (other.refused.isEmpty()) {
            QCOMPARE(other.document->state().wholeStandard, std::string("whole-foot"));
            other.document->undo();
        }
        QCOMPARE(other.document->state().wholeStandard, std::string("full-squeeze"));
    }

    void aSecondViewComesAndGoes() {
        auto side = made::spec(3), front = side, wrong = side;
        front.scene.camera.azimuthDeg = 0;
        front.startS = 0.4;
        Desk desk(side);
        desk.document->addSecond(made::observation(wrong), true);  // the same side once more
        QCOMPARE(desk.refused.size(), 1);
        QVERIFY(!desk.document->state().set.other && !desk.document->canUndo());
        desk.document->addSecond(made::observation(front), true);
        QVERIFY(desk.document->state().set.other.has_value());
        desk.document->apply(SecondNudged{0.04}, "nudge");
        NEAR(desk.document->result().second->nudgeS, 0.04, 1e-12);
        desk.document->apply(SecondRemoved{}, "away");
        QVERIFY(!desk.document->state().set.other);
        desk.document->undo();
        NEAR(desk.document->result().second->nudgeS, 0.04, 1e-12);  // nudge and all
    }

    void olderValuesAreTakenAnewOnlyWhenAsked() {
        auto spec = made::spec(3);
        spec.motion.reps[0].heelRiseCm = spec.motion.reps[1].heelRiseCm = 6;
        const auto now = made::state(spec);
        KeptValues kept{1, now->set.result.reps, {}};
        for (auto& rep : kept.reps)
            for (auto& m : rep.measures)
                if (m.measure.name() == "heel_rise") m.value = 0, m.pm90 = 0.1;
        Desk desk(spec, false, kept);
        QVERIFY(desk.document->isKept());
        QCOMPARE(desk.document->engine(), 1);
        QCOMPARE(desk.document->result().reps, kept.reps);
        // Another judgement of the old values leaves them old …
        desk.document->apply(StandardChosen{"upright"}, "standard");
        QVERIFY(desk.document->isKept());
        // … and what would change is known before it is taken.
        std::optional<Result<Differences>> d;
        desk.document->askDifferences([&](const auto& answer) { d = answer; });
        QCOMPARE((*d)->faultsNew, (std::vector<std::string>{"heels_rise"}));
        QVERIFY(differenceLines(**d, made::catalogue()->advice, Lengths::Metric)
                    .join(' ')
                    .contains("New: Heel leaves the floor"));
        desk.document->measureAnew();
        QVERIFY(!desk.document->isKept());
        QCOMPARE(desk.document->engine(), kEngine);
        QVERIFY(!desk.document->result().findings.empty());
        desk.document->undo();
        QVERIFY(desk.document->isKept());
        QCOMPARE(desk.document->result().reps, kept.reps);
        // A change of what is measured cannot be made on old values: it measures anew.
        SetFacts facts = desk.document->facts();
        facts.wedgeDeg = 5;
        desk.document->apply(FactsSet{facts}, "wedge");
        QVERIFY(!desk.document->isKept());
    }
};

ZEVO_SUITE(TestDocument, "document")
#include "test_document.moc"

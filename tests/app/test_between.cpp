// Between two sets: what Zevo saw is put right with the mouse and with keys, two sets are compared, a set is logged in
// two taps, the client's page is read; everything can be found by its words and used in a small window.
#include <QComboBox>
#include <QDir>
#include <QDoubleSpinBox>
#include <QMessageBox>
#include <QPlainTextEdit>
#include <QSpinBox>
#include <QSqlDatabase>
#include <QSqlQuery>
#include <QTemporaryDir>
#include <QTimer>
#include <set>

#include "tests/app/steps.h"

using namespace steps;
using namespace zevo::record;

namespace {

QString fixture(const char* name) {
    return QString(ZEVO_FIXTURE_DIR "/%1/clip.mp4").arg(name);
}

constexpr const char* kName = "Isbrand Quellenhofer-Donaudampfschifffahrt";

}  // namespace

class TestBetween : public QObject {
    Q_OBJECT
    QTemporaryDir m_measured;  ///< a library with two sets of one client, measured once
    std::unique_ptr<QTemporaryDir> m_dir;
    std::unique_ptr<MainWindow> m_window;

    MainWindow& w() { return *m_window; }
    ReviewView* review() { return m_window->review(); }
    present::SetDocument& document() { return review()->document(); }
    QString text(const char* name) { return child<QLabel>(m_window.get(), name)->text(); }
    /// As it is when everything the window was told is in it.
    store::Library library() {
        if (m_window) m_window->settle();
        return *store::Library::open(m_dir->path());
    }
    store::ClientId client() { return library().clients()->at(0).id; }

    void start(const QString& folder) {
        m_window.reset();
        auto opened = store::Library::open(folder);
        QVERIFY(bool(opened));
        m_window = std::make_unique<MainWindow>(std::move(*opened));
        m_window->show();
        m_window->activateWindow();
        QVERIFY(QTest::qWaitForWindowActive(m_window.get()));
    }
    /// `newest`: 0 the last one.
    void openTheSet(std::size_t newest = 0) {
        const auto sets = *library().sets(client());
        w().openSet(sets.at(newest).id);
        QVERIFY(waitForWork(w()));
        QVERIFY(w().currentView() == review());
        QTRY_VERIFY_WITH_TIMEOUT(review()->stage()->hasPicture(), kLong);
    }
    void toMoment(int rep) {
        review()->chooseRep(rep);
        review()->stage()->goTo(review()->presenter().result().reps.at(static_cast<std::size_t>(rep)).bottomS);
        QTRY_VERIFY_WITH_TIMEOUT(review()->stage()->shownFrame() == review()->stage()->frame(), kLong);
    }

  private slots:
    /// The demo is there at once and opens its first set; somebody who has begun to look around is left where they are.
    void theDemoOpensByItself_data() {
        QTest::addColumn<bool>("touched");
        QTest::newRow("left alone") << false;
        QTest::newRow("looked around") << true;
    }
    void theDemoOpensByItself() {
        QFETCH(bool, touched);
        QTemporaryDir dir;
        start(dir.path());
        w().openDemo();
        if (touched) QTest::mouseClick(w().home()->searchBox(), Qt::LeftButton);
        QVERIFY(waitForWork(w()));
        QCOMPARE(w().currentView() == review(), !touched);
        QCOMPARE(w().currentView() == w().home(), touched);
        auto library = store::Library::open(dir.path());
        int sets = 0;
        std::set<QString> names;
        for (const auto& c : *library->clients()) {
            sets += static_cast<int>(library->sets(c.id)->size());
            QVERIFY2(names.insert(c.name).second, qPrintable(c.name));  // nobody is there twice
        }
        QCOMPARE(sets, 13);
        m_window.reset();
    }

    void initTestCase() {
        installFonts();
        saveSettings(m_measured.path(), Settings());
        start(m_measured.path());
        auto record = *store::Library::open(m_measured.path());
        (void)*record.addClient({{}, kName, 170, "left knee", QDate(2026, 1, 2)});
        (void)*record.addClient({{}, "Odile Farrowmoor", 165, "", {}});
        w().home()->refresh();
        w().home()->selectClient(record.clients()->at(0).id);
        for (int i = 0; i < 2; ++i) {
            w().openClip(fixture(i == 0 ? "side" : "left_uneven"));
            QVERIFY(waitForWork(w()));
        }
        m_window.reset();
    }
    void init() {
        m_dir = std::make_unique<QTemporaryDir>();
        for (const auto& f : QDir(m_measured.path()).entryInfoList(QDir::Files))
            QFile::copy(f.filePath(), m_dir->filePath(f.fileName()));
        start(m_dir->path());
    }
    void cleanup() { m_window.reset(); }

    void aWrongKneeIsDraggedRight() {
        const QPointF kWrong(-30, 45);
        openTheSet(1);
        const double right = kneeBend(w(), 1);
        misplaceKnee(w(), review()->id(), 1, kWrong);
        openTheSet(1);
        const double wrong = kneeBend(w(), 1);
        QVERIFY2(std::abs(wrong - right) > 8, qPrintable(QString("%1 %2").arg(wrong).arg(right)));
        toMoment(1);
        review()->chooseMeasure("knee_flexion");
        QTest::keyClick(review(), Qt::Key_E);
        QVERIFY(review()->isCorrecting() && review()->correctBar()->isVisible());
        // Over the whole of the wrong stretch.
        auto* reach = review()->correctBar()->reachBox();
        reach->setCurrentIndex(2);
        const int knee = handleNamed(w(), "knee");
        QVERIFY(knee >= 0);
        app::Stage* stage = review()->stage();
        const QPointF from = stage->toWidget(stage->handles()[static_cast<std::size_t>(knee)].at),
                      to = stage->toWidget(stage->handles()[static_cast<std::size_t>(knee)].at - kWrong);
        // While it is in the hand nothing is kept, and the values follow.
        QMouseEvent press(QEvent::MouseButtonPress, from, stage->mapToGlobal(from), Qt::LeftButton, Qt::LeftButton, {});
        QApplication::sendEvent(stage, &press);
        QMouseEvent move(QEvent::MouseMove, to, stage->mapToGlobal(to), Qt::LeftButton, Qt::LeftButton, {});
        QApplication::sendEvent(stage, &move);
        QTRY_VERIFY(std::abs(kneeBend(w(), 1) - right) < 3);
        QVERIFY(fold(*library().edits(review()->id())).views[0].corrections.moved.empty());
        QMouseEvent release(QEvent::MouseButtonRelease, to, stage->mapToGlobal(to), Qt::LeftButton, {}, {});
        QApplication::sendEvent(stage, &release);
        QVERIFY(waitForWork(w()));
        QVERIFY2(std::abs(kneeBend(w(), 1) - right) < 3, qPrintable(QString("%1 %2").arg(kneeBend(w(), 1)).arg(right)));
        QCOMPARE(fold(*library().edits(review()->id())).views[0].corrections.moved.size(), std::size_t{1});
        QVERIFY(stage->handles()[static_cast<std::size_t>(knee)].corrected);
        // It says that it is corrected, and what Zevo saw.
        bool said = false;
        for (int i = 0; i < review()->column()->rows(); ++i) {
            const auto& r = review()->column()->reading(i);
            if (r.id == "knee_flexion") said = !r.withoutManual.isEmpty() && r.spoken.contains("corrected");
        }
        QVERIFY(said);
        // The moment stayed, and so it is after a new start.
        QCOMPARE(stage->frame(), stage->shownFrame());
        openTheSet(1);
        QVERIFY(std::abs(kneeBend(w(), 1) - right) < 3);
        QVERIFY(review()->presenter().result().reps[1].find("knee_flexion")->withoutManual);
        QTest::keyClick(review(), Qt::Key_E);
        toMoment(1);
        QTest::keyClick(review(), Qt::Key_Backspace, Qt::AltModifier);
        QVERIFY(std::abs(kneeBend(w(), 1) - wrong) < 0.01);  // as the network saw it
        QTest::keyClick(review(), Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(std::abs(kneeBend(w(), 1) - right) < 3);
    }

    void keysMoveAPoint() {
        openTheSet(1);
        toMoment(0);
        key(w(), Qt::Key_E);
        QStringList chosen;
        for (int i = 0; i < 8; ++i) {
            key(w(), Qt::Key_Period);
            chosen.append(QString::number(i));
        }
        const double before = kneeBend(w(), 0);
        while (handleNamed(w(), "knee") < 0) QTest::qWait(5);
        // Eight steps over eight points end where they began: on the knee.
        for (int i = 0; i < 6; ++i) key(w(), Qt::Key_Left, Qt::AltModifier);
        const auto moved = fold(document().edits()).views[0].corrections.moved;
        QCOMPARE(moved.size(), std::size_t{1});  // six nudges are one correction
        QCOMPARE(int(moved[0].landmark), int(review()->presenter().track(false).nearOf(Landmark::LeftKnee)));
        QVERIFY(std::abs(kneeBend(w(), 0) - before) > 0.3);
        for (int i = 0; i < 6; ++i) key(w(), Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(std::abs(kneeBend(w(), 0) - before) < 1e-9);
    }

    void repetitionsArePutRight() {
        openTheSet(1);
        const auto reps = review()->presenter().result().reps;
        const int all = static_cast<int>(reps.size());
        QVERIFY(all >= 3);
        toMoment(1);
        click(&w(), "leaveOut");
        QCOMPARE(review()->presenter().countedReps(), all - 1);
        key(w(), Qt::Key_Z, Qt::ControlModifier);
        key(w(), Qt::Key_E);
        toMoment(1);
        click(review(), "notARep");
        QCOMPARE(static_cast<int>(review()->presenter().result().reps.size()), all - 1);
        QCOMPARE(library().loadSet(review()->id())->kept.reps.size(), static_cast<std::size_t>(all - 1));
        // There is one after all: added where it was.
        review()->stage()->goTo(reps[1].bottomS);
        QTRY_VERIFY_WITH_TIMEOUT(review()->stage()->shownFrame() == review()->stage()->frame(), kLong);
        click(review(), "addRep");
        QCOMPARE(static_cast<int>(review()->presenter().result().reps.size()), all);
        toMoment(0);
        click(review(), "joinReps");
        QCOMPARE(static_cast<int>(review()->presenter().result().reps.size()), all - 1);
        const auto joined = review()->presenter().result().reps[0];
        review()->stage()->goTo((reps[0].endS + reps[1].startS) / 2);
        QTRY_VERIFY_WITH_TIMEOUT(review()->stage()->shownFrame() == review()->stage()->frame(), kLong);
        click(review(), "splitRep");
        QCOMPARE(static_cast<int>(review()->presenter().result().reps.size()), all);
        // Its end on the bar of time is dragged, and moved by keys.
        toMoment(0);
        app::Stage* stage = review()->stage();
        const double ended = review()->presenter().result().reps[0].endS;
        const QPointF edge = stage->edgeAt(false);
        drag(stage, edge, edge - QPointF(8, 0));
        const double now = review()->presenter().result().reps[0].endS;
        QVERIFY2(now < ended - 0.02, qPrintable(QString("%1 %2").arg(now).arg(ended)));
        key(w(), Qt::Key_Right, Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(review()->presenter().result().reps[0].endS > now);
        // Pulled far over its neighbour it stops there; the record takes it, and pulled back takes nobody along.
        drag(stage, stage->edgeAt(false), stage->edgeAt(false) + QPointF(300, 0));
        QCOMPARE(static_cast<int>(review()->presenter().result().reps.size()), all);
        const auto pulled = review()->presenter().result().reps;
        QVERIFY2(pulled[0].endS <= pulled[1].startS + 0.04 && pulled[0].endS > ended - 0.02,
                 qPrintable(QString("%1 %2").arg(pulled[0].endS).arg(pulled[1].startS)));
        QCOMPARE(library().loadSet(review()->id())->kept.reps.size(), static_cast<std::size_t>(all));
        drag(stage, stage->edgeAt(false), stage->edgeAt(false) - QPointF(20, 0));
        QCOMPARE(static_cast<int>(review()->presenter().result().reps.size()), all);
        QVERIFY(std::abs(review()->presenter().result().reps[1].bottomS - pulled[1].bottomS) < 0.04);
        while (document().canUndo()) document().undo();
        QCOMPARE(review()->presenter().result().reps.size(), reps.size());
        QVERIFY(joined.endS > reps[0].endS);
    }

    /// Two views at once have the same repetitions: what is said while the other one is shown is meant of those.
    void repetitionsArePutRightInEitherView() {
        openTheSet(1);
        w().addSecondClip(fixture("front"), true);
        QVERIFY(waitForWork(w()));
        QVERIFY(review()->presenter().hasSecond());
        const auto reps = review()->presenter().result().reps;
        key(w(), Qt::Key_V);
        QVERIFY(review()->showsSecond());
        review()->chooseRep(1);
        key(w(), Qt::Key_V);
        if (!review()->showsSecond()) key(w(), Qt::Key_V);
        key(w(), Qt::Key_X, Qt::ShiftModifier);
        const auto left = review()->presenter().result().reps;
        QCOMPARE(left.size(), reps.size() - 1);
        for (const auto& r : left) QVERIFY(std::abs(r.bottomS - reps[1].bottomS) > 0.3);
    }

    void aSetIsTrimmedRestedAndScaled() {
        openTheSet(1);
        const auto reps = review()->presenter().result().reps;
        key(w(), Qt::Key_E);
        review()->stage()->goTo(reps.back().startS - 0.2);
        QTRY_VERIFY_WITH_TIMEOUT(review()->stage()->shownFrame() == review()->stage()->frame(), kLong);
        click(review(), "setEnds");
        QCOMPARE(review()->presenter().result().reps.size(), reps.size() - 1);
        click(review(), "wholeClip");
        QCOMPARE(review()->presenter().result().reps.size(), reps.size());
        review()->stage()->goTo(reps[0].startS - 0.4);
        QTRY_VERIFY_WITH_TIMEOUT(review()->stage()->shownFrame() == review()->stage()->frame(), kLong);
        click(review(), "restsHere");
        QVERIFY(fold(document().edits()).views[0].corrections.standingAtS);
        // A tape of a metre along 200 pixels.
        auto* length = child<QPushButton>(review(), "trueLength");
        QTest::mouseClick(length, Qt::LeftButton);
        app::Stage* stage = review()->stage();
        drag(stage, stage->toWidget({200, 200}), stage->toWidget({200, 400}));
        auto* box = review()->correctBar()->lengthBox();
        QVERIFY(box->isVisible());
        box->setValue(100);
        click(review(), "takeLength");
        const auto told = fold(document().edits()).views[0].corrections.length;
        QVERIFY(told && std::abs(told->cm - 100) < 1e-9);
        QVERIFY(std::abs(review()->presenter().track(false).cmPerPixel - 0.5) < 0.02);
        QVERIFY(review()->presenter().track(false).scaleCalibrated);
        while (document().canUndo()) document().undo();
    }

    void aWordIsPinnedToAPicture() {
        openTheSet(1);
        toMoment(1);
        key(w(), Qt::Key_N, Qt::ControlModifier);
        auto* line = review()->logRow()->noteBox();
        QVERIFY(line->hasFocus());
        QTest::keyClicks(line, "hands drop here");
        QTest::keyClick(line, Qt::Key_Return);
        const auto notes = fold(*library().edits(review()->id())).views[0].notes;
        QCOMPARE(notes.size(), std::size_t{1});
        QCOMPARE(notes[0].text, std::string("hands drop here"));
        QVERIFY(QApplication::focusWidget() != line);
    }

    /// Two taps: the chip, and what it offers.
    void aSetIsLoggedInTwoTaps() {
        openTheSet(1);
        auto* row = review()->logRow();
        auto tap = [&](const char* chip, const char* item) {
            auto* button = row->chipOf(chip);
            auto* action = button->menu()->findChild<QAction*>(item);
            QVERIFY2(action, item);
            // The menu holds the event loop while it is open: the second tap comes out of it.
            QTimer::singleShot(0, button->menu(), [menu = button->menu(), action] {
                menu->setActiveAction(action);
                QTest::mouseClick(menu, Qt::LeftButton, Qt::NoModifier, menu->actionGeometry(action).center());
            });
            QTest::mouseClick(button, Qt::LeftButton);
        };
        tap("chipKind", "kind1");
        QCOMPARE(int(document().facts().log.kind), int(SetKind::WarmUp));
        tap("chipAids", "wedge10");
        QCOMPARE(document().facts().wedgeDeg, 10.0);
        tap("chipShoes", "shoes-bare");
        tap("chipShirt", "shirt2");
        QVERIFY(document().facts().shirt == Shirt::Tight && row->chipOf("chipShirt")->text().contains("tucked in"));
        tap("chipEffort", "effort7");
        QCOMPARE(*document().facts().log.effort, 7);
        QVERIFY(row->chipOf("chipShoes")->text() == "barefoot" && row->chipOf("chipEffort")->text() == "effort 7");
        row->chipOf("chipEffort")->menu()->findChild<QAction*>("ended-grip")->trigger();
        row->findChild<QSpinBox*>("plannedReps")->setValue(8);
        QCOMPARE(document().facts().log.endedBy, std::string("grip"));
        QCOMPARE(row->chipOf("chipEffort")->text(), QString("effort 7 · 8 planned · grip or arms"));
        const SetLog after = nextSet(document().facts()).log;
        QVERIFY(after.plannedReps == 8 && after.endedBy.empty() && !after.effort);
        auto* each = row->findChild<QDoubleSpinBox*>("eachKg");
        each->setValue(24);
        QCOMPARE(document().facts().log.load.totalKg(), 24.0);
        QVERIFY(row->chipOf("chipLoad")->text().contains("24 kg"));
        QCOMPARE(fold(*library().edits(review()->id())).facts.log.load.totalKg(), 24.0);
        // In pounds it is shown and taken in pounds.
        w().toggleUnits();
        QVERIFY(row->chipOf("chipLoad")->text().contains("53 lb"));
        QVERIFY(std::abs(document().facts().log.load.totalKg() - 24) < 1e-9);  // looking changes nothing
        w().toggleUnits();
        // The next set of the movement starts from there, without the effort.
        w().home()->selectClient(client());
        const auto next =
            carriedOver(library(), *library().client(client()), document().facts(), document().catalogue());
        QVERIFY(next.wedgeDeg == 10 || !next.log.effort);
        for (int i = 0; i < 8; ++i) w().actions().get("undo")->trigger();
        QCOMPARE(document().facts().wedgeDeg, 0.0);
    }

    /// A change that is taken is asked of the next set and judged there; a tap lifts it; each step can be undone.
    void aChangeIsAskedOfTheNextSet() {
        openTheSet(1);
        auto* row = review()->askRow();
        QVERIFY(row->isHidden());
        auto ask = [&](int i) { return child<QPushButton>(m_window.get(), qPrintable(QString("askChange%1").arg(i))); };
        auto words = [&](int i) { return text(qPrintable(QString("change%1").arg(i))); };
        review()->chooseFinding(0);
        while (!words(0).contains("wedge") &&
               review()->presenter().finding() + 1 < review()->presenter().findingCount())
            QTest::keyClick(review(), Qt::Key_N);
        QVERIFY2(words(0).contains("wedge") && ask(0)->isVisible(), qPrintable(words(0)));
        const auto before = document().state().set.result.findings.size();
        QTest::mouseClick(ask(0), Qt::LeftButton);
        QVERIFY(ask(0)->isChecked() && ask(0)->text().contains("Asked"));
        QCOMPARE(document().state().set.result.findings.size(), before);  // this set was not asked it
        QVERIFY(document().facts().asks.empty());
        QVERIFY(row->isVisible() && row->chipOf("wedge")->text().startsWith("Next: the heels on a wedge, 10"));
        QTest::mouseClick(child<QPushButton>(row, "harder-wedge"), Qt::LeftButton);
        QVERIFY(row->chipOf("wedge")->text().contains("15"));
        QTest::mouseClick(child<QPushButton>(row, "easier-wedge"), Qt::LeftButton);
        // By a key, and the other change besides: one of a kind each.
        QTest::mouseClick(ask(1), Qt::LeftButton);
        QVERIFY(row->chipOf("depth") && row->chipOf("wedge"));
        QTest::keyClick(review(), Qt::Key_C, Qt::AltModifier);
        QVERIFY(!row->chipOf("wedge") && !ask(0)->isChecked());
        QTest::keyClick(review(), Qt::Key_C, Qt::AltModifier);
        QVERIFY(row->chipOf("wedge"));
        // It stands in what the next set starts from, who asked it and why with it, and is set up.
        const SetFacts next = factsAfter(fold(*library().edits(review()->id())), document().catalogue());
        QCOMPARE(next.asks.size(), std::size_t(2));
        QCOMPARE(next.wedgeDeg, 10.0);
        QVERIFY(!next.asks.front().why.empty() && !next.asks.front().on.empty());
        QCOMPARE(next.asks.front().movement, std::string("squat"));
        w().actions().get("undo")->trigger();
        QVERIFY(!row->chipOf("wedge"));
        w().actions().get("redo")->trigger();
        // A set that was asked it says so, and lifting it is of the sets to come.
        openTheSet(0);
        document().apply(FactsSet{next}, "as asked");
        QVERIFY(waitForWork(w()));
        QVERIFY2(row->chipOf("depth")->text().startsWith("Asked: only as deep as the feet stay flat"),
                 qPrintable(row->chipOf("depth")->text()));
        QVERIFY2(review()->presenter().judgedBy().contains("as asked: "), qPrintable(review()->presenter().judgedBy()));
        QTest::mouseClick(row->chipOf("depth"), Qt::LeftButton);
        QVERIFY(row->chipOf("depth")->text().endsWith("next: lifted") && !row->chipOf("depth")->isChecked());
        QVERIFY(review()->presenter().judgedBy().contains("feet stay flat"));
        w().settle();
        const auto after = carriedOver(library(), *library().client(client()), SetFacts{}, document().catalogue());
        QCOMPARE(after.asks.size(), std::size_t(1));
        QCOMPARE(after.asks.front().kind, std::string("wedge"));
        QTest::mouseClick(row->chipOf("depth"), Qt::LeftButton);
        QVERIFY(row->chipOf("depth")->text().startsWith("Asked: ") && row->chipOf("depth")->isChecked());
    }

    void theMassMakesTheShare() {
        auto record = library();
        auto c = *record.client(client());
        c.massKg = 80;
        QVERIFY(bool(record.updateClient(c)));
        w().home()->refresh();
        openTheSet(1);
        review()->setClient(*library().client(client()));
        auto* each = review()->logRow()->findChild<QDoubleSpinBox*>("eachKg");
        each->setValue(20);
        QCOMPARE(document().facts().heldShare(), 0.25);
        QCOMPARE(document().result().context.loadShare, 0.25);
        QVERIFY(review()->logRow()->chipOf("chipLoad")->text().contains("25 %"));
    }

    void twoSetsAreCompared() {
        openTheSet(0);
        QElapsedTimer clock;
        clock.start();
        key(w(), Qt::Key_B);
        QTRY_VERIFY_WITH_TIMEOUT(w().currentView() == w().compare(), kLong);
        qInfo("the page to compare opened in %lld ms", static_cast<long long>(clock.elapsed()));
        CompareView* page = w().compare();
        QVERIFY(page->loaded(false).id != page->loaded(true).id);
        QTRY_VERIFY_WITH_TIMEOUT(page->stage(false)->hasPicture() && page->stage(true)->hasPicture(), kLong);
        // One scrubber moves both pictures to the same phase.
        const QRectF plot = page->plot()->plotRect();
        QTest::mouseClick(page->plot(), Qt::LeftButton, {},
                          QPointF(plot.left() + plot.width() / 6, plot.center().y()).toPoint());
        QVERIFY(std::abs(page->presenter().phase() - 0.5) < 0.03);
        for (bool after : {false, true})
            QTRY_VERIFY(std::abs(page->stage(after)->timeS() - page->presenter().timeS(after)) < 0.03);
        key(w(), Qt::Key_Right);
        QVERIFY(page->presenter().phase() > 0.5);
        QVERIFY(page->table()->rowCount() > 3 && !text("differences").isEmpty());
        const auto first = page->presenter().measure();
        key(w(), Qt::Key_M);
        QVERIFY(page->presenter().measure() != first);
        key(w(), Qt::Key_V);
        QVERIFY(page->isOver() && !page->stage(false)->isVisible());
        const QString before = page->presenter().side(false).title;
        key(w(), Qt::Key_X);
        QCOMPARE(page->presenter().side(true).title, before);
        // One repetition against another of the same set.
        page->chooseRep(true, 0);
        QVERIFY(page->presenter().side(true).rep == 0);
        key(w(), Qt::Key_B);
        QVERIFY(w().currentView() == review());
        key(w(), Qt::Key_2);  // keys of the set work again
        QCOMPARE(review()->presenter().rep(), 1);
    }

    void aSetAloneIsComparedWithItself() {
        auto record = library();
        const auto sets = *record.sets(client());
        QVERIFY(bool(record.deleteSet(sets[0].id)));
        openTheSet(0);
        key(w(), Qt::Key_B);
        QTRY_VERIFY_WITH_TIMEOUT(w().currentView() == w().compare(), kLong);
        const auto& p = w().compare()->presenter();
        QVERIFY(p.side(false).rep && p.side(true).rep && *p.side(false).rep < *p.side(true).rep);
    }

    /// A click on something with an edge, followed in the background; an edit like any other, kept with its path.
    void aPointIsMarkedAndFollowed() {
        openTheSet(1);
        auto* bar = review()->correctBar();
        auto* stage = review()->stage();
        key(w(), Qt::Key_M, Qt::ControlModifier);
        QVERIFY(review()->isCorrecting() && bar->isMarking() && bar->markBox()->isVisible());
        QVERIFY(stage->tool() == app::Stage::Tool::Mark);
        const int bell = bar->markBox()->findData(static_cast<int>(MarkKind::Bell));
        QVERIFY(bell >= 0);
        QVERIFY(bar->markBox()->findData(static_cast<int>(MarkKind::HipLeft)) < 0);  // not seen from the side
        bar->markBox()->setCurrentIndex(bell);
        QTRY_VERIFY_WITH_TIMEOUT(stage->hasPicture(), kLong);
        const Track& track = review()->presenter().track(false);
        const Vec2 sock =
            track.toPicture(track.at(track.nearOf(Landmark::LeftAnkle), track.sampleAt(stage->shownTimeS())));
        auto has = [&](const char* id) {
            for (const auto& r : review()->presenter().readings())
                if (r.id == id) return true;
            return false;
        };
        QVERIFY(!has("load_sway"));
        QTest::mouseClick(stage, Qt::LeftButton, {}, stage->toWidget({sock.x(), sock.y()}).toPoint());
        QVERIFY(text("correctHint").contains("followed"));
        QVERIFY(waitForWork(w()));
        QTRY_COMPARE_WITH_TIMEOUT(fold(*library().edits(review()->id())).views[0].marks.size(), std::size_t{1}, kLong);
        const Mark kept = fold(*library().edits(review()->id())).views[0].marks[0];
        QVERIFY(kept.kind == MarkKind::Bell && kept.path && kept.path->size() > 60);
        QTRY_VERIFY(has("load_sway"));
        QCOMPARE(stage->marks().size(), std::size_t{1});
        // One more, with keys alone: the cross is moved and taken.
        key(w(), Qt::Key_Right, Qt::AltModifier);
        key(w(), Qt::Key_Left, Qt::AltModifier);
        stage->step(10);
        QTRY_VERIFY_WITH_TIMEOUT(stage->shownFrame() == stage->frame(), kLong);
        key(w(), Qt::Key_Return, Qt::ControlModifier);
        QVERIFY(waitForWork(w()));
        QTRY_COMPARE_WITH_TIMEOUT(fold(document().edits()).views[0].marks[0].clicks.size(), std::size_t{2}, kLong);
        key(w(), Qt::Key_Z, Qt::ControlModifier);
        QTRY_COMPARE(fold(document().edits()).views[0].marks[0].clicks.size(), std::size_t{1});
        key(w(), Qt::Key_Z, Qt::ControlModifier);
        QTRY_VERIFY(fold(document().edits()).views[0].marks.empty() && !has("load_sway"));
        key(w(), Qt::Key_Y, Qt::ControlModifier);
        QTRY_VERIFY(has("load_sway"));
        // Taken off, it is gone; what is plain is refused in words and nothing changes.
        click(bar, "markOff");
        QTRY_VERIFY(!has("load_sway") && stage->marks().empty());
        QTest::mouseClick(stage, Qt::LeftButton, {}, stage->toWidget({12, 12}).toPoint());
        QVERIFY(waitForWork(w()));
        QVERIFY(fold(document().edits()).views[0].marks.empty());
        // Whoever goes on to another set meanwhile finds it kept.
        const auto id = review()->id();
        stage->goTo(track.timesS.front());
        QTRY_VERIFY_WITH_TIMEOUT(stage->shownFrame() == stage->frame(), kLong);
        QTest::mouseClick(stage, Qt::LeftButton, {}, stage->toWidget({sock.x(), sock.y()}).toPoint());
        openTheSet(0);
        QVERIFY(review()->id() != id);
        QVERIFY(waitForWork(w()));
        QTRY_COMPARE_WITH_TIMEOUT(fold(*library().edits(id)).views[0].marks.size(), std::size_t{1}, kLong);
    }

    void ownWordsAreGiven() {
        openTheSet(1);
        while (review()->presenter().saying().fault.isEmpty() &&
               review()->presenter().finding() + 1 < review()->presenter().findingCount())
            key(w(), Qt::Key_N);
        const QString fault = review()->presenter().saying().fault;
        if (fault.isEmpty()) QSKIP("nothing to say of this set");
        key(w(), Qt::Key_I, Qt::AltModifier);
        auto* line = child<QLineEdit>(review(), "ownWords");
        QVERIFY(line->hasFocus());
        QTest::keyClicks(line, "sit on the wall");
        QTest::keyClick(line, Qt::Key_Return);
        const auto cue = fold(*library().edits(review()->id())).cue;
        QVERIFY(cue && cue->wording == "sit on the wall" && QString::fromStdString(cue->fault) == fault);
    }

    /// What was tried for pain stands with what hurts: before, after, and whether it was kept.
    void theClientsPageTellsWhatWasTriedForPain() {
        openTheSet(0);
        SetFacts facts = document().facts();
        facts.pain.after = 1, facts.pain.spots = {{"knee-front", BodySide::Left}};
        facts.asks = {{"depth", "box", 45, "Perran", "2026-12-01", "knee-front", facts.movement, 3}};
        document().apply(FactsSet{facts}, "test");
        QVERIFY(waitForWork(w()));
        QCOMPARE(text("findingTitle"), QString("Pain 3 → 1: to the box, 45 cm"));
        key(w(), Qt::Key_P, Qt::ControlModifier);
        QTRY_VERIFY_WITH_TIMEOUT(w().currentView() == w().client(), kLong);
        const QString hurts = child<QLabel>(w().client(), "hurts")->text();
        QVERIFY2(hurts.contains("Pain 3 → 1: to the box, 45 cm. Kept."), qPrintable(hurts));
        QVERIFY2(hurts.contains("asked: <b>to the box, 45 cm</b>") && hurts.contains("by Perran"), qPrintable(hurts));
        w().actions().get("home")->trigger();
        w().actions().get("undo")->trigger();
        QVERIFY(waitForWork(w()));
    }

    void theClientsPageIsReadAndWritten() {
        openTheSet(1);
        key(w(), Qt::Key_P, Qt::ControlModifier);
        QTRY_VERIFY_WITH_TIMEOUT(w().currentView() == w().client(), kLong);
        ClientView* page = w().client();
        QCOMPARE(page->sets()->count(), 2);
        QVERIFY(!page->courses()->accessibleDescription().isEmpty());
        auto* goals = child<QPlainTextEdit>(page, "goals");
        goals->setFocus();
        QTest::keyClicks(goals, "stairs with a sack");
        child<QLineEdit>(page, "emphasis")->setFocus();
        QTRY_COMPARE(library().client(client())->goals, QString("stairs with a sack"));
        QVERIFY(waitForWork(w()));
        auto* mass = child<QDoubleSpinBox>(page, "mass");
        mass->setFocus();
        mass->selectAll();
        QTest::keyClicks(mass, "82");
        QTest::keyClick(mass, Qt::Key_Return);
        QCOMPARE(library().client(client())->massKg, 82.0);
        QVERIFY(waitForWork(w()));
        key(w(), Qt::Key_Z, Qt::ControlModifier);
        QTRY_COMPARE(library().client(client())->massKg, 0.0);
        QVERIFY(waitForWork(w()));
        // Sets change places; undo puts them back.
        const auto order = [&] { return library().sets(client())->at(0).id; };
        const auto newest = order();
        const auto log = *library().log(client());
        page->sets()->setCurrentRow(0);
        click(page, "setEarlier");
        if (log[0].heldOn == log[1].heldOn) QVERIFY(order() != newest);
        QVERIFY(waitForWork(w()));
        key(w(), Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(order(), newest);
        QVERIFY(waitForWork(w()));
        // One is of somebody else.
        const auto other = library().clients()->at(1).id;
        page->sets()->setCurrentRow(0);
        child<QPushButton>(page, "giveSet")->menu()->actions().front()->trigger();
        QCOMPARE(library().sets(other)->size(), std::size_t{1});
        QVERIFY(waitForWork(w()));
        key(w(), Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(library().sets(client())->size(), std::size_t{2});
        QVERIFY(waitForWork(w()));
        // Into the archive and back.
        click(page, "archiveClient");
        QVERIFY(library().client(client())->archived);
        QVERIFY(waitForWork(w()));
        key(w(), Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(!library().client(client())->archived);
        // From the page, straight to a set.
        QVERIFY(waitForWork(w()));
        page->sets()->setFocus();
        QTest::keyClick(page->sets(), Qt::Key_Return);
        QTRY_VERIFY_WITH_TIMEOUT(w().currentView() == review(), kLong);
    }

    void thisDepthIsTheirs() {
        openTheSet(1);
        review()->chooseMeasure("thigh_angle");
        key(w(), Qt::Key_T, Qt::ControlModifier);
        const auto c = *library().client(client());
        QCOMPARE(c.targets.size(), std::size_t{1});
        QVERIFY(c.targets[0].measure == "thigh_angle" && c.choices.at("depth").starts_with("own:"));
        w().showClientPage(client());
        QTRY_VERIFY_WITH_TIMEOUT(w().currentView() == w().client(), kLong);
        QVERIFY(text("targets").contains("Depth"));
        emit child<QLabel>(w().client(), "targets")->linkActivated("0");
        QVERIFY(library().client(client())->targets.empty());
        QVERIFY(!library().client(client())->choices.contains("depth"));
    }

    void clientsAreMergedExportedAndErased() {
        openTheSet(1);
        const auto mine = client();
        w().showClientPage(mine);
        QTRY_VERIFY_WITH_TIMEOUT(w().currentView() == w().client(), kLong);
        QTemporaryDir out;
        w().exportClient(out.path());
        QVERIFY(waitForWork(w()));
        const QStringList folders = QDir(out.path()).entryList(QDir::Dirs | QDir::NoDotAndDotDot);
        QCOMPARE(folders.size(), 1);
        const QDir made(out.filePath(folders[0]));
        QCOMPARE(made.entryList({"client.json"}).size(), 1);
        QCOMPARE(made.entryList({"set-*.json"}).size(), 2);
        QCOMPARE(made.entryList({"*poses*.cbor"}).size(), 2);
        QFile json(made.filePath("client.json"));
        QVERIFY(json.open(QIODevice::ReadOnly) && json.readAll().contains("Quellenhofer"));
        auto answer = [](QMessageBox::ButtonRole role, QString* said = nullptr) {
            QTimer::singleShot(0, [role, said] {
                auto* ask = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
                if (!ask) qFatal("nothing is asked");
                if (said) *said = ask->text() + ask->informativeText();
                for (auto* b : ask->buttons())
                    if (ask->buttonRole(b) == role) return b->click();
            });
        };
        auto* merge = child<QPushButton>(w().client(), "mergeClient")->menu()->actions().front();
        answer(QMessageBox::RejectRole);
        merge->trigger();
        QCOMPARE(library().clients()->size(), std::size_t{2});
        answer(QMessageBox::DestructiveRole);
        merge->trigger();
        QVERIFY(waitForWork(w()));
        QCOMPARE(library().clients()->size(), std::size_t{1});
        QCOMPARE(w().client()->file().client.name, QString("Odile Farrowmoor"));
        QCOMPARE(w().client()->sets()->count(), 2);
        // What goes is listed before it goes.
        QString said;
        answer(QMessageBox::DestructiveRole, &said);
        click(w().client(), "eraseClient");
        QVERIFY2(said.contains("2 sets") && said.contains("What stays") && said.contains("clip.mp4"), qPrintable(said));
        QVERIFY2(said.contains(out.path()), qPrintable(said));  // and where an export of it lies
        QVERIFY(library().clients()->empty());
        QVERIFY(w().currentView() == w().home());
    }

    /// Another program is writing to the record: nobody waits for it. What is changed is on the screen, and in the
    /// record as soon as that is free.
    void aHeldRecordHoldsNobodyUp() {
        const store::ClientId whose = client();
        openTheSet();
        auto db = QSqlDatabase::addDatabase("QSQLITE", "holder");
        db.setDatabaseName(m_dir->filePath("library.sqlite"));
        QVERIFY(db.open());
        QVERIFY(QSqlQuery(db).exec("BEGIN IMMEDIATE"));
        w().actions().get("deleteSet")->trigger();
        w().home()->newClient("Tavis Undercliff", 172);
        store::Client changed = *w().home()->current();
        QCOMPARE(changed.name, QString("Tavis Undercliff"));
        changed.note = "left hip";
        w().home()->changeClient(changed);
        w().home()->refresh();  // reads the record, which knows nothing of it yet
        QCOMPARE(w().home()->current()->note, QString("left hip"));
        QVERIFY(w().isWorking());  // so all of it came back while the record was held
        QVERIFY(QSqlQuery(db).exec("COMMIT"));
        db = {};
        QSqlDatabase::removeDatabase("holder");
        QCOMPARE(library().client(changed.id)->note, QString("left hip"));
        QCOMPARE(library().sets(whose)->size(), std::size_t{1});
        QVERIFY(w().home()->current()->id == changed.id);
        key(w(), Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(library().client(changed.id)->note, QString());
        key(w(), Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(library().sets(whose)->size(), std::size_t{2});
    }

    void clientsAreSearched() {
        w().goHome();
        auto* list = child<QListWidget>(w().home(), "clients");
        QCOMPARE(list->count(), 2);
        QVERIFY(list->item(0)->text().startsWith("Isbrand"));  // seen last
        QTest::keyClicks(w().home()->searchBox(), "farrow");
        QCOMPARE(list->count(), 1);
        QVERIFY(w().home()->current()->name == "Odile Farrowmoor");
        w().home()->selectClient(client());  // one that the search hides is found all the same
        QCOMPARE(w().home()->current()->id, client());
    }

    void everythingIsFoundByItsWords() {
        openTheSet(1);
        key(w(), Qt::Key_K, Qt::ControlModifier);
        QVERIFY(w().palette()->isVisible() && w().palette()->field()->hasFocus());
        QVERIFY(w().palette()->list()->count() > 30);
        QTest::keyClicks(w().palette()->field(), "compare this");
        QVERIFY(w().palette()->list()->item(0)->text().contains('B'));  // with its key
        QTest::keyClick(w().palette()->field(), Qt::Key_Return);
        QTRY_VERIFY_WITH_TIMEOUT(w().currentView() == w().compare(), kLong);
        QVERIFY(!w().palette()->isVisible());
        // A client is a place to go to; what does not fit here is shown, and does nothing.
        key(w(), Qt::Key_K, Qt::ControlModifier);
        QTest::keyClicks(w().palette()->field(), "odile");
        QTest::keyClick(w().palette()->field(), Qt::Key_Return);
        QTRY_VERIFY_WITH_TIMEOUT(w().currentView() == w().client(), kLong);
        QCOMPARE(w().client()->file().client.name, QString("Odile Farrowmoor"));
        key(w(), Qt::Key_K, Qt::ControlModifier);
        QTest::keyClicks(w().palette()->field(), "one rep with the next");
        QTest::keyClick(w().palette()->field(), Qt::Key_Return);
        QVERIFY(w().palette()->isVisible());
        QTest::keyClick(w().palette()->field(), Qt::Key_Escape);
        QVERIFY(!w().palette()->isVisible());
    }

    /// A 1366 × 768 laptop at 125 %, a 1920 × 1080 one at 200 %: nothing is cut, whatever the language's words need.
    void smallWindowsHoldEverything_data() {
        QTest::addColumn<int>("width");
        QTest::addColumn<int>("height");
        QTest::newRow("960 x 540") << 960 << 540;
        QTest::newRow("1092 x 614") << 1092 << 614;
    }
    void smallWindowsHoldEverything() {
        QFETCH(int, width);
        QFETCH(int, height);
        openTheSet(1);
        m_window->resize(width, height);
        QCOMPARE(m_window->size(), QSize(width, height));
        auto whole = [&](QWidget* page) {
            for (auto* b : page->findChildren<QPushButton*>()) {
                if (!b->isVisibleTo(page) || b->visibleRegion().isEmpty()) continue;
                const QRect at(b->mapTo(m_window.get(), QPoint()), b->size());
                const bool inScroll = b->parentWidget()->parentWidget() &&
                                      b->parentWidget()->parentWidget()->inherits("QAbstractScrollArea");
                if (!m_window->rect().contains(at) && !inScroll) qWarning("outside: %s", qPrintable(b->objectName()));
                QVERIFY(m_window->rect().contains(at) || inScroll);
                if (!b->text().isEmpty())
                    QVERIFY2(b->width() >=
                                 std::min(b->sizeHint().width(), b->fontMetrics().horizontalAdvance(b->text()) + 18),
                             qPrintable(b->objectName() + " " + b->text()));
            }
        };
        // As long as German makes it.
        const auto leaveOut = child<QPushButton>(review(), "leaveOut");
        QVERIFY(leaveOut->isVisible());
        whole(review());
        QTRY_VERIFY(review()->column()->visibleRegion().boundingRect().height() > 30);
        QTRY_VERIFY2(review()->stage()->height() > 150, qPrintable(QString::number(review()->stage()->height())));
        key(w(), Qt::Key_E);
        QVERIFY(review()->correctBar()->isVisible());
        QTest::qWait(50);
        whole(review());
        // As long as German makes them: rows go on below, the window stays as it is.
        QStringList before;
        const auto chips =
            review()->logRow()->findChildren<QPushButton*>() + review()->correctBar()->findChildren<QPushButton*>();
        for (auto* b : chips) before.append(b->text());
        for (auto* b : chips)
            if (!b->text().isEmpty()) b->setText(b->text() + "enverhältnis");
        QTest::qWait(50);
        whole(review()->logRow());
        whole(review()->correctBar());
        QCOMPARE(m_window->size(), QSize(width, height));
        for (int i = 0; i < chips.size(); ++i) chips[i]->setText(before[i]);
        key(w(), Qt::Key_E);
        key(w(), Qt::Key_B);
        QTRY_VERIFY_WITH_TIMEOUT(w().currentView() == w().compare(), kLong);
        whole(w().compare());
        key(w(), Qt::Key_B);
        w().showClientPage(client());
        QTRY_VERIFY_WITH_TIMEOUT(w().currentView() == w().client(), kLong);
        QCOMPARE(m_window->size(), QSize(width, height));
        w().goHome();
        whole(w().home());
        QCOMPARE(m_window->size(), QSize(width, height));
    }

    /// The number of a measure stands beside the body, in one place while the picture plays.
    void theNumbersPlateKeepsClearOfTheBody() {
        openTheSet(1);
        review()->chooseRep(1);
        review()->chooseMeasure("knee_flexion");
        QTRY_VERIFY_WITH_TIMEOUT(!review()->stage()->plateRect().isEmpty(), kLong);
        const QRectF plate = review()->stage()->plateRect();
        const Track& t = review()->presenter().track(false);
        const std::size_t at = t.sampleAt(review()->stage()->shownTimeS());
        for (std::size_t id = 0; id < kLandmarkCount; ++id) {
            const Vec2 p = t.toPicture(t.points[id][at]);
            QVERIFY(!plate.contains(review()->stage()->toWidget({p.x(), p.y()})));
        }
    }

    void theOtherPersonIsFollowed() {
        openTheSet(1);
        toMoment(1);
        key(w(), Qt::Key_E);
        const auto reps = review()->presenter().result().reps.size();
        auto* button = child<QPushButton>(review(), "whoIsIt");
        QTest::mouseClick(button, Qt::LeftButton);
        QVERIFY(review()->stage()->tool() == app::Stage::Tool::Person);
        // The same one is clicked: they are followed once more, and what is measured is the same.
        const Track& t = review()->presenter().track(false);
        const Vec2 hip = t.toPicture(t.at(t.nearOf(Landmark::LeftHip), t.sampleAt(review()->stage()->shownTimeS())));
        QTest::mouseClick(review()->stage(), Qt::LeftButton, {},
                          review()->stage()->toWidget({hip.x(), hip.y()}).toPoint());
        QVERIFY(waitForWork(w()));
        const auto person = fold(document().edits()).views[0].person;
        QVERIFY(person && person->observation == 1);
        QCOMPARE(review()->presenter().result().reps.size(), reps);
        QCOMPARE(library().loadSet(review()->id())->seen.size(), std::size_t{2});
        key(w(), Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(!fold(document().edits()).views[0].person);
        // What was seen of that person stays until the sitting ends, for redo.
        QVERIFY(!fold(library().loadSet(review()->id())->edits).views[0].person);
        key(w(), Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(fold(library().loadSet(review()->id())->edits).views[0].person);
    }
};

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    TestBetween test;
    return QTest::qExec(&test, argc, argv);
}
#include "test_between.moc"

// Filming as a newcomer does it: the simulated camera is put up by following the words on the picture, a set is filmed
// without touching anything, the answer comes by itself, a cue is marked and the next set says whether it helped. And
// what happens when something breaks. Runs on the offscreen platform; every test has a window and a library of its own.
#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QDoubleSpinBox>
#include <QElapsedTimer>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMessageBox>
#include <QProcess>
#include <QPushButton>
#include <QTemporaryDir>
#include <QTest>
#include <QTimer>
#include <random>

#include "catalog/data_files.h"
#include "record/one_writer.h"
#include "record/readings.h"
#include "tests/app/steps.h"
#include "tests/support/made_sets.h"

using namespace zevo;
using namespace zevo::app;
using namespace zevo::record;

namespace {

using steps::child, steps::kLong;

/// A clip as a camera would have recorded it.
bool recorded(const QString& clip, const QString& path) {
    auto source = media::openPattern("movie=" + clip.toStdString());
    if (!source) return false;
    auto recorder = media::ClipRecorder::create(path.toStdString(), (*source)->facts(), "");
    if (!recorder) return false;
    media::LiveFrame frame;
    for (;;) {
        // At its end the clip is a camera that was unplugged.
        if (const auto more = (*source)->next(frame); !more || !*more) return bool(recorder->finish());
        if (!recorder->write(frame)) return false;
    }
}

}  // namespace

class TestFilming : public QObject {
    Q_OBJECT
    QTemporaryDir m_drawn;  ///< the virtual client's clips, drawn once for all tests
    std::unique_ptr<QTemporaryDir> m_dir;
    std::unique_ptr<MainWindow> m_window;

    FilmView* film() { return m_window->film(); }
    Filming* filming() { return film()->filming(); }
    ReviewView* review() { return m_window->review(); }
    const LiveCanvas::Scene& scene() { return film()->canvas()->scene(); }
    void click(const char* name) { QTest::mouseClick(child<QPushButton>(m_window.get(), name), Qt::LeftButton); }
    QString text(const char* name) { return child<QLabel>(m_window.get(), name)->text(); }
    /// As it is when everything the window was told is in it.
    store::Library library() {
        if (m_window) m_window->settle();
        return *store::Library::open(m_dir->path());
    }

    void start() {
        m_window.reset();
        auto opened = store::Library::open(m_dir->path());
        QVERIFY(bool(opened));
        m_window = std::make_unique<MainWindow>(std::move(*opened));
        m_window->show();
        m_window->activateWindow();
        QVERIFY(QTest::qWaitForWindowActive(m_window.get()));
    }
    void addClient(const QString& name) {
        click("addClient");
        auto* line = child<QLineEdit>(m_window.get(), "name");
        line->selectAll();
        QTest::keyClicks(line, name);
        QTest::keyClick(line, Qt::Key_Return);
        auto* stature = child<QDoubleSpinBox>(m_window.get(), "stature");
        stature->setFocus();
        stature->selectAll();
        QTest::keyClicks(stature, "175");
        QTest::keyClick(stature, Qt::Key_Return);
    }
    /// The virtual client of most tests: few repetitions, so that drawing them takes seconds.
    sim::ClientDials dials(const char* fault, double size) {
        sim::ClientDials d = film()->virtualPanel()->dials();
        d.fault = fault;
        d.size = size;
        d.reps = 3;
        d.width = 640, d.height = 360;
        return d;
    }
    /// Before the camera is opened: its size stays what it was then.
    void smallPictures() {
        sim::ClientDials d = film()->virtualPanel()->dials();
        d.width = 640, d.height = 360;
        film()->virtualPanel()->setDials(d);
    }
    /// It opens when all that was told is written.
    void toTheFilmPage() {
        click("film");
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == film(), kLong);
    }
    void agreeAndFilm() {
        toTheFilmPage();
        smallPictures();
        click("agreeCoaching");
        click("painTap0");
    }
    /// Until the client is there and nothing is wrong with the camera.
    void waitUntilRight() {
        QTRY_VERIFY_WITH_TIMEOUT(
            filming()->isClientReady() && scene().phase == Filming::Phase::Watching && scene().right, kLong);
    }

    /// Makes the knee of the second rep wrong, as a network does, and has it put right.
    void correctAKnee(const std::function<void(const QPointF& from, const QPointF& to)>& putRight) {
        const QPointF wrong(-18, 26);
        const store::SetId id = review()->id();
        auto opened = [&](const QPointF& by) {
            steps::misplaceKnee(*m_window, id, 1, by);
            m_window->openSet(id);
            QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking() && review()->stage()->hasPicture(), kLong);
        };
        opened({0, 0});  // the one network alone, as it is moved next
        const double right = steps::kneeBend(*m_window, 1);
        opened(wrong);
        QVERIFY(std::abs(steps::kneeBend(*m_window, 1) - right) > 8);
        review()->chooseRep(1);
        review()->stage()->goTo(review()->presenter().result().reps[1].bottomS);
        QTRY_VERIFY_WITH_TIMEOUT(review()->stage()->shownFrame() == review()->stage()->frame(), kLong);
        QTest::keyClick(review(), Qt::Key_E);
        review()->correctBar()->reachBox()->setCurrentIndex(2);
        QTest::qWait(50);  // the picture makes room for what can be done
        const int knee = steps::handleNamed(*m_window, "knee");
        QVERIFY(knee >= 0);
        const QPointF at = review()->stage()->handles()[static_cast<std::size_t>(knee)].at;
        putRight(review()->stage()->toWidget(at), review()->stage()->toWidget(at - wrong));
        QTRY_VERIFY(std::abs(steps::kneeBend(*m_window, 1) - right) < 4);
    }

  private slots:
    void initTestCase() { installFonts(); }
    void init() {
        m_dir = std::make_unique<QTemporaryDir>();
        QFile::link(m_drawn.path(), m_dir->filePath("simulated"));
        start();
    }
    void cleanup() { m_window.reset(); }

    /// The whole loop, hands off where that is promised.
    void aNewcomerFilmsCuesAndFilmsAgain() {
        QElapsedTimer clock;
        clock.start();
        addClient("Aldous Brackenwhite");
        toTheFilmPage();
        // Nothing is filmed before the client has agreed.
        QVERIFY(child<QLabel>(m_window.get(), "consentText")->text().contains("Aldous"));
        QVERIFY(!filming()->isOpen());
        smallPictures();
        click("agreeCoaching");
        auto client = library().clients()->at(0);
        QCOMPARE(*client.consent, QDate::currentDate());
        QCOMPARE(client.consentFor, QString("coaching only"));
        // Wrongly placed first: too low, and not level.
        auto d = dials("heels_rise", 1);
        d.camera.heightM = 0.35;
        d.camera.rollDeg = 5;
        film()->virtualPanel()->setDials(d);
        QTRY_VERIFY_WITH_TIMEOUT(scene().sentence.contains("Level it"), kLong);
        QVERIFY2(scene().sentence.contains("left side down"), qPrintable(scene().sentence));
        QVERIFY(scene().move == CameraMove::LevelLeft);
        // Following the words, one after the other, ends in "Right".
        int moves = 0;
        auto* helper = child<QPushButton>(m_window.get(), "helper");
        auto begun = [this] { return filming()->phase() != Filming::Phase::Watching || scene().right; };
        while (!begun() && moves < 12) {
            if (helper->isEnabled()) {
                qInfo("%s", qPrintable(scene().sentence));
                QTest::mouseClick(helper, Qt::LeftButton);
                ++moves;
                QVERIFY(!helper->isEnabled());  // the next words come from pictures taken after the move
            }
            QTRY_VERIFY_WITH_TIMEOUT(helper->isEnabled() || begun(), kLong);
        }
        QVERIFY(moves >= 2 && moves < 12);
        // Before the first set of a day one thing is asked, and nothing begins until it is answered.
        QTRY_VERIFY_WITH_TIMEOUT(scene().right && filming()->isClientReady(), kLong);
        QCOMPARE(scene().sentence, QString("Does anything hurt today?"));
        QTest::keyClick(film(), Qt::Key_Space);
        QTest::qWait(3000);
        QVERIFY(filming()->phase() == Filming::Phase::Watching);
        QVERIFY(!child<QLabel>(film(), "painTapLast")->isVisible());
        QTest::keyClick(film(), Qt::Key_0);
        QVERIFY(!child<QWidget>(film(), "painTap")->isVisible());
        QTRY_VERIFY_WITH_TIMEOUT(!scene().before.isEmpty() || filming()->phase() != Filming::Phase::Watching, kLong);
        QVERIFY(scene().restS < 0);
        client = library().clients()->at(0);
        QVERIFY(client.complaint.score == 0 && client.complaint.askedOn == QDate::currentDate());
        QVERIFY(filming()->dials().camera.heightM > 0.6);
        // They stand still: it begins by itself, counts, ends by itself, and the answer comes by itself.
        QTRY_VERIFY_WITH_TIMEOUT(filming()->phase() == Filming::Phase::Filming, kLong);
        // A slow machine reaches few pictures while the camera runs, and may look away while a repetition passes.
        QTRY_VERIFY_WITH_TIMEOUT(scene().reps >= 2, kLong);
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == review(), kLong);
        const auto& shown = review()->presenter();
        QVERIFY(shown.countedReps() >= 1);
        QVERIFY(!child<QLabel>(review(), "answer")->isVisible());
        // The careful reading takes the quick one's place without moving anything.
        review()->chooseRep(1);
        QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking(), kLong);
        QVERIFY2(text("notes").contains("Refined"), qPrintable(text("notes")));
        QCOMPARE(shown.rep(), 1);
        QCOMPARE(shown.countedReps(), 3);
        QVERIFY2(shown.saying().fault == "heels_rise", qPrintable(shown.saying().title));
        // Outlines are those of this body: none is larger than the picture.
        const auto outlines = *library().outlines(review()->id());
        QCOMPARE(outlines.size(), std::size_t{3});
        for (const Outline& o : outlines) {
            QVERIFY(o.points.size() > 50);
            for (const auto& [x, y] : o.points) QVERIFY(x > 0 && x < 640 && y > 0 && y < 360);
        }
        // The cue was given; the client listens.
        click("given");
        QCOMPARE(child<QPushButton>(review(), "given")->isChecked(), true);
        const auto cue = fold(*library().edits(review()->id())).cue;
        QVERIFY(cue && cue->fault == "heels_rise");
        QTest::keyClick(review(), Qt::Key_R);
        QVERIFY(m_window->currentView() == film());
        QVERIFY(film()->session()->setCount() >= 1);
        const auto& cued = film()->session()->tile(film()->session()->setCount() - 1);
        QVERIFY2(cued.cue.contains("said"), qPrintable(cued.cue));
        QCOMPARE(filming()->dials().size, 0.0);
        QTRY_VERIFY_WITH_TIMEOUT(scene().restS > 0, kLong);  // the clock between two sets
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == review(), kLong);
        QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking(), kLong);
        QVERIFY2(text("answer").startsWith("Worked"), qPrintable(text("answer") + " " + text("answerHow")));
        QVERIFY(text("answerHow").contains("After"));
        qInfo("the whole loop: %.0f s, %d moves of the camera", double(clock.elapsed()) / 1000, moves);
        // And on, between two sets, with the mouse: compared, a wrong knee dragged right, a false rep taken out, the
        // set logged in two taps, the client's page read.
        QElapsedTimer between;
        between.start();
        click("compareSet");
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == m_window->compare(), kLong);
        QVERIFY2(text("differences").contains("Heel off the floor"), qPrintable(text("differences")));
        click("compareBack");
        QVERIFY(m_window->currentView() == review());
        correctAKnee([this](const QPointF& from, const QPointF& to) { steps::drag(review()->stage(), from, to); });
        click("notARep");
        QCOMPARE(review()->presenter().result().reps.size(), std::size_t{2});
        click("undo");  // it was one: with two left, no cue could be answered
        QCOMPARE(review()->presenter().result().reps.size(), std::size_t{3});
        auto* effort = review()->logRow()->chipOf("chipEffort");
        QTimer::singleShot(0, effort->menu(), [menu = effort->menu()] {
            auto* seven = menu->findChild<QAction*>("effort7");
            menu->setActiveAction(seven);
            QTest::mouseClick(menu, Qt::LeftButton, Qt::NoModifier, menu->actionGeometry(seven).center());
        });
        QTest::mouseClick(effort, Qt::LeftButton);
        QCOMPARE(*fold(*library().edits(review()->id())).facts.log.effort, 7);
        click("toHome");
        click("clientPage");
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == m_window->client(), kLong);
        QVERIFY2(text("cues").contains("worked 1 of 1"), qPrintable(text("cues")));
        // Where the machine is slow an attempt may come to nothing, and is kept as that.
        const auto* sets = m_window->client()->sets();
        const int kept = sets->count();
        QCOMPARE(kept - int(sets->findItems("Nothing counted", Qt::MatchContains).size()), 2);
        qInfo("between two sets, with the mouse: %.1f s", double(between.elapsed()) / 1000);
        // Complete deletion takes what Zevo filmed with it.
        const QDir recordings(library().recordings());
        QCOMPARE(recordings.entryList(QDir::Files).size(), kept);
        // One that was broken off as well, and is in no set.
        {
            auto record = library();
            QVERIFY(bool(FileShelf(record).grow(recordings.filePath("broken.mkv"), client.id, {})));
        }
        QVERIFY(QFile::copy(recordings.filePath(recordings.entryList({"*.mkv"}, QDir::Files)[0]),
                            recordings.filePath("broken.mkv.part")));
        m_window->actions().get("home")->trigger();
        m_window->home()->selectClient(client.id);
        QTimer::singleShot(0, this, [] {
            auto* ask = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
            for (auto* b : ask->buttons())
                if (ask->buttonRole(b) == QMessageBox::DestructiveRole) b->click();
        });
        click("deleteClient");
        QVERIFY(library().clients()->empty());
        QVERIFY(recordings.entryList(QDir::Files).isEmpty());
    }

    /// The same from the first cue on, and no mouse at all.
    void theWholeLoopByKeysAlone() {
        addClient("Odo Wrenthorpe");
        agreeAndFilm();
        auto four = dials("heels_rise", 1);
        four.reps = 4;
        film()->virtualPanel()->setDials(four);
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == review(), kLong);
        QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking(), kLong);
        auto key = [this](int k, Qt::KeyboardModifiers with = Qt::NoModifier) { steps::key(*m_window, k, with); };
        QElapsedTimer clock;
        clock.start();
        key(Qt::Key_N);
        key(Qt::Key_N, Qt::ShiftModifier);
        QVERIFY(review()->presenter().saying().fault == "heels_rise");
        key(Qt::Key_W);
        key(Qt::Key_I);
        QVERIFY(fold(*library().edits(review()->id())).cue);
        const double before = double(clock.elapsed()) / 1000;
        key(Qt::Key_R);
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == review(), kLong);
        QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking(), kLong);
        QVERIFY2(text("answer").startsWith("Worked"), qPrintable(text("answer")));
        clock.restart();
        key(Qt::Key_B);
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == m_window->compare(), kLong);
        key(Qt::Key_Right, Qt::ShiftModifier);
        QVERIFY(m_window->compare()->presenter().phase() > 1.7);
        key(Qt::Key_M);
        key(Qt::Key_B);
        QVERIFY(m_window->currentView() == review());
        correctAKnee([&](const QPointF& from, const QPointF& to) {
            // The keys start on the knee; each press is a pixel of the picture.
            const QPointF way = review()->stage()->toPicture(to) - review()->stage()->toPicture(from);
            for (int i = 0; i < std::lround(way.x()); ++i) key(Qt::Key_Right, Qt::AltModifier);
            for (int i = 0; i < std::lround(-way.y()); ++i) key(Qt::Key_Up, Qt::AltModifier);
        });
        key(Qt::Key_X, Qt::ShiftModifier);
        QCOMPARE(review()->presenter().result().reps.size(), std::size_t{3});
        // The log opens on its first chip: down to the warm-up, Enter.
        QTimer::singleShot(0, this, [] {
            QWidget* menu = QApplication::activePopupWidget();
            if (!menu) qFatal("no menu");
            QTest::keyClick(menu, Qt::Key_Down);
            QTest::keyClick(menu, Qt::Key_Down);
            QTest::keyClick(menu, Qt::Key_Return);
        });
        key(Qt::Key_Y);
        m_window->activateWindow();  // the offscreen platform does not give the window back what the menu took
        QTRY_VERIFY(QApplication::focusWidget() != nullptr);
        QCOMPARE(int(review()->document().facts().log.kind), int(SetKind::WarmUp));
        key(Qt::Key_P, Qt::ControlModifier);
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == m_window->client(), kLong);
        QVERIFY2(text("cues").contains("worked 1 of 1"), qPrintable(text("cues")));
        key(Qt::Key_H);
        QVERIFY(m_window->currentView() == m_window->home());
        qInfo("by keys alone: %.1f s before the second set, %.1f s after it", before, double(clock.elapsed()) / 1000);
    }

    /// Keys alone: begin, call off, begin, end; and a set in which nothing counts is kept as that, and deleted by a
    /// key.
    void aSetInWhichNothingCountsIsKeptAsThat() {
        addClient("Berrow Askwith");
        agreeAndFilm();
        film()->virtualPanel()->setDials(dials("", 0));
        // They do not begin by themselves in this one.
        child<QCheckBox>(film(), "startStill")->setChecked(false);
        child<QCheckBox>(film(), "stopStill")->setChecked(false);
        QTRY_VERIFY_WITH_TIMEOUT(scene().right, kLong);
        QVERIFY2(scene().sentence.contains("Space"), qPrintable(scene().sentence));
        film()->setFocus();
        QTest::keyClick(film(), Qt::Key_Space);
        QTRY_VERIFY_WITH_TIMEOUT(filming()->phase() == Filming::Phase::CountingIn, kLong);
        QTest::keyClick(film(), Qt::Key_PageDown);  // the remote calls it off
        QTRY_VERIFY_WITH_TIMEOUT(filming()->phase() == Filming::Phase::Watching, kLong);
        QTest::keyClick(film(), Qt::Key_PageUp);
        QTRY_VERIFY_WITH_TIMEOUT(filming()->phase() == Filming::Phase::Filming, kLong);
        m_window->actions().get("home")->trigger();  // not while a set is being filmed
        QVERIFY(m_window->currentView() == film());
        QTest::keyClick(film(), Qt::Key_Space);
        QTRY_COMPARE_WITH_TIMEOUT(film()->session()->setCount(), 1, kLong);
        QVERIFY(m_window->currentView() == film());
        QCOMPARE(film()->session()->tile(0).finding, QString("Nothing counted"));
        QVERIFY2(m_window->strip()->message().contains("rep"), qPrintable(m_window->strip()->message()));
        auto* safe = child<QLabel>(m_window.get(), "workSafe");
        QVERIFY2(safe->text().contains("once more"), qPrintable(safe->text()));
        QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking(), kLong);
        QVERIFY2(safe->text().contains("Del there"), qPrintable(safe->text()));
        QVERIFY(m_window->strip()->message().startsWith("Nothing counted"));
        film()->session()->setFocus();
        film()->session()->setCurrentRow(0);
        QTest::keyClick(film()->session(), Qt::Key_Delete);
        QTRY_COMPARE_WITH_TIMEOUT(film()->session()->setCount(), 0, kLong);
        QTest::keyClick(m_window.get(), Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(library().sets(film()->client().id)->size(), std::size_t{1});
    }

    /// A machine too slow to follow the camera saw nothing of the set: the recording is read with care all the same,
    /// and the coach, who may be filming the next one, is told.
    void aSetThatCountsOnlyWhenReadWithCareIsOffered() {
        addClient("Tamsel Orrivane");
        agreeAndFilm();
        child<QCheckBox>(film(), "startStill")->setChecked(false);
        const QString path = QDir(library().recordings()).filePath("slow.mkv");
        QDir().mkpath(library().recordings());
        QVERIFY(recorded(QString(ZEVO_FIXTURE_DIR) + "/side/clip.mp4", path));
        auto set = std::make_shared<FilmedSet>();
        auto catalogue = catalog::loadCatalogue();
        set->plan.client = film()->client();
        set->plan.catalogue = std::make_shared<const Catalogue>(std::move(*catalogue));
        set->filmed.path = path.toStdString();
        set->begun = QDateTime::currentDateTime();
        {
            auto record = library();
            QVERIFY(bool(FileShelf(record).grow(path, set->plan.client.id, set->plan.edits())));
        }
        emit film()->filmed(set);
        QTRY_COMPARE_WITH_TIMEOUT(film()->session()->setCount(), 1, kLong);
        QCOMPARE(film()->session()->tile(0).finding, QString("Nothing counted"));
        QVERIFY(m_window->strip()->hasProblem());
        QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking(), kLong);
        QVERIFY(m_window->currentView() == film());
        QVERIFY2(film()->session()->tile(0).finding != "Nothing counted", qPrintable(m_window->log().recent()));
        QVERIFY2(text("notice").contains("counts after all"), qPrintable(text("notice")));
        QVERIFY(!m_window->strip()->hasProblem());  // it holds no more
        QVERIFY(m_window->strip()->hasReady());
        m_window->actions().get("showReady")->trigger();
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == review(), kLong);
        QCOMPARE(review()->presenter().countedReps(), 3);
        QVERIFY2(review()->presenter().saying().fault == "heels_rise",
                 qPrintable(review()->presenter().saying().title));
    }

    void theClientsDisplayShowsOnlyWhatHelpsThem() {
        addClient("Corwen Ashby");
        agreeAndFilm();
        film()->virtualPanel()->setDials(dials("heels_rise", 1));
        auto* tempo = child<QComboBox>(film(), "tempoGuide");
        tempo->setCurrentIndex(tempo->findData("2-0-2"));
        emit tempo->activated(tempo->currentIndex());
        QVERIFY(filming()->plan().facts.tempo && filming()->plan().facts.tempo->lowerS == 2);
        child<QCheckBox>(film(), "mirror")->setChecked(true);
        QStringList heard;
        connect(film()->sounds(), &Sounds::played, this, [&](const QString& name) { heard.append(name); });
        m_window->actions().get("clientDisplay")->trigger();
        QVERIFY(film()->clientDisplay()->isVisible());
        QTRY_VERIFY_WITH_TIMEOUT(filming()->phase() == Filming::Phase::Filming, kLong);
        QTRY_VERIFY_WITH_TIMEOUT(film()->clientDisplay()->scene().line.has_value(), kLong);
        QVERIFY(film()->clientDisplay()->scene().tempo && film()->clientDisplay()->scene().mirrored);
        QVERIFY(scene().cue.isEmpty());  // watch first, cue later
        QTRY_VERIFY_WITH_TIMEOUT(heard.contains("tick"), kLong);
        QVERIFY(heard.count("count") == 3 && heard.contains("go"));
        // Pulled out in the middle: what was filmed is the answer, and the reason is said.
        QTRY_VERIFY_WITH_TIMEOUT(scene().reps >= 2, kLong);
        filming()->unplug();
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == review(), kLong);
        QVERIFY2(text("notice").contains("unplugged"), qPrintable(text("notice")));
        QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking(), kLong);
        QVERIFY(review()->presenter().countedReps() >= 2);
        // The tempo that was guided is the one it is judged by.
        QVERIFY(review()->presenter().result().context.tempo &&
                review()->document().state().standard.bandFor("lifting_s")->max);
        // What is asked after the set is filmed with: the next one starts from it.
        const auto& asks = review()->document().catalogue().asks;
        const auto pause = std::find_if(asks.begin(), asks.end(), [](const AskKind& k) { return k.id == "hold"; });
        review()->askOfNext({pause->id, pause->rungs.front().id, 2}, true);
        // And it hurts more than before: a second rise on this day will stop.
        SetFacts hurt = review()->document().facts();
        hurt.pain.before = 1, hurt.pain.after = 3, hurt.pain.spots = {{"knee-front"}};
        review()->document().apply(FactsSet{hurt}, "pain");
        // Plugged in again: filming goes on.
        m_window->actions().get("film")->trigger();
        QVERIFY(filming()->plan().facts.pain.roseBefore);
        QCOMPARE(filming()->plan().facts.asks.size(), std::size_t{1});
        QCOMPARE(filming()->plan().facts.asks.front().movement, filming()->plan().facts.movement);
        QTRY_VERIFY_WITH_TIMEOUT(filming()->phase() == Filming::Phase::Watching && film()->canvas()->hasPicture(),
                                 kLong);
    }

    /// Two cameras on one clock become one set, lined up; and the same set filmed once more from the front joins it.
    void twoCamerasBecomeOneSet() {
        addClient("Keverne Tolland");
        agreeAndFilm();
        auto* second = child<QComboBox>(film(), "secondCamera");
        second->setCurrentIndex(second->count() - 1);
        emit second->activated(second->currentIndex());
        film()->virtualPanel()->setDials(dials("heels_rise", 1));
        QTRY_VERIFY_WITH_TIMEOUT(filming()->hasSecond(), kLong);
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == review(), kLong);
        QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking(), kLong);
        QVERIFY2(review()->presenter().hasSecond(), qPrintable(m_window->strip()->message() + text("notice")));
        const auto& set = review()->presenter().result();
        QCOMPARE(set.view, ViewKind::Side);
        QCOMPARE(set.second->view, ViewKind::Front);
        QCOMPARE(set.reps.size(), std::size_t{3});
        // Both began within a picture of each other, by the clock; the movement says so too.
        QVERIFY2(std::abs(review()->presenter().inSecond(0)) < 0.2,
                 qPrintable(QString::number(review()->presenter().inSecond(0))));
        QCOMPARE(QDir(library().recordings()).entryList({"*.mkv"}, QDir::Files).size(), 2);
        QCOMPARE(library().sets(film()->client().id)->size(), std::size_t{1});
        // Once more, and the camera that helps is pulled out in the middle: the first one goes on filming, until it is
        // told to stop.
        child<QCheckBox>(film(), "startStill")->setChecked(false);
        child<QCheckBox>(film(), "stopStill")->setChecked(false);
        emit child<QCheckBox>(film(), "stopStill")->clicked();
        m_window->actions().get("film")->trigger();
        QTRY_VERIFY_WITH_TIMEOUT(filming()->phase() == Filming::Phase::Watching && filming()->hasSecond() &&
                                     filming()->isClientReady() && film()->canvas()->hasPicture(),
                                 kLong);
        filming()->press();
        QTRY_VERIFY_WITH_TIMEOUT(filming()->phase() == Filming::Phase::Filming, kLong);
        filming()->unplug(true);
        QTRY_VERIFY2_WITH_TIMEOUT(m_window->strip()->message().contains("The second camera"),
                                  qPrintable(m_window->strip()->message()), kLong);
        QVERIFY(filming()->phase() == Filming::Phase::Filming && filming()->isOpen());
        filming()->press();
        QTRY_VERIFY_WITH_TIMEOUT(filming()->phase() != Filming::Phase::Filming && !m_window->isWorking(), kLong);
        QCOMPARE(library().sets(film()->client().id)->size(), std::size_t{2});
    }

    /// Nobody looks at the set when the other camera's clip comes: it joins in the record all the same. What the
    /// movement says surely is not overridden by a clock; that they differ is said.
    void aSecondViewJoinsInTheRecord() {
        auto record = library();
        const auto client = *record.addClient({{}, "Morwen Hale", 170, {}, {}});
        const auto catalogue = std::make_shared<const Catalogue>(std::move(*catalog::loadCatalogue()));
        const std::atomic<bool> goOn{false};
        ImportRequest request{m_dir->path(), QString(ZEVO_FIXTURE_DIR "/side/clip.mp4"), {}, {}, "full", client,
                              catalogue};
        const auto side = importClip(request, goOn, {});
        QVERIFY(bool(side));
        const Movement* squat = catalogue->movement("squat");
        const auto front = observeForSet(m_dir->path(), QString(ZEVO_FIXTURE_DIR "/front/clip.mp4"),
                                         contextOf(request.facts, *squat), goOn, {});
        QVERIFY(bool(front));
        const auto joined = joinSeen(record, side->id, *front, true, std::nullopt, catalogue);
        QVERIFY(bool(joined));
        auto stored = record.loadSet(side->id);
        QCOMPARE(stored->seen.size(), std::size_t{2});
        auto lag = [&](const store::StoredSet& s) {
            return recompute(observationsOf(s.seen), s.edits, *catalogue)->set.result.second->lagS();
        };
        const double byMovement = lag(*stored);
        QVERIFY(!joinSeen(record, store::SetId::fresh(), *front, true, std::nullopt, catalogue));
        const auto again = importClip(request, goOn, {});
        QVERIFY(bool(again));
        const double laterS = -byMovement + 0.3;
        auto anew = *front;
        anew.id = store::ObservationId::fresh();
        QVERIFY(bool(joinSeen(record, again->id, anew, true, laterS, catalogue)));
        const auto both = record.loadSet(again->id);
        NEAR(lag(*both), byMovement, 1e-9);
        const auto& said = both->seen[1].observation->notices;
        const auto differ =
            std::find_if(said.begin(), said.end(), [](const Notice& n) { return n.kind == NoticeKind::ClocksDiffer; });
        QVERIFY(differ != said.end());
        NEAR(differ->number(0), 0.3, 1e-6);
    }

    void theOtherViewOfTheSameSetJoinsIt() {
        addClient("Lowenna Strode");
        agreeAndFilm();
        film()->virtualPanel()->setDials(dials("heels_rise", 1));
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == review(), kLong);
        QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking(), kLong);
        const auto first = review()->id();
        QTest::keyClick(review(), Qt::Key_R, Qt::ShiftModifier);
        QVERIFY(m_window->currentView() == film());
        auto d = dials("", 0);
        d.front = true;
        film()->virtualPanel()->setDials(d);
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == review() && review()->id() == first, kLong);
        QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking() && review()->presenter().hasSecond(), kLong);
        QCOMPARE(review()->presenter().result().second->view, ViewKind::Front);
        QCOMPARE(library().sets(film()->client().id)->size(), std::size_t{1});
    }

    void twoClientsTakeTurnsByOneKey() {
        addClient("Dunstan Wray");
        agreeAndFilm();
        QTRY_VERIFY_WITH_TIMEOUT(filming()->isOpen(), kLong);
        m_window->actions().get("home")->trigger();
        QVERIFY(m_window->currentView() == m_window->home());
        addClient("Elowen Tarrack");
        agreeAndFilm();
        QTRY_VERIFY_WITH_TIMEOUT(filming()->isOpen(), kLong);
        QCOMPARE(film()->client().name, QString("Elowen Tarrack"));
        QTest::keyClick(film(), Qt::Key_B);
        QCOMPARE(film()->client().name, QString("Dunstan Wray"));
        QTest::keyClick(film(), Qt::Key_B);
        QCOMPARE(film()->client().name, QString("Elowen Tarrack"));
    }

    /// Taken back, the consent asks about the record at once, and nothing is filmed before it is given again.
    /// What hurt last time is asked for again; some pain asks where; and a flag that is named in the middle of a set
    /// ends the set, after which nothing begins by itself.
    void whatHurtsComesBeforeTheSetAndEndsIt() {
        store::Client known{{}, "Odessa Quillfeather", 168, "", QDate::currentDate()};
        known.complaint = {3, {{"knee-front", BodySide::Left}}, false, QDate::currentDate().addDays(-9)};
        const QDate before = QDate::currentDate().addDays(-20);
        known.flags = {{"surgery", before, before.addDays(5), "a surgeon", "no deeper than a chair"}};
        QVERIFY(bool(library().addClient(known)));
        start();
        toTheFilmPage();
        QVERIFY2(text("painTapLast").contains("3 of 10: knee, front, left"), qPrintable(text("painTapLast")));
        click("painTap2");
        QVERIFY(!m_window->question()->isVisible());
        auto client = [this] { return library().clients()->at(0); };
        QCOMPARE(*client().complaint.score, 2);
        QCOMPARE(client().complaint.spots, known.complaint.spots);
        smallPictures();
        film()->virtualPanel()->setDials(dials("", 0));
        waitUntilRight();
        QVERIFY2(scene().reason.contains("no deeper than a chair"), qPrintable(scene().reason));
        QTest::keyClick(film(), Qt::Key_Space);
        QTRY_VERIFY_WITH_TIMEOUT(filming()->phase() == Filming::Phase::Filming, kLong);
        QTRY_VERIFY_WITH_TIMEOUT(scene().clipS > 1, kLong);
        m_window->actions().get("pain")->trigger();
        QVERIFY(m_window->question()->isVisible());
        QVERIFY(filming()->phase() == Filming::Phase::Filming);
        QTest::mouseClick(child<QCheckBox>(m_window->question(), "flag-chest"), Qt::LeftButton, {}, {10, 10});
        QTRY_VERIFY_WITH_TIMEOUT(filming()->phase() != Filming::Phase::Filming, kLong);
        QCOMPARE(client().flags.size(), std::size_t{2});
        QTest::keyClick(m_window->question(), Qt::Key_Escape);
        // What was filmed is kept, without a finding.
        QTRY_VERIFY_WITH_TIMEOUT(!library().sets(client().id)->empty(), kLong);
        m_window->actions().get("home")->trigger();
        toTheFilmPage();
        QTRY_VERIFY_WITH_TIMEOUT(scene().sentence.contains("Medical help now"), kLong);
        QVERIFY(scene().reason.contains("Chest pain"));
        QTest::qWait(3500);
        QVERIFY(filming()->phase() == Filming::Phase::Watching);
        // A key films all the same, and looking at the question again does not end that.
        QTRY_VERIFY_WITH_TIMEOUT(filming()->isClientReady(), kLong);
        QTest::keyClick(film(), Qt::Key_Space);
        QTRY_VERIFY_WITH_TIMEOUT(filming()->phase() == Filming::Phase::Filming, kLong);
        m_window->actions().get("pain")->trigger();
        QTest::keyClick(m_window->question(), Qt::Key_Escape);
        QTest::qWait(500);
        QVERIFY(filming()->phase() == Filming::Phase::Filming);
    }

    void consentTakenBackOffersErasure() {
        addClient("Fenwick Odell");
        agreeAndFilm();
        QTRY_VERIFY_WITH_TIMEOUT(filming()->isOpen(), kLong);
        m_window->actions().get("home")->trigger();
        QTimer::singleShot(0, this, [] {
            auto* ask = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
            QVERIFY(ask && ask->text().contains("Erase"));
            for (auto* b : ask->buttons())
                if (ask->buttonRole(b) == QMessageBox::RejectRole) b->click();
        });
        QTest::mouseClick(child<QCheckBox>(m_window.get(), "consent"), Qt::LeftButton, {}, {10, 10});
        QVERIFY(!library().clients()->at(0).consent);
        toTheFilmPage();
        QVERIFY(!filming()->isOpen());
        QVERIFY(child<QLabel>(m_window.get(), "consentText")->isVisible());
        m_window->actions().get("home")->trigger();
        QTimer::singleShot(0, this, [] {
            auto* ask = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
            for (auto* b : ask->buttons())
                if (ask->buttonRole(b) == QMessageBox::DestructiveRole) b->click();
        });
        QTest::mouseClick(child<QCheckBox>(m_window.get(), "consent"), Qt::LeftButton, {}, {10, 10});
        QTest::mouseClick(child<QCheckBox>(m_window.get(), "consent"), Qt::LeftButton, {}, {10, 10});
        QVERIFY(library().clients()->empty());
    }

    /// Killed at fifty random moments while recording, closing, measuring and saving: the library opens, every set in
    /// it is whole, and what was being filmed is offered and saved.
    void killedAtAnyMomentNothingIsLost() {
        store::ClientId client{};
        {
            auto record = library();
            client = *record.addClient({{}, "Garrick Soames", 175, "", QDate::currentDate()});
        }
        m_window.reset();
        std::mt19937 random(7);
        int kept = 0, broken = 0, saved = 0;
        for (int round = 0; round < 50; ++round) {
            QProcess child;
            child.start(QCoreApplication::applicationFilePath(), {"--film-for-ever", m_dir->path()});
            QVERIFY(child.waitForStarted(-1));
            // It has to have come to filming, however slow the machine is; then any moment of a second and a half.
            const QDir recordings(m_dir->filePath("recordings"));
            while (recordings.entryList({"*.part"}, QDir::Files).isEmpty() && child.state() == QProcess::Running)
                QTest::qWait(5);
            QTest::qWait(static_cast<int>(random() % 2200));
            child.kill();
            QVERIFY(child.waitForFinished(-1));
            kept += static_cast<int>(child.readAllStandardOutput().count("kept"));
            auto record = store::Library::open(m_dir->path());
            QVERIFY2(bool(record), record ? "" : record.error().message.c_str());
            QVERIFY(bool(record->beginSitting()));
            QVERIFY(bool(FileShelf(*record).sweep(true)));
            const auto all = *FileShelf(*record).orphans();
            QVERIFY(all.size() <= 1);
            for (const OrphanedRecording& s : all) {
                ++broken;
                QCOMPARE(s.client, client);
                const auto catalogue = std::make_shared<const Catalogue>(std::move(*catalog::loadCatalogue()));
                const std::atomic<bool> goOn{false};
                const auto done = recoverRecording(m_dir->path(), s, "lite", catalogue, goOn, {});
                if (done) ++saved;
                // Broken off within its first second: there may be nothing in it yet.
                if (!done) QVERIFY(FileShelf(*record).retire(s.path) && FileShelf(*record).sweep(false));
            }
            QVERIFY(recordings.entryList({"*.part", "*.whole"}, QDir::Files).isEmpty());
            // What is in the folder is on the shelf, and what is on the shelf is in the folder.
            QStringList shelved;
            for (const auto& f : *record->files()) shelved.append(QFileInfo(f.path).fileName());
            shelved.sort();
            QCOMPARE(recordings.entryList(QDir::Files, QDir::Name), shelved);
        }
        auto record = library();
        const auto sets = *record.sets(client);
        qInfo("50 kills: %d sets kept, %d recordings broken off, %d of them saved, %d sets in the record", kept, broken,
              saved, int(sets.size()));
        // Every set that was said to be kept is there, and its clip as well.
        QVERIFY(int(sets.size()) >= kept + saved);
        for (const auto& s : sets) {
            const auto stored = record.loadSet(s.id);
            QVERIFY(bool(stored));
            QVERIFY(QFile::exists(stored->seen.front().clip.path));
        }
        QVERIFY(broken > 5 && saved > 0);
    }

    /// The next start asks about a recording that was broken off, and saves it on one click.
    void theNextStartOffersWhatWasBrokenOff() {
        addClient("Hollis Merriden");
        agreeAndFilm();
        film()->virtualPanel()->setDials(dials("heels_rise", 1));
        QTRY_VERIFY_WITH_TIMEOUT(filming()->phase() == Filming::Phase::Filming, kLong);
        QTRY_VERIFY_WITH_TIMEOUT(scene().reps >= 2 && scene().clipS > 1, kLong);
        // As it lies on the disk at this moment.
        const QDir recordings(library().recordings());
        const QString part = recordings.entryList({"*.part"}, QDir::Files).value(0);
        QVERIFY(!part.isEmpty());
        QTemporaryDir after;
        QVERIFY(QDir(after.path()).mkdir("recordings"));
        for (const QString& f : recordings.entryList(QDir::Files))
            QFile::copy(recordings.filePath(f), after.filePath("recordings/" + f));
        m_window.reset();
        for (const QString& f : QDir(m_dir->path()).entryList({"library.sqlite*"}, QDir::Files))
            QFile::copy(m_dir->filePath(f), after.filePath(f));
        auto opened = store::Library::open(after.path());
        m_window = std::make_unique<MainWindow>(std::move(*opened));
        m_window->show();
        auto* question = m_window->questions();
        QVERIFY2(question->text().contains("Hollis") && question->text().contains("broken off"),
                 qPrintable(question->text()));
        click("recover");
        QCOMPARE(question->waiting(), 0);
        QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking(), kLong);
        QVERIFY2(m_window->strip()->hasReady(), qPrintable(m_window->strip()->message()));
        m_window->showReady();
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == review(), kLong);
        QVERIFY(review()->presenter().countedReps() >= 1);
        QVERIFY(QDir(after.filePath("recordings")).entryList({"*.part"}, QDir::Files).isEmpty());
        m_window.reset();
    }

    /// A clip from a phone: while it grows nothing happens; then it is measured and offered, never filed by itself.
    void aClipThatArrivesIsOffered() {
        addClient("Ivo Lanyon");
        QTemporaryDir phone;
        m_window->incoming().setPatience(200);
        m_window->incoming().watch(phone.path());
        QFile source(QString(ZEVO_FIXTURE_DIR "/side/clip.mp4"));
        QVERIFY(source.open(QIODevice::ReadOnly));
        QFile target(phone.filePath("from-the-phone.mp4"));
        QVERIFY(target.open(QIODevice::WriteOnly));
        const QByteArray bytes = source.readAll();
        target.write(bytes.left(bytes.size() / 2));
        target.flush();
        QTest::qWait(150);
        QVERIFY(!m_window->isWorking());
        target.write(bytes.mid(bytes.size() / 2));
        target.close();
        QTRY_VERIFY_WITH_TIMEOUT(m_window->isWorking(), kLong);
        QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking(), kLong);
        QVERIFY2(m_window->questions()->text().contains("from-the-phone.mp4"),
                 qPrintable(m_window->questions()->text()));
        const auto client = library().clients()->at(0).id;
        QVERIFY(library().sets(client)->empty());
        click("fileUnder");
        QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking(), kLong);
        QCOMPARE(library().sets(client)->size(), std::size_t{1});
        QVERIFY(QFile::exists(target.fileName()));  // the coach's own file stays theirs
    }

    /// A second Zevo on one library looks and changes nothing, and says so; so does one that may not write there.
    void aLibraryThatMayNotBeWrittenToIsOnlyLookedAt() {
        addClient("Jessamy Korrow");
        std::optional<store::Library> second;
        {
            const auto first = holdLibrary(m_dir->path());
            QVERIFY(first && first->lock && !first->library.isReadOnly());
            auto held = holdLibrary(m_dir->path());
            QVERIFY2(bool(held), held ? "" : held.error().message.c_str());
            QVERIFY(!held->lock);
            second.emplace(std::move(held->library));
        }
        QVERIFY(second->isReadOnly());
        QVERIFY(holdLibrary(m_dir->path())->lock);  // the first one was closed: the next start may write again
        QCOMPARE(second->clients()->size(), std::size_t{1});
        QVERIFY(!second->addClient({{}, "No", 0, "", {}}));
        QVERIFY(!second->deleteClient(second->clients()->at(0).id));
        {
            MainWindow looking(std::move(*second));
            looking.show();
            QVERIFY(child<QLabel>(&looking, "notice")->isVisible());
            QVERIFY(child<QLabel>(&looking, "notice")->text().contains("reading only"));
            looking.filmSet();
            QVERIFY(looking.currentView() == looking.home());
            looking.close();
        }
        QCOMPARE(library().clients()->size(), std::size_t{1});
        // A folder nobody may write to (root may, so that part is for others).
        m_window.reset();
        QTemporaryDir fixed;
        for (const QString& f : QDir(m_dir->path()).entryList({"library.sqlite"}, QDir::Files))
            QFile::copy(m_dir->filePath(f), fixed.filePath(f));
        QVERIFY(QFile::setPermissions(fixed.path(), QFile::ReadOwner | QFile::ExeOwner));
        auto still = store::Library::open(fixed.path(), store::Access::Read);
        QVERIFY2(bool(still), still ? "" : still.error().detail.c_str());
        QCOMPARE(still->clients()->size(), std::size_t{1});
        QFile::setPermissions(fixed.path(), QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
    }
};

namespace {

/// What a child process does until it is killed: film a made-up picture, put it into the record, read it once
/// more with the network, film the next.
int filmForEver(const QString& folder) {
    auto library = store::Library::open(folder);
    if (!library) return 1;
    const auto client = library->clients()->at(0);
    FilmPlan plan;
    plan.client = client;
    auto catalogue = catalog::loadCatalogue();
    plan.catalogue = std::make_shared<const Catalogue>(std::move(*catalogue));
    auto source = media::openPattern("testsrc=size=320x240:rate=30");
    if (!source) return 1;
    QDir().mkpath(library->recordings());
    media::LiveFrame frame;
    for (int n = 0;; ++n) {
        FilmedSet set;
        set.plan = plan;
        set.begun = QDateTime::currentDateTime();
        const QString path =
            QDir(library->recordings()).filePath(QString("%1_%2.mkv").arg(QCoreApplication::applicationPid()).arg(n));
        set.filmed.path = path.toStdString();
        if (!FileShelf(*library).grow(path, client.id, plan.edits())) return 1;
        auto recorder = media::ClipRecorder::create(set.filmed.path, (*source)->facts(), "");
        if (!recorder) return 1;
        for (int i = 0; i < 50; ++i) {
            if (auto more = (*source)->next(frame); !more || !*more) return 1;
            if (!recorder->write(frame)) return 1;
        }
        if (!recorder->finish()) return 1;
        const auto kept = saveQuickResult(folder, set);
        if (!kept) return 1;
        std::printf("kept\n");
        std::fflush(stdout);
        // The careful reading follows, as in the window; nobody is in the picture, so it ends in a refusal.
        const std::atomic<bool> goOn{false};
        (void)saveRefinedResult(folder, kept->set.id, set, "lite", goOn, {});
    }
}

}  // namespace

int main(int argc, char** argv) {
    if (argc == 3 && QString(argv[1]) == "--film-for-ever") {
        QCoreApplication app(argc, argv);
        return filmForEver(argv[2]);
    }
    QApplication app(argc, argv);
    TestFilming test;
    return QTest::qExec(&test, argc, argv);
}
#include "test_filming.moc"

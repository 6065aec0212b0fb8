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

#include "app/shell/main_window.h"

using namespace zevo;
using namespace zevo::app;

namespace {

constexpr int kLong = 1200000;  // ms; a slow machine is no reason to fail

template <typename Widget>
Widget* child(QWidget* in, const char* name) {
    auto* found = in->findChild<Widget*>(name);
    if (!found) qFatal("no %s", name);
    return found;
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
    store::Library library() { return std::move(*store::Library::open(m_dir->path())); }

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
    /// The virtual client of most tests: few repetitions, so that drawing him takes seconds.
    sim::ClientDials dials(const char* fault, double size) {
        sim::ClientDials d = film()->virtualPanel()->dials();
        d.fault = fault;
        d.size = size;
        d.reps = 3;
        d.width = 640, d.height = 360;
        return d;
    }
    void agreeAndFilm() {
        click("film");
        QVERIFY(m_window->currentView() == film());
        click("agreeCoaching");
    }
    /// Until the client is there and nothing is wrong with the camera.
    void waitUntilRight() {
        QTRY_VERIFY_WITH_TIMEOUT(
            filming()->isClientReady() && scene().phase == Filming::Phase::Watching && scene().right, kLong);
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
        click("film");
        QVERIFY(m_window->currentView() == film());
        // Nothing is filmed before the client has agreed.
        QVERIFY(child<QLabel>(m_window.get(), "consentText")->text().contains("Aldous"));
        QVERIFY(!filming()->isOpen());
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
        QVERIFY(filming()->dials().camera.heightM > 0.6);
        // He stands still: it begins by itself, counts, ends by itself, and the answer comes by itself.
        QTRY_VERIFY_WITH_TIMEOUT(filming()->phase() == Filming::Phase::Filming, kLong);
        QTRY_VERIFY_WITH_TIMEOUT(scene().reps == 3, kLong);
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == review(), kLong);
        const auto& shown = review()->presenter();
        QCOMPARE(shown.countedReps(), 3);
        QVERIFY2(shown.saying().fault == "heels_rise", qPrintable(shown.saying().title));
        QVERIFY(!child<QLabel>(review(), "answer")->isVisible());
        // The careful reading takes the quick one's place without moving anything.
        review()->chooseRep(1);
        QTRY_VERIFY_WITH_TIMEOUT(!m_window->isWorking(), kLong);
        QVERIFY2(text("notes").contains("Refined"), qPrintable(text("notes")));
        QCOMPARE(shown.rep(), 1);
        QVERIFY(!library().outlines(review()->id())->empty());
        // The cue was given; the client listens.
        click("given");
        QCOMPARE(child<QPushButton>(review(), "given")->isChecked(), true);
        const auto cue = fold(*library().edits(review()->id())).cue;
        QVERIFY(cue && cue->fault == "heels_rise");
        QTest::keyClick(review(), Qt::Key_R);
        QVERIFY(m_window->currentView() == film());
        QCOMPARE(film()->session()->setCount(), 1);
        QVERIFY2(film()->session()->tile(0).cue.contains("said"), qPrintable(film()->session()->tile(0).cue));
        QCOMPARE(filming()->dials().size, 0.0);
        QTRY_VERIFY_WITH_TIMEOUT(m_window->currentView() == review(), kLong);
        QVERIFY2(text("answer").startsWith("Worked"), qPrintable(text("answer") + " " + text("answerHow")));
        QVERIFY(text("answerHow").contains("After"));
        qInfo("the whole loop: %.0f s, %d moves of the camera", double(clock.elapsed()) / 1000, moves);
    }
};

QTEST_MAIN(TestFilming)
#include "test_filming.moc"

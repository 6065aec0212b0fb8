#include "app/tour.h"

#include <QApplication>
#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QFileInfo>
#include <QKeyEvent>
#include <QLineEdit>
#include <QPushButton>
#include <QTimer>
#include <cstdio>
#include <functional>
#include <set>
#include <utility>

#include "app/client/client_view.h"
#include "app/shell/main_window.h"
#include "app/shell/palette.h"
#include "pipeline/demo_maker.h"

namespace zevo::app {
namespace {

/// Goes on until it is so: a slow machine only takes longer. What can never come is told by `stuck`.
bool waitFor(
    const std::function<bool()>& ready, const std::function<bool()>& stuck = [] { return false; }) {
    // Wakes at least so often. Waiting with a limit instead spins, and takes a core from who is being watched.
    QTimer wakes;
    wakes.start(10);
    while (!ready() && !stuck()) QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    QApplication::processEvents();
    return ready();
}

/// As long as something is being opened or measured.
bool waitForWork(MainWindow& window) {
    return waitFor([&] { return !window.isWorking(); });
}

void press(QWidget* on, int key, const QString& text = {}, Qt::KeyboardModifiers with = Qt::NoModifier) {
    QKeyEvent down(QEvent::KeyPress, key, with, text), up(QEvent::KeyRelease, key, with, text);
    QApplication::sendEvent(on, &down);
    QApplication::sendEvent(on, &up);
}

/// What a tour is made of: each step has a name, and one that went wrong is said by it.
class Steps {
  public:
    void operator()(const QString& what, bool good) {
        if (!good) std::fprintf(stderr, "this step failed: %s\n", qPrintable(what));
        m_good &= good;
    }
    bool good() const { return m_good; }

  private:
    bool m_good = true;
};

class Camera {
  public:
    Camera(MainWindow& window, QString folder) : m_window(window), m_folder(std::move(folder)) {
        QDir().mkpath(m_folder);
    }
    bool take(const QString& name, QWidget* of = nullptr) {
        for (int i = 0; i < 3; ++i) QApplication::processEvents();  // what was shown just now finds its place
        // A picture counts when the frame asked for is on the stage.
        auto* stage = m_window.review()->stage();
        if (m_window.currentView() == m_window.review())
            waitFor([stage] { return stage->hasPicture() && stage->shownFrame() == stage->frame(); },
                    [stage] { return stage->isUnreadable() || stage->frameCount() == 0; });
        const QString path = QDir(m_folder).filePath(name + ".png");
        const bool good = (of ? of : &m_window)->grab().save(path);
        std::printf("%s %s\n", good ? "picture" : "could not write", qPrintable(path));
        return good;
    }

  private:
    MainWindow& m_window;
    QString m_folder;
};

QString list(const std::set<std::string>& names) {
    QStringList out;
    for (const auto& n : names) out.append(QString::fromStdString(n));
    return out.join(' ');
}

/// Shipped clips have the sum of their spec before the ending.
bool shows(const QString& path, const QString& clip) {
    const QString file = QFileInfo(path).fileName();
    return file == clip || (file.section('.', 0, 0) == clip.section('.', 0, 0) && file.endsWith(clip.section('.', -1)));
}

/// Opens the newest set whose clip has this name.
bool openClipNamed(MainWindow& window, const QString& name) {
    auto library = store::Library::open(window.libraryFolder());
    if (!library) return false;
    const auto clients = library->clients();
    for (const auto& client : *clients)
        if (const auto sets = library->sets(client.id); sets)
            for (const auto& s : *sets)
                if (const auto stored = library->loadSet(s.id); stored && shows(stored->seen.front().clip.path, name)) {
                    window.openSet(s.id);
                    return waitForWork(window) && window.currentView() == window.review();
                }
    return false;
}

/// Opens the demo sets one by one and compares what is found with what their clips were made to show.
bool showsWhatWasPlanted(MainWindow& window, const QString& story = {}) {
    const auto demo = pipeline::loadDemo(story.toStdString());
    bool good = bool(demo);
    for (const auto& set : demo ? *demo : std::vector<pipeline::DemoSet>()) {
        if (!openClipNamed(window, QString::fromStdString(set.clipName))) {
            std::printf("WRONG %s: not measured\n", set.clipName.c_str());
            good = false;
            continue;
        }
        std::set<std::string> found, planted(set.planted.begin(), set.planted.end());
        for (const auto& f : window.review()->presenter().result().findings)
            if (f.severity != Severity::Unsure) found.insert(f.fault);
        const auto& shown = window.review()->presenter();
        const int reps = shown.countedReps() + shown.partialReps();
        const bool right = found == planted && reps == set.reps;
        std::printf("%s %s: %d of %d reps; planted: %s; found: %s\n", right ? "right" : "WRONG", set.clipName.c_str(),
                    reps, set.reps, qPrintable(list(planted)), qPrintable(list(found)));
        good &= right;
    }
    return good;
}

/// Films two sets with the simulated camera, put up wrongly first. Pictures of what a coach sees on the way.
void filmTwoSets(MainWindow& window, Camera& camera, Steps& step) {
    auto* film = window.film();
    auto scene = [&]() -> const LiveCanvas::Scene& { return film->canvas()->scene(); };
    auto until = [&](auto ready) { return waitFor(ready, [&] { return window.currentView() != film; }); };
    auto right = [&] { return scene().right; };
    window.actions().get("home")->trigger();
    window.home()->newClient("Sefton Garrowby", 175);
    window.actions().get("film")->trigger();
    waitFor([&] { return window.currentView() == film; });
    film->findChild<QPushButton*>("agreeCoaching")->click();
    auto d = film->virtualPanel()->dials();
    d.camera.heightM = 0.4;
    film->virtualPanel()->setDials(d);
    step("the camera is too low",
         until([&] { return scene().phase == Filming::Phase::Watching && scene().move == CameraMove::Up; }));
    step("film-camera", camera.take("film-camera"));
    auto* helper = film->findChild<QPushButton*>("helper");
    while (!right() && window.currentView() == film) {
        if (helper->isEnabled()) helper->click();
        until([&] { return helper->isEnabled() || right(); });
    }
    step("what hurts is asked first", until([&] { return film->findChild<QPushButton*>("painTap0")->isVisible(); }));
    film->findChild<QPushButton*>("painTap0")->click();
    window.actions().get("clientDisplay")->trigger();
    // Whichever repetition it is: a slow machine may look away while one passes.
    step("the line is reached", until([&] { return scene().reps >= 2 && scene().line && scene().line->reached; }));
    step("film-live", camera.take("film-live"));
    step("film-client", camera.take("film-client", film->clientDisplay()));
    step("the first set is answered", waitFor([&] { return window.currentView() == window.review(); }));
    waitForWork(window);
    window.actions().get("giveCue")->trigger();
    window.actions().get("film")->trigger();
    // It may have begun by itself already.
    step("the camera stands right", until([&] { return right() || scene().phase == Filming::Phase::Filming; }));
    step("film-session", camera.take("film-session"));
    step("the second set is answered", waitFor([&] { return window.currentView() == window.review(); }));
    waitForWork(window);
    step("film-worked", camera.take("film-worked"));
    // What that set and the one before it came to, side by side, and the client whose words these are.
    window.actions().get("compare")->trigger();
    step("two sets are compared", waitFor([&] { return window.currentView() == window.compare(); }));
    step("both pictures are there", waitFor([&] {
             return window.compare()->stage(false)->hasPicture() && window.compare()->stage(true)->hasPicture();
         }));
    step("compare", camera.take("compare"));
    window.actions().get("compareBack")->trigger();
    store::Client client = window.review()->client();
    client.goals = "Carry a sill stone up the Larkmoor stairs alone.";
    client.emphasis = "heels down, unhurried", client.equipment = "one 16 kg weight, a plank for a wedge",
    client.massKg = 78;
    window.home()->changeClient(client);
    window.actions().get("clientPage")->trigger();
    step("the client's page", waitFor([&] { return window.currentView() == window.client(); }));
    step("client-page", camera.take("client-page"));
    window.actions().get("palette")->trigger();
    window.palette()->field()->setText("set");
    step("palette", camera.take("palette"));
    press(window.palette()->field(), Qt::Key_Escape);
}

}  // namespace

int checkStory(MainWindow& window, const QString& story) {
    window.show();
    window.openDemo(story);
    waitForWork(window);
    return showsWhatWasPlanted(window, story) ? 0 : 1;
}

int runTour(MainWindow& window, const QString& folder) {
    Camera camera(window, folder);
    Steps step;
    auto* review = window.review();
    auto act = [&](const char* id) { window.actions().get(id)->trigger(); };
    QElapsedTimer since;
    since.start();
    window.show();
    window.openDemo();
    // The first set is shown while the others are still being measured.
    if (!waitFor([&] { return window.currentView() == review; }, [&] { return !window.isWorking(); })) {
        std::fprintf(stderr, "the demo could not be shown: %s\n", qPrintable(window.strip()->message()));
        return 1;
    }
    std::printf("first set on the screen after %.1f s\n", static_cast<double>(since.elapsed()) / 1000);
    waitForWork(window);
    step("what was planted is found", showsWhatWasPlanted(window));
    step("marrec-tholby-squat-side.mp4", openClipNamed(window, "marrec-tholby-squat-side.mp4"));

    step("review", camera.take("review"));
    // A marked bar, and what can be put right.
    step("pirrin-skellough-hinge-bar.mp4", openClipNamed(window, "pirrin-skellough-hinge-bar.mp4"));
    press(review, Qt::Key_3);
    review->chooseMeasure("load_ahead_foot");
    act("mark");
    step("correct", camera.take("correct"));
    act("correct");
    step("marrec-tholby-squat-side.mp4", openClipNamed(window, "marrec-tholby-squat-side.mp4"));
    act("nextFinding");
    act("prepare");
    press(review, Qt::Key_1);
    act("skeleton");
    act("look");
    act("units");
    step("review-dark-us", camera.take("review-dark-us"));
    act("skeleton");
    act("look");
    act("units");
    for (const auto& [clip, picture] : {std::pair{"brannoth-veyle-squat-side.mp4", "review-two-views"},
                                        std::pair{"pirrin-skellough-hinge-before.mp4", "review-hinge"}}) {
        step(clip, openClipNamed(window, clip));
        step(picture, camera.take(picture));
    }
    step("brannoth-veyle-squat-side.mp4", openClipNamed(window, "brannoth-veyle-squat-side.mp4"));
    act("aboutSet");
    step("about-this-set", camera.take("about-this-set"));
    press(review->panel(), Qt::Key_Escape);
    act("keys");
    step("keys", camera.take("keys"));
    press(window.keysSheet(), Qt::Key_Escape);
    act("pain");
    step("pain-question", camera.take("pain-question"));
    press(window.question(), Qt::Key_Escape);
    // What hurts a little and where it was felt come before what the picture shows; undone again.
    SetFacts facts = review->document().facts();
    const SetFacts before = facts;
    facts.pain.after = 3, facts.pain.spots = {{"knee-front", BodySide::Right}}, facts.felt = {"knee"};
    review->document().apply(FactsSet{facts}, "tour");
    waitForWork(window);
    review->feltPicker()->toggle();
    step("review-pain", camera.take("review-pain"));
    review->feltPicker()->toggle();
    review->document().apply(FactsSet{before}, "tour");
    waitForWork(window);
    act("home");
    step("clients", camera.take("clients"));
    filmTwoSets(window, camera, step);
    act("home");

    // A file that is no video.
    const QString bad = QDir::temp().filePath("zevo-tour-not-a-video.mp4");
    QFile file(bad);
    if (file.open(QIODevice::WriteOnly))
        file.write("this is not a video, only a few words in a file with the wrong name");
    file.close();
    window.openClip(bad);
    waitForWork(window);
    step("problem", camera.take("problem"));
    QFile::remove(bad);
    return step.good() ? 0 : 1;
}

}  // namespace zevo::app

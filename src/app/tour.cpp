#include "app/tour.h"

#include <QApplication>
#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QKeyEvent>
#include <QPushButton>
#include <cstdio>
#include <functional>
#include <set>
#include <utility>

#include "analysis/demo_maker.h"
#include "app/shell/main_window.h"

namespace zevo::app {
namespace {

bool waitFor(const std::function<bool()>& ready, int seconds) {
    QElapsedTimer since;
    since.start();
    while (!ready() && since.elapsed() < 1000LL * seconds)
        QApplication::processEvents(QEventLoop::WaitForMoreEvents | QEventLoop::AllEvents, 20);
    QApplication::processEvents();
    return ready();
}

void press(QWidget* on, int key, const QString& text = {}, Qt::KeyboardModifiers with = Qt::NoModifier) {
    QKeyEvent down(QEvent::KeyPress, key, with, text), up(QEvent::KeyRelease, key, with, text);
    QApplication::sendEvent(on, &down);
    QApplication::sendEvent(on, &up);
}

class Camera {
  public:
    Camera(MainWindow& window, QString folder) : m_window(window), m_folder(std::move(folder)) {
        QDir().mkpath(m_folder);
    }
    bool take(const QString& name) {
        // A picture counts when the frame asked for is on the stage.
        auto* stage = m_window.review()->stage();
        if (m_window.currentView() == m_window.review())
            waitFor([stage] { return stage->hasPicture() && stage->shownFrame() == stage->frame(); }, 10);
        const QString path = QDir(m_folder).filePath(name + ".png");
        const bool good = m_window.grab().save(path);
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

/// Opens the newest set whose clip has this name.
bool openClipNamed(MainWindow& window, const QString& name) {
    auto library = store::Library::open(window.libraryFolder());
    if (!library) return false;
    const auto clients = library->clients();
    for (const auto& client : *clients)
        if (const auto sets = library->sets(client.id); sets)
            for (const auto& s : *sets)
                if (const auto stored = library->loadSet(s.id); stored && stored->clip.path.endsWith(name)) {
                    window.openSet(s.id);
                    return waitFor([&] { return !window.isWorking(); }, 60);
                }
    return false;
}

/// Opens the demo sets one by one and compares what is found with what their clips were made to show.
bool showsWhatWasPlanted(MainWindow& window, const QString& story = {}) {
    const auto demo = analysis::loadDemo(story.toStdString());
    bool good = bool(demo);
    for (const auto& set : demo ? *demo : std::vector<analysis::DemoSet>()) {
        if (!openClipNamed(window, QString::fromStdString(set.clipName))) {
            std::printf("WRONG %s: not measured\n", set.clipName.c_str());
            good = false;
            continue;
        }
        std::set<std::string> found, planted(set.planted.begin(), set.planted.end());
        for (const auto& f : window.review()->presenter().result().findings)
            if (f.severity != Severity::Unsure) found.insert(f.fault);
        const int reps = window.review()->presenter().countedReps();
        const bool right = found == planted && reps == set.reps;
        std::printf("%s %s: %d of %d reps; planted: %s; found: %s\n", right ? "right" : "WRONG", set.clipName.c_str(),
                    reps, set.reps, qPrintable(list(planted)), qPrintable(list(found)));
        good &= right;
    }
    return good;
}

}  // namespace

int checkStory(MainWindow& window, const QString& story) {
    window.show();
    window.openDemo(story);
    waitFor([&] { return !window.isWorking(); }, 7200);
    if (window.currentView() != window.review()) std::printf("%s\n", qPrintable(window.busy()->message()));
    return showsWhatWasPlanted(window, story) ? 0 : 1;
}

int runTour(MainWindow& window, const QString& folder) {
    Camera camera(window, folder);
    bool good = true;
    window.show();
    window.openDemo();
    if (waitFor([&] { return !window.isWorking() || window.busy()->message().contains("Following"); }, 900) &&
        window.isWorking()) {
        QElapsedTimer some;
        some.start();
        waitFor([&] { return !window.isWorking() || some.elapsed() > 2500; }, 10);
        if (window.isWorking()) good &= camera.take("measuring");
    }
    waitFor([&] { return !window.isWorking(); }, 1800);
    auto* review = window.review();
    if (window.currentView() != review) {
        std::fprintf(stderr, "the demo could not be shown: %s\n", qPrintable(window.busy()->message()));
        return 1;
    }
    good &= showsWhatWasPlanted(window);
    good &= openClipNamed(window, "marrec-tholby-squat-side.mp4");

    good &= camera.take("review");
    press(review, Qt::Key_N);
    press(review, Qt::Key_P);
    good &= camera.take("review-depth");
    press(review, Qt::Key_1);
    press(review, Qt::Key_K);
    press(&window, Qt::Key_D);
    press(&window, Qt::Key_U);
    good &= camera.take("review-dark-us");
    press(review, Qt::Key_K);
    press(&window, Qt::Key_D);
    press(&window, Qt::Key_U);
    for (const auto& [clip, picture] : {std::pair{"brannoth-veyle-squat-side.mp4", "review-two-views"},
                                        std::pair{"ottelie-grevask-lunge-before.mp4", "review-lunge"},
                                        std::pair{"pirrin-skellough-hinge-before.mp4", "review-hinge"},
                                        std::pair{"wennock-harrasby-bridge-before.mp4", "review-bridge"}}) {
        good &= openClipNamed(window, clip);
        good &= camera.take(picture);
    }
    good &= openClipNamed(window, "brannoth-veyle-squat-side.mp4");
    press(review, Qt::Key_T);
    good &= camera.take("about-this-set");
    press(review->panel(), Qt::Key_Escape);
    press(&window, Qt::Key_Question, "?");
    good &= camera.take("keys");
    press(window.keysSheet(), Qt::Key_Escape);
    press(&window, Qt::Key_Exclam, "!");
    good &= camera.take("stop-rules");
    press(window.stopSheet(), Qt::Key_Escape);
    press(&window, Qt::Key_H);
    good &= camera.take("clients");

    // A file that is no video.
    const QString bad = QDir::temp().filePath("zevo-tour-not-a-video.mp4");
    QFile file(bad);
    if (file.open(QIODevice::WriteOnly))
        file.write("this is not a video, only a few words in a file with the wrong name");
    file.close();
    window.openClip(bad);
    waitFor([&] { return !window.isWorking(); }, 30);
    good &= camera.take("problem");
    QFile::remove(bad);
    return good ? 0 : 1;
}

}  // namespace zevo::app

// zevo: the window. See --help.
#include <QCommandLineParser>
#include <QDir>
#include <QStandardPaths>
#include <cstdio>

#include "app/shell/application.h"
#include "app/shell/main_window.h"
#include "app/tour.h"
#include "record/one_writer.h"
#include "store/log.h"

int main(int argc, char** argv) {
    zevo::app::Application application(argc, argv);
    QApplication::setApplicationName("zevo");
    QApplication::setApplicationVersion(ZEVO_VERSION);
    QCommandLineParser parser;
    parser.setApplicationDescription(
        "Zevo measures squats, lunges, hinges and bridges from a coach's video and says what to correct. Everything "
        "stays on this computer.");
    parser.addHelpOption();
    parser.addVersionOption();
    const QCommandLineOption library("library", "Keep the clients' record in FOLDER.", "FOLDER");
    const QCommandLineOption demo("demo", "Show the demo clients.");
    const QCommandLineOption tour("tour", "Drive the demo, write pictures of the views into FOLDER, and end.",
                                  "FOLDER");
    const QCommandLineOption story("story", "Make and measure the sets of FILE, compare them with it, and end.",
                                   "FILE");
    parser.addOptions({library, demo, tour, story});
    parser.addPositionalArgument("clip", "A video to measure.", "[clip]");
    parser.process(application);

    const bool isDemo = parser.isSet(demo) || parser.isSet(tour) || parser.isSet(story);
    const QString base = QStandardPaths::writableLocation(QStandardPaths::GenericDataLocation);
    const QString folder =
        parser.isSet(library) ? parser.value(library) : QDir(base).filePath(isDemo ? "zevo-demo" : "zevo");
    auto opened = zevo::record::holdLibrary(folder);
    if (!opened) {
        std::fprintf(stderr, "%s\n%s\n", qPrintable(zevo::present::sentence(opened.error())), qPrintable(folder));
        return 1;
    }
    const zevo::store::CaughtMessages caught{zevo::store::Log(folder)};
    zevo::app::installFonts();
    zevo::app::MainWindow window(std::move(opened->library));
    application.setOnCaught([&window](const zevo::Error& error) { window.caught(error); });
    if (parser.isSet(tour)) return zevo::app::runTour(window, parser.value(tour));
    if (parser.isSet(story)) return zevo::app::checkStory(window, parser.value(story));
    window.show();
    if (isDemo)
        window.openDemo();
    else if (!parser.positionalArguments().isEmpty())
        window.openClip(parser.positionalArguments().front(), true);
    return QApplication::exec();
}

// zevo-cli: the same analysis without a window, and the library without one.
#include <QCoreApplication>
#include <csignal>
#include <cstdio>

#include "cli/command.h"

namespace zevo::cli {
namespace {

std::atomic<bool> g_cancel{false};  // set by Ctrl-C

int run(QStringList arguments) {
    arguments.removeFirst();
    const QString name = arguments.isEmpty() ? QString() : arguments.takeFirst();
    if (name == "--help" || name == "-h" || name == "help") {
        std::fputs(qPrintable(help()), stdout);
        return kDone;
    }
    for (const Command& c : commands()) {
        if (name != c.name) continue;
        if (arguments.contains("--help")) {
            std::fputs(qPrintable(help(c.name)), stdout);
            return kDone;
        }
        QCommandLineParser call;
        call.addOptions(c.options);
        if (!call.parse(QStringList{"zevo-cli"} + arguments)) return usage(call.errorText(), c.name);
        return c.run(call, call.positionalArguments(), g_cancel);
    }
    return usage(name.isEmpty() ? QString("Name a command.") : QString("There is no command %1.").arg(name));
}

}  // namespace

}  // namespace zevo::cli

int main(int argc, char** argv) {
    std::signal(SIGINT, [](int) { zevo::cli::g_cancel = true; });
    const QCoreApplication application(argc, argv);  // databases and their drivers need one
    return zevo::cli::run(QCoreApplication::arguments());
}

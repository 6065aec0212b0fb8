// zevo-cli: the same analysis without a window, and the library without one.
#include <QCoreApplication>
#include <array>
#include <csignal>
#include <cstdio>

#include "cli/command.h"

namespace zevo::cli {
namespace {

std::atomic<bool> g_cancel{false};  // set by Ctrl-C

std::array<Command, 6> commands() {
    return {analyseCommand(),   simulateCommand(), movementsCommand(),
            demoClipsCommand(), libraryCommand(),  calibrationCommand()};
}

QString lineOf(const Command& c) {
    return QString("zevo-cli %1 %2").arg(c.name, c.synopsis).trimmed();
}

/// Every command with what it does; of one, its options too.
QString help(const char* only = nullptr) {
    QString out;
    for (const Command& c : commands()) {
        const bool whole = only && !qstrcmp(only, c.name);
        if (only && !whole) continue;
        out += lineOf(c) + "\n    " + c.summary + '\n';
        if (!whole) continue;
        for (const auto& option : c.options) {
            const QString fallback = option.defaultValues().value(0);
            out += QString("  --%1 <%2>  %3%4\n")
                       .arg(option.names().constFirst(), option.valueName(), option.description(),
                            fallback.isEmpty() ? QString() : QString(" Otherwise %1.").arg(fallback));
        }
    }
    if (!only) out += "zevo-cli COMMAND --help lists a command's options.\n";
    return out +
           "Exit code 0: done; 2: bad usage; 3: it cannot be judged or done (one sentence on standard error says "
           "why).\n";
}

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

int usage(const QString& problem, const char* command) {
    std::fprintf(stderr, "%s\n%s", qPrintable(problem), qPrintable(help(command)));
    return kUsage;
}

}  // namespace zevo::cli

int main(int argc, char** argv) {
    std::signal(SIGINT, [](int) { zevo::cli::g_cancel = true; });
    const QCoreApplication application(argc, argv);  // databases and their drivers need one
    return zevo::cli::run(QCoreApplication::arguments());
}

#include "cli/command.h"

#include <cstdio>

#include "core/base/number_text.h"
#include "present/words.h"

namespace zevo::cli {

std::vector<Command> commands() {
    return {analyseCommand(),   simulateCommand(), movementsCommand(),
            demoClipsCommand(), libraryCommand(),  calibrationCommand()};
}

QString help(const char* only) {
    QString out;
    for (const Command& c : commands()) {
        const bool whole = only && !qstrcmp(only, c.name);
        if (only && !whole) continue;
        out += QString("zevo-cli %1 %2").arg(c.name, c.synopsis).trimmed() + "\n    " + c.summary + '\n';
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

int usage(const QString& problem, const char* command) {
    std::fprintf(stderr, "%s\n%s", qPrintable(problem), qPrintable(help(command)));
    return kUsage;
}

int usage(const Error& problem, const char* command) {
    return usage(present::sentence(problem), command);
}

int refuse(const QString& why) {
    std::fprintf(stderr, "%s\n", qPrintable(why));
    return kRefused;
}
int refuse(const Error& error) {
    return refuse(present::sentence(error));
}

Result<double> statureOf(const QCommandLineParser& call) {
    if (call.value("stature") == "0") return 0.0;
    return numberOf(call, "stature", 80, 250, "The stature must be a number of centimetres");
}

Result<double> numberOf(const QCommandLineParser& call, const char* option, int from, int to, const char* what) {
    if (!call.isSet(option)) return 0.0;
    const auto v = numberFrom(call.value(option).toStdString());
    if (!v || !(*v >= from && *v <= to))
        return Error{std::string(what) + " between " + std::to_string(from) + " and " + std::to_string(to) + ".",
                     std::string("--") + option};
    return *v;
}

}  // namespace zevo::cli

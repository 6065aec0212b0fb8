#include "cli/command.h"

#include "core/base/number_text.h"
#include "present/words.h"

namespace zevo::cli {

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

Result<double> numberOf(const QCommandLineParser& call, const char* option, int from, int to, const char* what) {
    if (!call.isSet(option)) return 0.0;
    const auto v = numberFrom(call.value(option).toStdString());
    if (!v || !(*v >= from && *v <= to))
        return Error{std::string(what) + " between " + std::to_string(from) + " and " + std::to_string(to) + ".",
                     std::string("--") + option};
    return *v;
}

}  // namespace zevo::cli

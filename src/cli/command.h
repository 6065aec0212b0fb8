#pragma once

#include <QCommandLineParser>
#include <QStringList>
#include <atomic>
#include <vector>

#include "core/base/result.h"

namespace zevo::cli {

/// What zevo-cli ends with.
enum Exit { kDone = 0, kUsage = 2, kRefused = 3 };

/// One command of zevo-cli. Its options are read by Qt, values in the C locale; --help after a command lists them.
struct Command {
    const char* name;
    const char* synopsis;  ///< what follows the name
    const char* summary;   ///< a sentence or two
    QList<QCommandLineOption> options;
    /// Does it. `plain`: the arguments that are no options. `cancel` is set by Ctrl-C.
    int (*run)(const QCommandLineParser& call, const QStringList& plain, const std::atomic<bool>& cancel);
};

Command analyseCommand();
Command simulateCommand();
Command movementsCommand();
Command demoClipsCommand();
Command libraryCommand();
Command calibrationCommand();

/// All of them.
std::vector<Command> commands();
/// Every command with what it does; of one, its options too.
QString help(const char* only = nullptr);

/// Says on standard error what is wrong with a call, and how `command` (all of them: null) is used.
int usage(const QString& problem, const char* command = nullptr);
int usage(const Error& problem, const char* command);
/// Says on standard error, in one line, why something cannot be done.
int refuse(const QString& why);
int refuse(const Error& error);

/// What --stature says, in centimetres; 0 where it says nothing, or 0.
Result<double> statureOf(const QCommandLineParser& call);
/// A number between two bounds; nothing said: 0. Error: "`what` between … and …."
Result<double> numberOf(const QCommandLineParser& call, const char* option, int from, int to, const char* what);

}  // namespace zevo::cli

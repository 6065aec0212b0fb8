#pragma once

#include <QString>

namespace zevo::app {

class MainWindow;

/// Drives the window through the demo as a coach would, writes a picture of each view into `folder`, and compares
/// what Zevo found in the demo clips with what was planted in them. Returns the exit code: 0 when they are the same.
int runTour(MainWindow& window, const QString& folder);

/// Makes and measures the clips of another story (a file like the demo's) in the window, opens each set and compares
/// repetitions and faults with what the story says; prints a line for each. Returns 0 when all are right.
int checkStory(MainWindow& window, const QString& story);

}  // namespace zevo::app

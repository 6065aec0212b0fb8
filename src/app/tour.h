#pragma once

#include <QString>

namespace zevo::app {

class MainWindow;

/// Drives the window through the demo as a coach would, writes a picture of each view into `folder`, and compares
/// what Zevo found in the demo clip with what was planted in it. Returns the exit code: 0 when they are the same.
int runTour(MainWindow& window, const QString& folder);

}  // namespace zevo::app

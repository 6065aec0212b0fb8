#pragma once

#include <QApplication>
#include <functional>

#include "core/base/result.h"

namespace zevo::app {

/// The program. What a handler throws ends that handler and nothing else: it is written down and said, and the window
/// goes on. Labels show what they are given letter by letter, unless they were made for rich text: names, notes, and
/// titles of imported files never become markup.
class Application : public QApplication {
    Q_OBJECT
  public:
    Application(int& argc, char** argv);
    /// Hears of what was caught; on the window's thread.
    void setOnCaught(std::function<void(const Error&)> onCaught) { m_onCaught = std::move(onCaught); }

    bool notify(QObject* receiver, QEvent* event) override;

  private:
    std::function<void(const Error&)> m_onCaught;
};

/// The same for labels alone, wherever the application object comes from.
void showLabelsAsPlainText(QCoreApplication& application);

}  // namespace zevo::app

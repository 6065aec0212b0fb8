#pragma once

#include <QFrame>
#include <utility>
#include <vector>

#include "app/theme/theme.h"

class QScrollArea;

namespace zevo::app {

/// A page laid over the window: rows of a short left and a longer right text. Esc, Enter or a click closes it.
class Sheet : public QFrame {
    Q_OBJECT
  public:
    using Rows = std::vector<std::pair<QString, QString>>;
    Sheet(const QString& title, const Rows& rows, const QString& foot, QWidget* parent);
    void setTheme(const Theme& theme);
    /// Shows or hides it, filling its parent.
    void toggle();

  protected:
    void keyPressEvent(QKeyEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void paintEvent(QPaintEvent*) override;

  private:
    Theme m_theme = lightTheme();
    QScrollArea* m_scroll;
};

/// When to stop, ask and refer.
Sheet::Rows stopRows();

}  // namespace zevo::app

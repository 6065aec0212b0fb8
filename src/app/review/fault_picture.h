#pragma once

#include <QWidget>

#include "app/theme/theme.h"
#include "present/paint/fault_figure.h"

namespace zevo::app {

/// What a fault means, as a small figure beside its card.
class FaultPicture : public QWidget {
    Q_OBJECT
  public:
    explicit FaultPicture(QWidget* parent);
    void setTheme(const Theme& theme);
    /// An empty `figure` hides it.
    void setFault(const QString& figure, const present::Turned& turned);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    Theme m_theme = lightTheme();
    QString m_figure;
    present::Turned m_turned;
};

}  // namespace zevo::app

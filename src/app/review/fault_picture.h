#pragma once

#include <QPolygonF>
#include <QWidget>
#include <map>
#include <string>
#include <vector>

#include "app/theme/theme.h"

namespace zevo::app {

/// What a fault means, as a small figure: how it is meant to be (dashed), and what was seen instead.
class FaultPicture : public QWidget {
    Q_OBJECT
  public:
    using Turned = std::map<std::string, double>;
    explicit FaultPicture(QWidget* parent);
    void setTheme(const Theme& theme);
    /// `figure`: squat, start, top, hinge, lunge, bridge or front; empty hides it. `turned`: what differs, by name.
    void setFault(const QString& figure, const Turned& turned);
    /// Lines of a figure, in a square of 100 from the upper left; none for a figure that is not known.
    static std::vector<QPolygonF> linesOf(const QString& figure, const Turned& turned);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    Theme m_theme = lightTheme();
    QString m_figure;
    Turned m_turned;
};

}  // namespace zevo::app

#pragma once

#include <QWidget>

#include "app/theme/theme.h"
#include "present/review_presenter.h"

namespace zevo::app {

using present::Lengths;
using present::ReviewPresenter;

/// The chosen measure over the chosen rep with the standard's band behind it, the other reps faint, and a cursor
/// locked to the video. Dragging moves the video.
class CurvePlot : public QWidget {
    Q_OBJECT
  public:
    explicit CurvePlot(QWidget* parent = nullptr);
    void setTheme(const Theme& theme);
    void setCurve(const ReviewPresenter::Curve& curve, Lengths lengths);
    void setCursor(double timeS);
    double cursorS() const { return m_cursor; }
    QRectF plotRect() const;
    QSize sizeHint() const override { return {768, 132}; }
    QSize minimumSizeHint() const override { return {300, 120}; }

  signals:
    void timeWanted(double timeS);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;

  private:
    double valueAt(double timeS) const;
    void wantAt(double x);

    Theme m_theme = lightTheme();
    Lengths m_lengths = Lengths::Metric;
    ReviewPresenter::Curve m_curve;
    double m_cursor = 0, m_from = 0, m_to = 1, m_low = 0, m_high = 1;
};

}  // namespace zevo::app

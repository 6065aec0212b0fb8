#pragma once

#include <QWidget>

#include "app/theme/theme.h"
#include "present/compare_presenter.h"

namespace zevo::app {

/// One measure of both sides over the phase of the repetition, and the one scrubber for both: before dashed, after
/// drawn through, the standard's band behind them. Dragging, arrows, Home and End move the phase.
class PhasePlot : public QWidget {
    Q_OBJECT
  public:
    explicit PhasePlot(QWidget* parent);
    void setTheme(const Theme& theme);
    void setCurve(const present::ComparePresenter::Curve& curve, present::Lengths lengths);
    void setPhase(double phase);
    double phase() const { return m_phase; }
    QRectF plotRect() const;
    QSize sizeHint() const override { return {600, 190}; }
    QSize minimumSizeHint() const override { return {260, 110}; }

  signals:
    void phaseWanted(double phase);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

  private:
    void wantAt(double x);

    Theme m_theme = lightTheme();
    present::Lengths m_lengths = present::Lengths::Metric;
    present::ComparePresenter::Curve m_curve;
    double m_phase = 1.5, m_low = 0, m_high = 1;
};

}  // namespace zevo::app

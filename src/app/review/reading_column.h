#pragma once

#include <QWidget>
#include <vector>

#include "app/theme/theme.h"
#include "present/review_presenter.h"

namespace zevo::app {

using present::Lengths;
using present::ReviewPresenter;

/// The measures of one repetition, worst first: each as value ± on its own little scale with the standard's band,
/// the ± as a bar and the set's usual range as a faint bar. The chosen one stands in two lines with all its words, the
/// others in one, so that most are seen at once. Click or arrow keys choose one.
class ReadingColumn : public QWidget {
    Q_OBJECT
  public:
    explicit ReadingColumn(QWidget* parent = nullptr);
    void setTheme(const Theme& theme);
    void setReadings(std::vector<ReviewPresenter::Reading> readings, const QString& current, Lengths lengths);
    QRectF rowRect(int row) const;
    int rows() const { return static_cast<int>(m_readings.size()); }
    const ReviewPresenter::Reading& reading(int row) const { return m_readings[static_cast<std::size_t>(row)]; }
    QSize sizeHint() const override;

  signals:
    void chosen(const QString& measure);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    bool event(QEvent*) override;

  private:
    int currentRow() const;
    int rowAt(double y) const;
    double heightOf(int row) const;
    void drawRow(QPainter& p, int row) const;
    void drawScale(QPainter& p, const QRectF& box, const ReviewPresenter::Reading& r) const;

    Theme m_theme = lightTheme();
    Lengths m_lengths = Lengths::Metric;
    std::vector<ReviewPresenter::Reading> m_readings;
    QString m_current;
};

}  // namespace zevo::app

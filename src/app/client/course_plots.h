#pragma once

#include <QWidget>

#include "app/theme/theme.h"
#include "present/words.h"
#include "record/client_file.h"

namespace zevo::app {

/// Small curves, one a measure: a dot a set over the days with its ±, what sets differ by when nothing changes as a
/// band around the last one, the school's band and the client's own target. Enter or a click opens the newest set of
/// one.
class CoursePlots : public QWidget {
    Q_OBJECT
  public:
    explicit CoursePlots(QWidget* parent);
    void setTheme(const Theme& theme);
    void setCourses(std::vector<record::Course> courses, present::Lengths lengths);
    QRectF plotRect(int course) const;
    QSize sizeHint() const override;

  signals:
    void setWanted(zevo::store::SetId id);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void resizeEvent(QResizeEvent*) override;

  private:
    int columns() const;

    Theme m_theme = lightTheme();
    present::Lengths m_lengths = present::Lengths::Metric;
    std::vector<record::Course> m_courses;
};

}  // namespace zevo::app

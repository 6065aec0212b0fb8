#pragma once

#include <QDate>
#include <QString>
#include <optional>
#include <vector>

#include "core/measures/measure.h"
#include "present/paint/look.h"
#include "present/words.h"

class QPainter;

namespace zevo::present {

/// One measure of one movement over the days, as it is drawn.
struct CoursePicture {
    QString movementTitle;
    MeasureId measure;
    struct Point {
        QDate day;
        double value = 0, pm90 = 0;  ///< median; 90 % half width of the mean from the repetitions' own scatter
    };
    std::vector<Point> points;  ///< oldest first; one a set
    /// What sets differ by when nothing changes: the median of those half widths or, where the client's sets with
    /// nothing said or changed in between tell more, what those differ by.
    double noise = 0;
    std::optional<double> target, min, max;  ///< the client's own; the edges of their school's band
};

/// A dot a set over the days with its ±, what sets differ by when nothing changes as a band around the last one, the
/// school's band and the client's own target. `course` has a point at least.
void drawCourse(QPainter& p, const QRectF& box, const CoursePicture& course, Lengths lengths, const Theme& theme);

}  // namespace zevo::present

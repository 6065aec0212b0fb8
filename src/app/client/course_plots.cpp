#include "app/client/course_plots.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

namespace zevo::app {
namespace {

constexpr double kHeight = 118, kLeast = 230, kGap = 10;

}  // namespace

CoursePlots::CoursePlots(QWidget* parent) : QWidget(parent) {
    setObjectName("courses");
    setAccessibleName(tr("Course over the weeks"));
}

void CoursePlots::setTheme(const Theme& theme) {
    m_theme = theme;
    update();
}

void CoursePlots::setCourses(std::vector<record::Course> courses, present::Lengths lengths) {
    m_courses = std::move(courses);
    m_lengths = lengths;
    QStringList spoken;
    for (const record::Course& course : m_courses) {
        const present::CoursePicture& c = course.picture;
        spoken.append(
            tr("%1, %2: last %3")
                .arg(c.movementTitle, QString::fromUtf8(c.measure->title),
                     present::readingText(c.measure, c.points.back().value, c.points.back().pm90, m_lengths)));
    }
    setAccessibleDescription(spoken.join(". "));
    setMinimumHeight(sizeHint().height());
    update();
}

int CoursePlots::columns() const {
    return std::max(1, static_cast<int>((width() + kGap) / (kLeast + kGap)));
}

QSize CoursePlots::sizeHint() const {
    const int rows = (static_cast<int>(m_courses.size()) + columns() - 1) / columns();
    return {500, static_cast<int>(rows * (kHeight + kGap))};
}

void CoursePlots::resizeEvent(QResizeEvent*) {
    setMinimumHeight(sizeHint().height());
}

QRectF CoursePlots::plotRect(int course) const {
    const int n = columns();
    const double w = (width() - kGap * (n - 1)) / n;
    return {(course % n) * (w + kGap), (course / n) * (kHeight + kGap), w, kHeight};
}

void CoursePlots::paintEvent(QPaintEvent* e) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    for (int i = 0; i < static_cast<int>(m_courses.size()); ++i)
        if (plotRect(i).intersects(e->rect()))
            present::drawCourse(p, plotRect(i), m_courses[static_cast<std::size_t>(i)].picture, m_lengths, m_theme);
}

void CoursePlots::mousePressEvent(QMouseEvent* e) {
    for (int i = 0; i < static_cast<int>(m_courses.size()); ++i)
        if (plotRect(i).contains(e->position())) emit setWanted(m_courses[static_cast<std::size_t>(i)].sets.back());
}

}  // namespace zevo::app

#include "app/review/fault_picture.h"

#include <QPainter>

namespace zevo::app {

FaultPicture::FaultPicture(QWidget* parent) : QWidget(parent) {
    setFixedSize(80, 80);
    setAccessibleName(tr("What is meant"));
    hide();
}

void FaultPicture::setTheme(const Theme& theme) {
    m_theme = theme;
    update();
}

void FaultPicture::setFault(const QString& figure, const present::Turned& turned) {
    m_figure = figure;
    m_turned = turned;
    setVisible(!figure.isEmpty());
    update();
}

void FaultPicture::paintEvent(QPaintEvent*) {
    QPainter p(this);
    present::drawFault(p, rect(), m_figure, m_turned, m_theme);
}

}  // namespace zevo::app

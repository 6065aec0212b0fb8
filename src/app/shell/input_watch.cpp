#include "app/shell/input_watch.h"

#include <QCoreApplication>
#include <QEvent>

namespace zevo::app {

InputWatch::InputWatch(QObject* parent) : QObject(parent) {
    QCoreApplication::instance()->installEventFilter(this);
}

bool InputWatch::eventFilter(QObject* watched, QEvent* event) {
    switch (event->type()) {
        case QEvent::KeyPress:
        case QEvent::MouseButtonPress:
        case QEvent::TouchBegin:
        case QEvent::Wheel: m_touched = true; break;
        default: break;
    }
    return QObject::eventFilter(watched, event);
}

}  // namespace zevo::app

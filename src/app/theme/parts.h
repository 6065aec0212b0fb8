#pragma once

#include <QPushButton>
#include <QScrollArea>

#include "app/theme/theme.h"

namespace zevo::app {

// Parts of pages that look the same everywhere.

/// A small round-ended button that can stand in a row with others.
inline QPushButton* chip(QWidget* parent, const QString& name, const QString& text) {
    auto* b = new QPushButton(text, parent);
    b->setObjectName(name);
    b->setProperty("kind", "chip");
    b->setFont(textFont(14));
    b->setFocusPolicy(Qt::TabFocus);
    return b;
}

/// Something higher than its page, on the page's own ground. `inside` has to have a name.
inline QScrollArea* scrolled(QWidget* inside, QWidget* parent) {
    auto* area = new QScrollArea(parent);
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    area->setFocusPolicy(Qt::NoFocus);
    area->setWidget(inside);
    for (QWidget* w : {area->viewport(), inside}) w->setAutoFillBackground(false);
    inside->setStyleSheet("#" + inside->objectName() + " { background: transparent }");
    return area;
}

}  // namespace zevo::app

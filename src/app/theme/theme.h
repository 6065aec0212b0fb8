#pragma once

#include <QIcon>
#include <QString>

#include "present/paint/look.h"

class QApplication;

namespace zevo::app {

using present::darkTheme;
using present::lightTheme;
using present::textFont;
using present::Theme;

/// Loads the shipped type family and makes it the application's; call once, before the first widget.
void installFonts();
/// Palette and widget styles for the whole application.
void applyTheme(QApplication& app, const Theme& theme);

/// A shipped icon in the theme's ink (or on the accent).
QIcon icon(const QString& name, const QColor& colour);

}  // namespace zevo::app

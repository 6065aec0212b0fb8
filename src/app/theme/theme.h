#pragma once

#include <QColor>
#include <QFont>
#include <QIcon>
#include <QString>

class QApplication;
class QPainter;

namespace zevo::app {

/// Colours of one look. State is told by shape and place first; these only support it.
struct Theme {
    bool dark = false;
    QColor paper, panel, sunken;  ///< window, cards, wells
    QColor ink, faint, line;      ///< text, second text, hairlines
    QColor accent, onAccent;      ///< the one accent and text on it
    QColor band, ghost;           ///< a standard's band; target lines
    QColor outside;               ///< marks of what is out of its band
};

Theme lightTheme();
Theme darkTheme();

/// Loads the shipped type family and makes it the application's; call once, before the first widget.
void installFonts();
/// Palette and widget styles for the whole application.
void applyTheme(QApplication& app, const Theme& theme);

/// The type family at a size in pixels of the 1280 × 800 design.
QFont textFont(int pixels, bool bold = false);
/// A shipped icon in the theme's ink (or on the accent).
QIcon icon(const QString& name, const QColor& colour);

}  // namespace zevo::app

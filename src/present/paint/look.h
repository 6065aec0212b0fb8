#pragma once

#include <QColor>
#include <QFont>

namespace zevo::present {

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

/// The type family at a size in pixels of the 1280 × 800 design.
QFont textFont(int pixels, bool bold = false);

}  // namespace zevo::present

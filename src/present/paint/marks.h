#pragma once

#include <QPainter>

#include "core/judge/findings.h"
#include "present/paint/look.h"

namespace zevo::present {

/// The sign of a verdict, told by shape: a dot inside the band, a chevron pointing the way it missed (right = above,
/// left = below; `vertical` turns it: up = above), a hollow ring when unsure.
void drawMark(QPainter& p, const QPointF& centre, double size, Verdict verdict, bool above, const Theme& theme,
              bool vertical = false);

/// Text with a halo, so that it reads on any picture.
void drawHaloText(QPainter& p, const QPointF& at, const QString& text, const QFont& font, const QColor& ink,
                  const QColor& halo);

}  // namespace zevo::present

#pragma once

#include <QTransform>

#include "present/overlay.h"
#include "present/paint/look.h"

class QPainter;

namespace zevo::present {

// Lines and words over a picture, on any device. `place`: from picture pixels of the clip to the device.

/// Under a line or a word, so that it reads on any picture.
inline const QColor kShade(0, 0, 0, 150), kPlate(18, 22, 24, 215);

/// The measured lines of one reading, with the standard's edge, its arc and the joints it rests on.
void drawReading(QPainter& p, const Overlay& overlay, const QTransform& place, const Theme& theme);
/// The whole tracked figure, thin.
void drawSkeleton(QPainter& p, const Overlay& skeleton, const QTransform& place);
/// Another figure over this one.
void drawGhost(QPainter& p, const Overlay& ghost, const QTransform& place, const Theme& theme);

/// Where a reading's number stands, in the device: beside the body over the whole repetition (picture pixels; empty:
/// beside the joint), on the side with more room, so that it neither covers what it speaks of nor runs about while the
/// picture plays. `picture`: where the picture lies in the device. Empty where there is nothing to say.
QRectF numberPlate(const QString& label, const Overlay& overlay, const QRectF& body, const QRectF& picture,
                   const QTransform& place);
/// The number on its plate; a thin line leads from it to the nearest joint it speaks of.
void drawNumberPlate(QPainter& p, const QString& label, const Overlay& overlay, const QRectF& plate,
                     const QTransform& place);
/// A word that is pinned to a moment, at the lower left of the picture.
void drawNote(QPainter& p, const QString& note, const QRectF& picture);
/// A point that was marked: a lozenge with a dot, which no point of the body looks like. Hollow and dashed where it was
/// lost, and its last place is shown; `name` beside it, empty for none.
void drawMarkedPoint(QPainter& p, const QPointF& at, bool lost, const QString& name, const Theme& theme);

}  // namespace zevo::present

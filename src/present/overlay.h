#pragma once

#include <QLineF>
#include <QPointF>
#include <QRectF>
#include <QString>
#include <optional>
#include <vector>

#include "core/judge/standard.h"
#include "core/measures/measure.h"
#include "core/track/track.h"

namespace zevo::present {

/// What is drawn on the body for one measure at one moment. Picture pixels of the clip.
struct Overlay {
    std::vector<QLineF> lines;   ///< measured segments, near side
    std::vector<QLineF> ghosts;  ///< where the standard's edge, the vertical or the floor lies
    struct Arc {
        QPointF centre;
        double fromDeg = 0, spanDeg = 0;  ///< anticlockwise from the picture's right, as QPainter counts
    };
    std::optional<Arc> arc;
    std::vector<QPointF> dots;  ///< joints the reading rests on
    QPointF label;              ///< where its number stands
};

/// The lines of one measure (its sketch in the table of measures) in the view of the track. `band` may be null; `leg`:
/// the one the measure is about, the near one when nothing is said; `back`, `marks`: the line of the back and the
/// points the coach marked, where there are any.
Overlay overlayFor(MeasureId measure, const Track& track, std::size_t sample, const Band* band,
                   std::optional<Side> leg = std::nullopt, const BackLine* back = nullptr,
                   const MarkLines* marks = nullptr);

/// The whole tracked figure, to check the tracking: near-side lines in `lines`, far-side ones in `ghosts`.
Overlay skeletonOverlay(const Track& track, std::size_t sample);

/// The part of the picture the body is in over a stretch of samples, with a little air.
QRectF bodyOver(const Track& track, std::size_t from, std::size_t to);

/// Another figure over this one: the whole figure of `other`, its hip on the hip that is shown, as large as this client
/// is here. Tracks face the same way, so that who was filmed from their other side is mirrored; `mirrored`: once more,
/// for the other leg seen from the front. With its `outline` (the other's picture) that is drawn as a ghost as well.
Overlay figureOver(const Track& shown, std::size_t sample, const Track& other, std::size_t otherSample,
                   bool mirrored = false, const Outline* outline = nullptr);

}  // namespace zevo::present

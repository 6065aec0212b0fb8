#include "core/series/view_series.h"

namespace zevo {

ViewSeries computeViewSeries(const Track& track) {
    ViewSeries out;
    out.side = computeSeries(track);
    if (isFrontal(track.view) || track.view == ViewKind::FootEnd) out.front = computeFrontSeries(track);
    out.levelDoubtDeg = levelDoubt(track, out.side);
    return out;
}

}  // namespace zevo

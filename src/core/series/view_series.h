#pragma once

#include <optional>

#include "core/series/front_series.h"
#include "core/series/series.h"

namespace zevo {

/// The courses of one view of a set, all on that view's own samples: no index of it means anything in another view.
struct ViewSeries {
    Series side;                       ///< of every view; sagittal quantities mean something from the side only
    std::optional<FrontSeries> front;  ///< from the front, from behind and from the foot end
    double levelDoubtDeg = 0;          ///< levelDoubt()
};

ViewSeries computeViewSeries(const Track& track);

}  // namespace zevo

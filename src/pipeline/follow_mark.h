#pragma once

#include <atomic>
#include <string>

#include "core/base/result.h"
#include "core/marks/marks.h"
#include "core/session/session.h"
#include "pipeline/analyse_clip.h"

namespace zevo::pipeline {

/// Where a mark is worth following: the repetitions with a second either side, and every click.
Span markedSpan(const MeasuredView& view, const Mark& mark);

/// Follows a marked point through a stretch of its clip, from every click both ways (vision/point_follower.h), and puts
/// the path into the mark. What is beyond the last click is followed back from its end as well: where the way back does
/// not come home, the point is lost from where it had strayed more than 3 pixels (of the pictures as they are read, at
/// most kWidestFrame wide). Between two clicks both ways must nowhere be further apart. A stretch that was lost has no
/// places: a gap, which one more click repairs. `pictureWidth`: of the clip's own pictures, in whose pixels clicks and
/// path are.
///
/// Three ways through the stretch at most, in pieces of bounded size. Errors: the clip cannot be read, a click on a
/// place that looks like its surroundings, stopped.
Result<Mark> followMark(const std::string& clip, Mark mark, const Span& within, int pictureWidth,
                        const std::atomic<bool>& cancel, const OnProgress& progress = {});

}  // namespace zevo::pipeline

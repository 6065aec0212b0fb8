#pragma once

#include <optional>

#include "core/session/measured_set.h"

namespace zevo {

/// What a view by itself does not tell; nothing for the side.
std::optional<NoticeKind> viewNotice(ViewKind view);

/// A bar on the back lies over it, and so do the plates of a bar on the floor.
bool backIsCovered(const SetContext& context);

/// Notices of one measured view, made anew: what its camera, its networks, the back that was not read and lost marks
/// leave open. Its track, series, repetitions, back and marks must be there. Pure; safe on every thread.
void sayWhatLimits(MeasuredView& view, const SetContext& context);

}  // namespace zevo

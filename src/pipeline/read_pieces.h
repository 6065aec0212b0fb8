#pragma once

#include "core/session/session.h"
#include "pipeline/kept_pieces.h"

namespace zevo::pipeline {

/// The second pass over what was kept while the frames went by: shoes and heads, side by side.
void readPieces(const AllPieces& pieces, const MeasuredView& found, Observation& seen);

}  // namespace zevo::pipeline

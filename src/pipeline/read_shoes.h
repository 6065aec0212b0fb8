#pragma once

#include "core/session/session.h"
#include "pipeline/kept_pieces.h"

namespace zevo::pipeline {

/// Reads the rise of heel and toe of the near shoe in every repetition of `found`, into the poses it
/// was found in.
void readShoes(const AllPieces& pieces, const MeasuredView& found, Observation& seen);

}  // namespace zevo::pipeline

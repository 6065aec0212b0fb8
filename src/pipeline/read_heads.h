#pragma once

#include "core/session/session.h"
#include "pipeline/kept_pieces.h"

namespace zevo::pipeline {

/// Reads how far the head has turned at every turning point of `found` since the client stood before the repetitions
/// (vision/head_turn.h), into the poses nearest to it. Only from the side, and not of clients who lie: elsewhere the
/// head is not seen in profile, and no measure asks.
void readHeads(const AllPieces& pieces, const MeasuredView& found, Observation& seen);

}  // namespace zevo::pipeline

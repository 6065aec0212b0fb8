#pragma once

#include <QByteArray>

#include "core/result.h"
#include "store/records.h"

namespace zevo::store {

/// Poses of a clip as a compressed, versioned block (little endian, 32-bit floats).
QByteArray packPoses(const PoseFrames& poses);
/// Error: damaged or of a newer Zevo.
Result<PoseFrames> unpackPoses(const QByteArray& block);

QByteArray packOutlines(const std::vector<Outline>& outlines);
Result<std::vector<Outline>> unpackOutlines(const QByteArray& block);

}  // namespace zevo::store

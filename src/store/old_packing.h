#pragma once

#include <QByteArray>
#include <vector>

#include "core/base/result.h"
#include "core/body/landmarks.h"
#include "core/body/outline.h"

namespace zevo::store {

/// Poses and outlines as records up to schema 3 held them (compressed Qt streams, little endian, 32-bit floats). Only
/// read, when an older library is brought up to date; core/serial writes what is kept now. Errors: damaged, or newer.
Result<PoseFrames> unpackOldPoses(const QByteArray& block);
Result<std::vector<Outline>> unpackOldOutlines(const QByteArray& block);

}  // namespace zevo::store

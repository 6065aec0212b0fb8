#pragma once

#include <memory>
#include <string>

#include "core/base/picture.h"
#include "core/base/result.h"
#include "core/body/second_estimate.h"

namespace zevo::pose {

/// Asks other networks than the one that is followed with, on single frames. One instance per thread.
class SecondEstimator {
  public:
    virtual ~SecondEstimator() = default;
    /// The larger network of the same kind, in the region that it settles on; frames of one turning point in order.
    virtual Result<SecondEstimate> larger(const PictureView& picture, const PoseFrame& near) = 0;
    /// The one that was trained elsewhere.
    virtual Result<SecondEstimate> second(const PictureView& picture, const PoseFrame& near) = 0;
    /// Another turning point begins.
    virtual void reset() = 0;
};
Result<std::unique_ptr<SecondEstimator>> makeSecondEstimator(const std::string& modelDir);

}  // namespace zevo::pose

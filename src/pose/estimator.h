#pragma once

#include <memory>
#include <string>
#include <vector>

#include "core/base/picture.h"
#include "core/base/result.h"
#include "core/body/landmarks.h"

namespace zevo::pose {

/// Lite for slow machines live, Full by default, Heavy when care matters more than time.
enum class ModelSize { Lite, Full, Heavy };

/// "lite", "full", "heavy".
Result<ModelSize> modelSizeFromName(const std::string& name);
std::string modelName(ModelSize size);

/// Turns frames of one clip, fed in order, into poses. One instance per thread.
class Estimator {
  public:
    virtual ~Estimator() = default;
    virtual Result<PoseFrame> process(const PictureView& picture, double timeS) = 0;
    /// Forget the person followed so far (a new segment begins).
    virtual void reset() = 0;
    /// From now on the person at this place is meant (picture pixels; `size`: about how large a person is there), found
    /// or not by the search: where it does not see them, their region is taken to be there.
    virtual void choose(double x, double y, double size) = 0;
    /// The most people seen at once whenever the whole picture was searched; one of them is followed, the largest.
    virtual int peopleSeen() const = 0;
    /// People seen when the whole picture was searched last (about every two seconds).
    virtual int peopleNow() const = 0;
};

/// The network estimator: detector once, then the landmark network in a region that follows the person.
/// `modelDir` holds the .tflite files the build put there.
Result<std::unique_ptr<Estimator>> makeNetworkEstimator(const std::string& modelDir, ModelSize size);

/// Where the body is in a picture, for outlines: the picture is sampled once, the mask lies over `region`.
struct BodyMask {
    int side = 0;                                             ///< mask is side × side
    std::vector<float> inside;                                ///< 0..1, row by row
    double centreX = 0, centreY = 0, size = 0, rotation = 0;  ///< the square it covers, picture pixels
};

/// Computes body masks on single frames; slower than following, so used only where an outline is shown.
class OutlineReader {
  public:
    virtual ~OutlineReader() = default;
    /// `pose` is what the estimator saw in this frame; it tells where to look.
    virtual Result<BodyMask> read(const PictureView& picture, const PoseFrame& pose) = 0;
};
Result<std::unique_ptr<OutlineReader>> makeOutlineReader(const std::string& modelDir);

}  // namespace zevo::pose

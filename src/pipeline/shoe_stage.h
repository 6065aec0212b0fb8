#pragma once

#include <memory>
#include <vector>

#include "core/base/result.h"
#include "core/body/landmarks.h"
#include "core/session/session.h"
#include "pipeline/frame_stage.h"
#include "vision/turned_strip.h"

namespace zevo::pipeline {

/// Pieces of frames with the client's shoes in them, kept until the repetitions are known. They lie in a file without a
/// name that goes with this object, so that a long set costs disk and not memory; nobody else can open it.
class ShoeViews {
  public:
    ShoeViews();
    ~ShoeViews();
    ShoeViews(const ShoeViews&) = delete;
    ShoeViews& operator=(const ShoeViews&) = delete;

    /// Keeps both shoes of a frame. Error: the disk is full.
    Result<void> add(const PictureView& picture, const PoseFrame& seen);
    /// Those of one side in a span of time, in order. Pieces that cannot be read again are left out.
    std::vector<ShoeView> between(Side side, double fromS, double toS) const;
    /// Width of the frames they were cut from.
    int frameWidth() const { return m_frameWidth; }

  private:
    struct Kept;
    std::vector<Kept> m_kept;
    int m_frameWidth = 0;
    struct File;
    std::unique_ptr<File> m_file;
};

/// Keeps views of the shoes, about ten a second, while the frames go by.
std::unique_ptr<FrameStage> makeShoeStage(std::shared_ptr<ShoeViews> views);

/// The second pass: reads the rise of heel and toe of the near shoe in every repetition of `found`, into the poses it
/// was found in. `views`: of every worker.
void readShoes(const std::vector<std::shared_ptr<ShoeViews>>& views, const MeasuredView& found, Observation& seen);

}  // namespace zevo::pipeline

#pragma once

#include <vector>

#include "core/base/picture.h"
#include "media/av_handles.h"

namespace zevo::media {

/// How a source pixel step maps to the upright picture; entries are −1, 0 or 1.
struct Turn {
    int xx = 1, xy = 0, yx = 0, yy = 1;  // x' = xx·x + xy·y, y' = yx·x + yy·y
    bool swapsSides() const { return xx == 0; }
    bool isIdentity() const { return xx == 1 && yy == 1; }
};

/// What the stream asks players to do.
Turn turnOf(const AVStream* stream);

/// From decoded frames to upright 8-bit RGB with square pixels. One instance a decoder.
class PictureConverter {
  public:
    struct Target {
        int width = 0, height = 0;  ///< upright, before shrinking
        int maxSide = 1920;
        Turn turn{};
    };
    /// False where the pixel format is none that can be shown.
    bool convert(const AVFrame& frame, const Target& target, Picture& out);

  private:
    ScalerHandle m_scaler;
    Picture m_unturned;
    std::vector<std::uint8_t> m_rows;  ///< padded rows for the scaler
};

}  // namespace zevo::media

#pragma once

#include "media/av_handles.h"
#include "media/live_source.h"

namespace zevo::media {

/// The inside of JpegEncoder, for sources that deliver other forms than RGB.
struct JpegEncoder::Impl {
    CodecHandle codec;
    ScalerHandle scaler;
    FrameHandle frame{av_frame_alloc()};
    PacketHandle packet{av_packet_alloc()};

    Result<void> open(int width, int height);
    Result<LiveFrame> encode(const std::uint8_t* const planes[], const int strides[], int height, AVPixelFormat format,
                             double timeS);
};

}  // namespace zevo::media

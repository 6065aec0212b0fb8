#pragma once

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/display.h>
#include <libavutil/imgutils.h>
#include <libavutil/opt.h>
#include <libswscale/swscale.h>
}

#include <memory>
#include <mutex>
#include <string>

namespace zevo::media {

// FFmpeg's C objects, freed by the call each of them asks for.
struct AvDelete {
    void operator()(AVFormatContext* p) const { avformat_close_input(&p); }
    void operator()(AVCodecContext* p) const { avcodec_free_context(&p); }
    void operator()(AVFrame* p) const { av_frame_free(&p); }
    void operator()(AVPacket* p) const { av_packet_free(&p); }
    void operator()(SwsContext* p) const { sws_freeContext(p); }
};
using InputHandle = std::unique_ptr<AVFormatContext, AvDelete>;
using CodecHandle = std::unique_ptr<AVCodecContext, AvDelete>;
using FrameHandle = std::unique_ptr<AVFrame, AvDelete>;
using PacketHandle = std::unique_ptr<AVPacket, AvDelete>;
using ScalerHandle = std::unique_ptr<SwsContext, AvDelete>;

struct OutputDelete {
    void operator()(AVFormatContext* p) const {
        if (p->pb && !(p->oformat->flags & AVFMT_NOFILE)) avio_closep(&p->pb);
        avformat_free_context(p);
    }
};
using OutputHandle = std::unique_ptr<AVFormatContext, OutputDelete>;

/// FFmpeg and the codecs behind it write to standard error on their own; what a coach needs to know Zevo says itself.
inline void keepFfmpegQuiet() {
    static std::once_flag once;
    std::call_once(once, [] { av_log_set_level(AV_LOG_QUIET); });
}

inline std::string avMessage(int code) {
    char text[AV_ERROR_MAX_STRING_SIZE] = {};
    av_strerror(code, text, sizeof text);
    return text;
}

}  // namespace zevo::media

#include "media/clip_writer.h"

#include <cmath>
#include <filesystem>

#include "media/av_handles.h"

namespace zevo::media {
namespace {
constexpr AVRational kTimeBase{1, 90000};
}

struct ClipWriter::Impl {
    std::string path, partPath;
    OutputHandle output;
    CodecHandle codec;
    ScalerHandle scaler;
    FrameHandle frame{av_frame_alloc()};
    PacketHandle packet{av_packet_alloc()};
    AVStream* stream = nullptr;
    std::int64_t frameDuration = 0;
    std::int64_t lastPts = INT64_MIN;
    bool finished = false;

    Error failed(const char* what, int code = 0) const {
        return {"The clip could not be written. Is the disk full?",
                path + ": " + what + (code ? " " + avMessage(code) : "")};
    }

    Result<void> drain() {
        for (;;) {
            const int got = avcodec_receive_packet(codec.get(), packet.get());
            if (got == AVERROR(EAGAIN) || got == AVERROR_EOF) return {};
            if (got < 0) return failed("encode", got);
            packet->stream_index = stream->index;
            packet->duration = frameDuration;
            av_packet_rescale_ts(packet.get(), kTimeBase, stream->time_base);
            if (const int code = av_interleaved_write_frame(output.get(), packet.get()); code < 0)
                return failed("write", code);
        }
    }
};

ClipWriter::ClipWriter(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
ClipWriter::ClipWriter(ClipWriter&&) noexcept = default;
ClipWriter& ClipWriter::operator=(ClipWriter&&) noexcept = default;
ClipWriter::~ClipWriter() {
    if (!m_impl || m_impl->finished) return;
    m_impl->output.reset();
    std::error_code ignored;
    std::filesystem::remove(m_impl->partPath, ignored);
}

Result<ClipWriter> ClipWriter::create(const std::string& path, int width, int height, const WriteOptions& options) {
    auto impl = std::make_unique<Impl>();
    impl->path = path;
    impl->partPath = path + ".part";
    keepFfmpegQuiet();
    if (width < 16 || height < 16 || width % 2 || height % 2) return impl->failed("odd picture size");
    const AVOutputFormat* format = av_guess_format(nullptr, path.c_str(), nullptr);
    AVFormatContext* raw = nullptr;
    if (!format || avformat_alloc_output_context2(&raw, format, nullptr, impl->partPath.c_str()) < 0)
        return impl->failed("format");
    impl->output.reset(raw);
    const AVCodec* encoder =
        options.jpeg ? avcodec_find_encoder(AV_CODEC_ID_MJPEG) : avcodec_find_encoder_by_name("libx264");
    if (!encoder && !options.jpeg) encoder = avcodec_find_encoder(AV_CODEC_ID_MPEG4);
    if (!encoder) return impl->failed("no encoder");
    impl->codec.reset(avcodec_alloc_context3(encoder));
    AVCodecContext& c = *impl->codec;
    c.width = width;
    c.height = height;
    c.pix_fmt = options.jpeg ? AV_PIX_FMT_YUVJ420P : AV_PIX_FMT_YUV420P;
    c.time_base = kTimeBase;
    c.framerate = av_d2q(options.frameRate, 100000);
    c.gop_size = options.keyFrameInterval;
    c.max_b_frames = 0;
    c.colorspace = height >= 720 ? AVCOL_SPC_BT709 : AVCOL_SPC_SMPTE170M;
    c.color_range = options.jpeg ? AVCOL_RANGE_JPEG : AVCOL_RANGE_MPEG;
    if (options.jpeg) {
        c.flags |= AV_CODEC_FLAG_QSCALE;
        c.global_quality = FF_QP2LAMBDA * 3;
        c.colorspace = AVCOL_SPC_SMPTE170M;
    }
    c.thread_count = 1;  // the same bytes from the same pictures, whatever the machine
    if (!options.jpeg) {
        av_opt_set(c.priv_data, "preset", options.preset, 0);
        av_opt_set_int(c.priv_data, "crf", options.quality, 0);
    }
    if (format->flags & AVFMT_GLOBALHEADER) c.flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
    c.flags |= AV_CODEC_FLAG_BITEXACT;
    raw->flags |= AVFMT_FLAG_BITEXACT;
    if (const int code = avcodec_open2(&c, encoder, nullptr); code < 0) return impl->failed("encoder", code);
    impl->stream = avformat_new_stream(raw, nullptr);
    impl->stream->time_base = kTimeBase;
    impl->stream->avg_frame_rate = c.framerate;
    avcodec_parameters_from_context(impl->stream->codecpar, &c);
    if (options.rotationTagDeg != 0) {
        auto* matrix = reinterpret_cast<std::int32_t*>(
            av_stream_new_side_data(impl->stream, AV_PKT_DATA_DISPLAYMATRIX, 9 * sizeof(std::int32_t)));
        if (matrix) av_display_rotation_set(matrix, options.rotationTagDeg);
    }
    impl->frameDuration = std::llround(kTimeBase.den / options.frameRate);
    if (const int code = avio_open(&raw->pb, impl->partPath.c_str(), AVIO_FLAG_WRITE); code < 0)
        return impl->failed("open", code);
    if (const int code = avformat_write_header(raw, nullptr); code < 0) return impl->failed("header", code);
    AVFrame& f = *impl->frame;
    f.format = c.pix_fmt;
    f.width = width;
    f.height = height;
    f.quality = c.global_quality;
    if (av_frame_get_buffer(&f, 0) < 0) return impl->failed("memory");
    impl->scaler.reset(sws_getContext(width, height, AV_PIX_FMT_RGB24, width, height, c.pix_fmt, SWS_BILINEAR, nullptr,
                                      nullptr, nullptr));
    if (!impl->scaler) return impl->failed("scaler");
    const bool hd = height >= 720 && !options.jpeg;
    sws_setColorspaceDetails(impl->scaler.get(), sws_getCoefficients(SWS_CS_ITU709), 1,
                             sws_getCoefficients(hd ? SWS_CS_ITU709 : SWS_CS_ITU601), options.jpeg, 0, 1 << 16,
                             1 << 16);
    return ClipWriter(std::move(impl));
}

Result<void> ClipWriter::write(const PictureView& picture, double timeS) {
    Impl& m = *m_impl;
    if (picture.width != m.codec->width || picture.height != m.codec->height)
        return m.failed("picture of another size");
    const std::int64_t pts = std::llround(timeS * kTimeBase.den);
    if (pts <= m.lastPts) return m.failed("time runs backwards");
    m.lastPts = pts;
    if (av_frame_make_writable(m.frame.get()) < 0) return m.failed("memory");
    const std::uint8_t* planes[4] = {picture.rgb, nullptr, nullptr, nullptr};
    const int strides[4] = {picture.stride, 0, 0, 0};
    sws_scale(m.scaler.get(), planes, strides, 0, picture.height, m.frame->data, m.frame->linesize);
    m.frame->pts = pts;
    if (const int code = avcodec_send_frame(m.codec.get(), m.frame.get()); code < 0) return m.failed("encode", code);
    return m.drain();
}

Result<void> ClipWriter::finish() {
    Impl& m = *m_impl;
    avcodec_send_frame(m.codec.get(), nullptr);
    if (auto drained = m.drain(); !drained) return drained;
    if (const int code = av_write_trailer(m.output.get()); code < 0) return m.failed("trailer", code);
    m.output.reset();
    std::error_code problem;
    std::filesystem::rename(m.partPath, m.path, problem);
    if (problem) return m.failed("rename");
    m.finished = true;
    return {};
}

}  // namespace zevo::media

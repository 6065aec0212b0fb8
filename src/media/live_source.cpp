#include "media/live_source.h"

#include <atomic>
#include <chrono>
#include <cmath>
#include <thread>

#include "media/av_handles.h"
#include "media/picture_converter.h"

extern "C" {
#include <libavdevice/avdevice.h>
}

namespace zevo::media {
namespace {

/// Ours: about 43 kB a drawn picture at 720p (bench_live). What it costs in angles on raw cameras was not measured.
constexpr int kJpegQuality = 4;
/// No picture for so long: unplugged, or held by somebody else.
constexpr double kStuckS = 5;

LiveFrame wrap(const AVPacket& packet, double timeS) {
    return {timeS, std::make_shared<const std::vector<std::uint8_t>>(packet.data, packet.data + packet.size)};
}

}  // namespace

double steadySeconds() {
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

struct JpegEncoder::Impl {
    CodecHandle codec;
    ScalerHandle scaler;
    FrameHandle frame{av_frame_alloc()};
    PacketHandle packet{av_packet_alloc()};

    Result<void> open(int width, int height) {
        const AVCodec* encoder = avcodec_find_encoder(AV_CODEC_ID_MJPEG);
        if (!encoder) return Error{"This FFmpeg cannot write JPEG pictures.", "mjpeg"};
        codec.reset(avcodec_alloc_context3(encoder));
        AVCodecContext& c = *codec;
        c.width = width;
        c.height = height;
        c.pix_fmt = AV_PIX_FMT_YUVJ420P;
        c.color_range = AVCOL_RANGE_JPEG;
        c.colorspace = AVCOL_SPC_SMPTE170M;
        c.time_base = {1, 1000};
        c.thread_count = 1;
        c.flags |= AV_CODEC_FLAG_QSCALE;
        c.global_quality = FF_QP2LAMBDA * kJpegQuality;
        if (const int code = avcodec_open2(&c, encoder, nullptr); code < 0)
            return Error{"Pictures of this size cannot be recorded.", avMessage(code)};
        frame->format = c.pix_fmt;
        frame->width = width;
        frame->height = height;
        frame->quality = c.global_quality;
        if (av_frame_get_buffer(frame.get(), 0) < 0) return Error{"There is not enough memory.", "jpeg"};
        return {};
    }

    Result<LiveFrame> encode(const std::uint8_t* const planes[], const int strides[], int height, AVPixelFormat format,
                             double timeS) {
        SwsContext* raw =
            sws_getCachedContext(scaler.release(), frame->width, height, format, frame->width, frame->height,
                                 AV_PIX_FMT_YUVJ420P, SWS_FAST_BILINEAR, nullptr, nullptr, nullptr);
        scaler.reset(raw);
        if (!raw || av_frame_make_writable(frame.get()) < 0)
            return Error{"The pictures of this camera are in a form Zevo cannot record.", ""};
        const AVPixFmtDescriptor* is = av_pix_fmt_desc_get(format);
        const bool rgb = is && (is->flags & AV_PIX_FMT_FLAG_RGB);
        sws_setColorspaceDetails(raw, sws_getCoefficients(SWS_CS_ITU601), rgb, sws_getCoefficients(SWS_CS_ITU601), 1, 0,
                                 1 << 16, 1 << 16);
        sws_scale(raw, planes, strides, 0, height, frame->data, frame->linesize);
        frame->pts = std::llround(timeS * 1000);
        if (avcodec_send_frame(codec.get(), frame.get()) < 0 || avcodec_receive_packet(codec.get(), packet.get()) < 0)
            return Error{"A picture could not be recorded.", "jpeg"};
        LiveFrame out = wrap(*packet, timeS);
        av_packet_unref(packet.get());
        return out;
    }
};

JpegEncoder::JpegEncoder(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
JpegEncoder::JpegEncoder(JpegEncoder&&) noexcept = default;
JpegEncoder::~JpegEncoder() = default;

Result<JpegEncoder> JpegEncoder::create(int width, int height) {
    keepFfmpegQuiet();
    auto impl = std::make_unique<Impl>();
    if (width < 16 || height < 16 || width % 2 || height % 2)
        return Error{"Pictures of this size cannot be recorded.", std::to_string(width)};
    if (auto opened = impl->open(width, height); !opened) return opened.error();
    return JpegEncoder(std::move(impl));
}

Result<LiveFrame> JpegEncoder::encode(const PictureView& picture, double timeS) {
    const std::uint8_t* planes[4] = {picture.rgb, nullptr, nullptr, nullptr};
    const int strides[4] = {picture.stride, 0, 0, 0};
    return m_impl->encode(planes, strides, picture.height, AV_PIX_FMT_RGB24, timeS);
}

struct LiveDecoder::Impl {
    int maxSide = 1280;
    CodecHandle codec;
    FrameHandle frame{av_frame_alloc()};
    PacketHandle packet{av_packet_alloc()};
    PictureConverter converter;
};

LiveDecoder::LiveDecoder(int maxSide) : m_impl(std::make_unique<Impl>()) {
    m_impl->maxSide = maxSide;
}
LiveDecoder::LiveDecoder(LiveDecoder&&) noexcept = default;
LiveDecoder::~LiveDecoder() = default;

Result<void> LiveDecoder::decode(const LiveFrame& frame, VideoFrame& out) {
    Impl& m = *m_impl;
    const Error bad{"A picture of the camera is damaged.", ""};
    if (!frame.jpeg || frame.jpeg->empty()) return bad;
    if (!m.codec) {
        keepFfmpegQuiet();
        const AVCodec* decoder = avcodec_find_decoder(AV_CODEC_ID_MJPEG);
        m.codec.reset(avcodec_alloc_context3(decoder));
        m.codec->thread_count = 1;
        if (avcodec_open2(m.codec.get(), decoder, nullptr) < 0) return bad;
    }
    const int size = static_cast<int>(frame.jpeg->size());
    if (av_new_packet(m.packet.get(), size) < 0) return bad;
    std::copy(frame.jpeg->begin(), frame.jpeg->end(), m.packet->data);
    const int sent = avcodec_send_packet(m.codec.get(), m.packet.get());
    av_packet_unref(m.packet.get());
    if (sent < 0 || avcodec_receive_frame(m.codec.get(), m.frame.get()) < 0) return bad;
    if (!m.converter.convert(*m.frame, {m.frame->width, m.frame->height, m.maxSide, {}}, out.picture)) return bad;
    out.timeS = frame.timeS;
    return {};
}

namespace {

/// A camera by libavdevice: V4L2, or lavfi where there is none. JPEG passes through; raw pictures are encoded here.
class DeviceSource final : public LiveSource {
  public:
    static Result<std::unique_ptr<LiveSource>> open(const char* format, const std::string& device,
                                                    const CameraMode& mode) {
        keepFfmpegQuiet();
        static std::once_flag once;
        std::call_once(once, avdevice_register_all);
        auto out = std::make_unique<DeviceSource>();
        const AVInputFormat* input = av_find_input_format(format);
        if (!input) return Error{"This FFmpeg cannot read cameras.", format};
        AVFormatContext* raw = avformat_alloc_context();
        raw->interrupt_callback = {[](void* self) { return static_cast<DeviceSource*>(self)->interrupted() ? 1 : 0; },
                                   out.get()};
        AVDictionary* options = nullptr;
        if (mode.width > 0) {
            av_dict_set(&options, "video_size",
                        (std::to_string(mode.width) + "x" + std::to_string(mode.height)).c_str(), 0);
            av_dict_set(&options, "framerate", std::to_string(mode.rate).c_str(), 0);
            if (!mode.format.empty()) av_dict_set(&options, "input_format", mode.format.c_str(), 0);
        }
        out->m_paced = std::string(format) == "lavfi";
        out->m_waitingSince = steadySeconds();
        const int code = avformat_open_input(&raw, device.c_str(), input, &options);
        av_dict_free(&options);
        if (code == AVERROR(EBUSY))
            return Error{"This camera is in use by another program. Close that one, or choose another camera.", device};
        if (code == AVERROR(ENOENT) || code == AVERROR(ENODEV))
            return Error{"This camera is not plugged in any more. Plug it in again, or choose another one.", device};
        if (code == AVERROR(EACCES))
            return Error{"Zevo may not use this camera: your account lacks the right to (group “video”).", device};
        if (code < 0) return Error{"This camera does not start.", device + ": " + avMessage(code)};
        out->m_input.reset(raw);
        if (avformat_find_stream_info(raw, nullptr) < 0 || raw->nb_streams < 1)
            return Error{"This camera sends no pictures.", device};
        out->m_stream = raw->streams[0];
        const AVCodecParameters* par = out->m_stream->codecpar;
        out->m_passes = par->codec_id == AV_CODEC_ID_MJPEG;
        const AVRational rate = av_guess_frame_rate(raw, out->m_stream, nullptr);
        out->m_facts.width = par->width;
        out->m_facts.height = par->height;
        out->m_facts.frameRate = rate.num > 0 && rate.den > 0 ? av_q2d(rate) : mode.rate;
        out->m_facts.live = true;
        if (!out->m_passes) {
            const AVCodec* decoder = avcodec_find_decoder(par->codec_id);
            out->m_codec.reset(avcodec_alloc_context3(decoder));
            if (!decoder || avcodec_parameters_to_context(out->m_codec.get(), par) < 0 ||
                avcodec_open2(out->m_codec.get(), decoder, nullptr) < 0)
                return Error{"The pictures of this camera are in a form Zevo cannot read.", device};
            if (auto opened = out->m_jpeg.open(par->width, par->height); !opened) return opened.error();
        }
        return std::unique_ptr<LiveSource>(std::move(out));
    }

    const SourceFacts& facts() const override { return m_facts; }
    void stop() override { m_stopped = true; }

    Result<bool> next(LiveFrame& frame) override {
        for (;;) {
            if (m_stopped) return false;
            m_waitingSince = steadySeconds();
            const int read = av_read_frame(m_input.get(), m_packet.get());
            if (m_stopped) return false;
            if (read == AVERROR(EAGAIN)) {
                std::this_thread::sleep_for(std::chrono::milliseconds(2));
                continue;
            }
            if (read == AVERROR_EXIT)
                return Error{"This camera sends no pictures any more. Another program may have taken it.", ""};
            if (read < 0)
                return Error{"This camera was unplugged. What was filmed so far is kept; plug it in again to go on.",
                             avMessage(read)};
            const double timeS = stampOf(*m_packet);
            if (m_passes) {
                frame = wrap(*m_packet, timeS);
                av_packet_unref(m_packet.get());
                return true;
            }
            const int sent = avcodec_send_packet(m_codec.get(), m_packet.get());
            av_packet_unref(m_packet.get());
            if (sent < 0 || avcodec_receive_frame(m_codec.get(), m_frame.get()) < 0) continue;
            auto encoded = m_jpeg.encode(m_frame->data, m_frame->linesize, m_frame->height,
                                         static_cast<AVPixelFormat>(m_frame->format), timeS);
            if (!encoded) return encoded.error();
            frame = std::move(*encoded);
            return true;
        }
    }

  private:
    bool interrupted() const { return m_stopped || steadySeconds() - m_waitingSince > kStuckS; }

    /// The stream's own stamps laid on the shared clock, so that a picture's time is when it was taken and not when it
    /// was read. A clock that jumps (sleep, a new stamp base) is laid anew.
    double stampOf(const AVPacket& packet) {
        const double now = steadySeconds();
        const double own =
            packet.pts == AV_NOPTS_VALUE ? now : static_cast<double>(packet.pts) * av_q2d(m_stream->time_base);
        constexpr double kJumpS = 1;
        if (!m_laid || (!m_paced && std::abs(own + m_offsetS - now) > kJumpS)) m_offsetS = now - own, m_laid = true;
        double timeS = own + m_offsetS;
        if (m_paced && timeS > now) std::this_thread::sleep_for(std::chrono::duration<double>(timeS - now));
        if (timeS <= m_lastS) timeS = m_lastS + 0.001;
        return m_lastS = timeS;
    }

    InputHandle m_input;
    CodecHandle m_codec;
    JpegEncoder::Impl m_jpeg;
    FrameHandle m_frame{av_frame_alloc()};
    PacketHandle m_packet{av_packet_alloc()};
    AVStream* m_stream = nullptr;
    SourceFacts m_facts;
    std::atomic<bool> m_stopped{false};
    std::atomic<double> m_waitingSince{0};
    bool m_passes = false, m_paced = false, m_laid = false;
    double m_offsetS = 0, m_lastS = -1e18;
};

}  // namespace

Result<std::unique_ptr<LiveSource>> openCamera(const std::string& device, const CameraMode& mode) {
    return DeviceSource::open("v4l2", device, mode);
}

Result<std::unique_ptr<LiveSource>> openPattern(const std::string& graph) {
    return DeviceSource::open("lavfi", graph, {});
}

}  // namespace zevo::media

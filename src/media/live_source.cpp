#include "media/live_source.h"

#include <atomic>
#include <chrono>
#include <cmath>
#include <optional>
#include <thread>

#include "media/jpeg_encoder.h"
#include "media/turbo_handle.h"

extern "C" {
#include <libavdevice/avdevice.h>
}

namespace zevo::media {
namespace {

/// Ours: about 43 kB a drawn picture at 720p (bench_live). What it costs in angles on raw cameras was not measured.
constexpr int kJpegQuality = 4;

LiveFrame wrap(const AVPacket& packet, double timeS) {
    return {timeS, std::make_shared<const std::vector<std::uint8_t>>(packet.data, packet.data + packet.size)};
}

}  // namespace

double steadySeconds() {
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

Result<void> JpegEncoder::Impl::open(int width, int height) {
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

Result<LiveFrame> JpegEncoder::Impl::encode(const std::uint8_t* const planes[], const int strides[], int height,
                                            AVPixelFormat format, double timeS) {
    SwsContext* raw = sws_getCachedContext(scaler.release(), frame->width, height, format, frame->width, frame->height,
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
    TurboHandle turbo{tjInitDecompress()};
};

LiveDecoder::LiveDecoder(int maxSide) : m_impl(std::make_unique<Impl>()) {
    m_impl->maxSide = maxSide;
}
LiveDecoder::LiveDecoder(LiveDecoder&&) noexcept = default;
LiveDecoder::~LiveDecoder() = default;

Result<void> LiveDecoder::decode(const LiveFrame& frame, VideoFrame& out) {
    const Error bad{"A picture of the camera is damaged.", ""};
    if (!frame.jpeg || frame.jpeg->empty() || !m_impl->turbo) return bad;
    const auto& data = *frame.jpeg;
    int width = 0, height = 0, sampling = 0, colours = 0;
    if (tjDecompressHeader3(m_impl->turbo.get(), data.data(), data.size(), &width, &height, &sampling, &colours) != 0)
        return bad;
    // The decoder shrinks by eighths while it decodes, which costs less than to decode and shrink.
    int count = 0;
    const tjscalingfactor* factors = tjGetScalingFactors(&count);
    int scaledWidth = 0, scaledHeight = 0;
    for (int i = 0; i < count; ++i) {
        const int w = TJSCALED(width, factors[i]), h = TJSCALED(height, factors[i]);
        if (factors[i].num <= factors[i].denom && std::max(w, h) <= m_impl->maxSide && w > scaledWidth)
            scaledWidth = w, scaledHeight = h;
    }
    if (scaledWidth < 1 || scaledHeight < 1) return bad;
    if (out.picture.width != scaledWidth || out.picture.height != scaledHeight)
        out.picture = Picture(scaledWidth, scaledHeight);
    // A warning (a byte too many between two parts) is no damage that could be seen.
    if (tjDecompress2(m_impl->turbo.get(), data.data(), data.size(), out.picture.rgb.data(), scaledWidth, 0,
                      scaledHeight, TJPF_RGB, 0) != 0 &&
        tjGetErrorCode(m_impl->turbo.get()) != TJERR_WARNING)
        return bad;
    out.timeS = frame.timeS;
    return {};
}

namespace {

/// A made-up picture source of libavdevice, delivered at the pace its stamps ask for and encoded here.
class PatternSource final : public LiveSource {
  public:
    Result<void> begin(const std::string& graph) {
        keepFfmpegQuiet();
        static std::once_flag once;
        std::call_once(once, avdevice_register_all);
        const AVInputFormat* input = av_find_input_format("lavfi");
        if (!input) return Error{"This FFmpeg cannot draw a test picture.", "lavfi"};
        AVFormatContext* raw = nullptr;
        if (const int code = avformat_open_input(&raw, graph.c_str(), input, nullptr); code < 0)
            return Error{"This camera does not start.", graph + ": " + avMessage(code)};
        m_input.reset(raw);
        if (avformat_find_stream_info(raw, nullptr) < 0 || raw->nb_streams < 1)
            return Error{"This camera sends no pictures.", graph};
        m_stream = raw->streams[0];
        const AVCodecParameters* par = m_stream->codecpar;
        const AVRational rate = av_guess_frame_rate(raw, m_stream, nullptr);
        m_facts.width = par->width;
        m_facts.height = par->height;
        m_facts.frameRate = rate.num > 0 && rate.den > 0 ? av_q2d(rate) : 30;
        m_facts.live = true;
        const AVCodec* decoder = avcodec_find_decoder(par->codec_id);
        m_codec.reset(avcodec_alloc_context3(decoder));
        if (!decoder || avcodec_parameters_to_context(m_codec.get(), par) < 0 ||
            avcodec_open2(m_codec.get(), decoder, nullptr) < 0)
            return Error{"The pictures of this camera are in a form Zevo cannot read.", graph};
        return m_jpeg.open(par->width, par->height);
    }

    const SourceFacts& facts() const override { return m_facts; }
    void stop() override { m_stopped = true; }

    Result<bool> next(LiveFrame& frame) override {
        for (;;) {
            if (m_stopped) return false;
            if (const int code = av_read_frame(m_input.get(), m_packet.get()); code < 0)
                return Error{"This camera was unplugged. What was filmed so far is kept; plug it in again to go on.",
                             avMessage(code)};
            const double timeS = paced(static_cast<double>(m_packet->pts) * av_q2d(m_stream->time_base));
            const int sent = avcodec_send_packet(m_codec.get(), m_packet.get());
            av_packet_unref(m_packet.get());
            if (sent < 0 || avcodec_receive_frame(m_codec.get(), m_frame.get()) < 0) continue;
            if (m_stopped) return false;
            auto encoded = m_jpeg.encode(m_frame->data, m_frame->linesize, m_frame->height,
                                         static_cast<AVPixelFormat>(m_frame->format), timeS);
            if (!encoded) return encoded.error();
            frame = std::move(*encoded);
            return true;
        }
    }

  private:
    /// Waits until the moment a stamp speaks of, counted from the first one.
    double paced(double stampS) {
        const double now = steadySeconds();
        if (!m_laidS) m_laidS = now - stampS;
        const double timeS = stampS + *m_laidS;
        if (timeS > now) std::this_thread::sleep_for(std::chrono::duration<double>(timeS - now));
        return timeS;
    }

    InputHandle m_input;
    CodecHandle m_codec;
    JpegEncoder::Impl m_jpeg;
    FrameHandle m_frame{av_frame_alloc()};
    PacketHandle m_packet{av_packet_alloc()};
    AVStream* m_stream = nullptr;
    SourceFacts m_facts;
    std::atomic<bool> m_stopped{false};
    std::optional<double> m_laidS;
};

}  // namespace

Result<std::unique_ptr<LiveSource>> openPattern(const std::string& graph) {
    auto out = std::make_unique<PatternSource>();
    if (auto begun = out->begin(graph); !begun) return begun.error();
    return std::unique_ptr<LiveSource>(std::move(out));
}

}  // namespace zevo::media

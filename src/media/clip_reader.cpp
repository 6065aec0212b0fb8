#include "media/clip_reader.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>
#include <filesystem>
#include <optional>
#include <string_view>

#include "media/av_handles.h"
#include "media/clip_clock.h"
#include "media/picture_converter.h"

namespace zevo::media {
namespace {

constexpr int kLargestSide = 16384;
/// Stamps further apart are wrong: nobody rests that long within a set.
constexpr double kLongestGapS = 60;
constexpr int kMaxDamaged = 2000;

struct Opened {
    InputHandle input;
    int stream = -1;
};

Result<Opened> openInput(const std::string& path) {
    keepFfmpegQuiet();
    std::error_code ignored;
    if (!std::filesystem::exists(path, ignored))
        return Error{"This file is not there any more. It may have been moved or its drive taken out.", path};
    if (std::filesystem::is_directory(path, ignored))
        return Error{"This is a folder, not a clip. Choose a video file.", path};
    if (std::filesystem::file_size(path, ignored) == 0)
        return Error{"This file is empty (0 bytes). The copy from the camera may have broken off; copy it again.",
                     path};
    AVFormatContext* raw = nullptr;
    if (const int code = avformat_open_input(&raw, path.c_str(), nullptr, nullptr); code < 0)
        return Error{"This file cannot be read as a video. It may be damaged, unfinished, or not a video at all.",
                     path + ": " + avMessage(code)};
    Opened out{InputHandle(raw), -1};
    // FFmpeg also "plays" plain text as a terminal screen, and still pictures as clips of one frame.
    const std::string_view format = raw->iformat->name;
    static constexpr std::array<std::string_view, 5> kTextArt{"tty", "bin", "xbin", "adf", "idf"};
    if (std::find(kTextArt.begin(), kTextArt.end(), format) != kTextArt.end())
        return Error{"This file cannot be read as a video. It may be damaged, unfinished, or not a video at all.",
                     path};
    if (format == "image2" || format.find("_pipe") != std::string_view::npos)
        return Error{"This is a still picture, not a clip. Choose a video file.", path};
    if (const int code = avformat_find_stream_info(raw, nullptr); code < 0)
        return Error{"This file cannot be read as a video. It may be damaged or cut short.",
                     path + ": " + avMessage(code)};
    for (unsigned i = 0; i < raw->nb_streams && out.stream < 0; ++i) {
        const AVStream* s = raw->streams[i];
        if (s->codecpar->codec_type == AVMEDIA_TYPE_VIDEO && !(s->disposition & AV_DISPOSITION_ATTACHED_PIC))
            out.stream = static_cast<int>(i);
    }
    if (out.stream < 0)
        return Error{"There are no moving pictures in this file, only sound or a still cover. Choose a video clip.",
                     path};
    for (unsigned i = 0; i < raw->nb_streams; ++i)
        if (static_cast<int>(i) != out.stream) raw->streams[i]->discard = AVDISCARD_ALL;
    return out;
}

}  // namespace

struct ClipReader::Impl {
    std::string path;
    InputHandle input;
    CodecHandle codec;
    PictureConverter converter;
    FrameHandle frame{av_frame_alloc()};
    PacketHandle packet{av_packet_alloc()};
    AVStream* stream = nullptr;
    ClipInfo info;
    Turn turn;
    ReadOptions options;
    double startS = 0;
    double wantedS = -1e9;  // frames before this are passed over after a seek
    std::optional<SteadyStamps> stamps;
    double lastS = -1e9;
    long delivered = 0;
    int damaged = 0;
    bool draining = false;

    double frameTime() const {
        if (frame->best_effort_timestamp == AV_NOPTS_VALUE)
            return lastS < -1e8 ? 0 : lastS + 1.0 / std::max(1.0, info.frameRate);
        return frame->best_effort_timestamp * av_q2d(stream->time_base) - startS;
    }

    /// Decodes one more frame into `frame`; false at the end.
    bool decode() {
        for (;;) {
            const int got = avcodec_receive_frame(codec.get(), frame.get());
            if (got == 0) return true;
            if (got == AVERROR_EOF) return false;
            if (got != AVERROR(EAGAIN) && ++damaged > kMaxDamaged) return false;
            if (draining && got != AVERROR(EAGAIN)) continue;
            if (draining) return false;
            const int read = av_read_frame(input.get(), packet.get());
            if (read < 0) {
                if (read != AVERROR_EOF) ++damaged;
                draining = true;
                avcodec_send_packet(codec.get(), nullptr);
                continue;
            }
            if (packet->stream_index == stream->index && avcodec_send_packet(codec.get(), packet.get()) < 0 &&
                ++damaged > kMaxDamaged) {
                av_packet_unref(packet.get());
                return false;
            }
            av_packet_unref(packet.get());
        }
    }

    bool advance(double& timeS) {
        const double tolerance = 0.25 / std::max(1.0, info.frameRate);
        while (decode()) {
            lastS = timeS = stamps->take(frameTime());
            if (timeS + tolerance >= wantedS) return true;
        }
        return false;
    }
};

ClipReader::ClipReader(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
ClipReader::ClipReader(ClipReader&&) noexcept = default;
ClipReader& ClipReader::operator=(ClipReader&&) noexcept = default;
ClipReader::~ClipReader() = default;

Result<ClipReader> ClipReader::open(const std::string& path, const ReadOptions& options) {
    auto opened = openInput(path);
    if (!opened) return opened.error();
    auto impl = std::make_unique<Impl>();
    impl->path = path;
    impl->options = options;
    impl->input = std::move(opened->input);
    impl->stream = impl->input->streams[opened->stream];
    const AVCodecParameters* par = impl->stream->codecpar;
    if (par->width < 16 || par->height < 16 || par->width > kLargestSide || par->height > kLargestSide)
        return Error{"The picture size of this clip is not usable (" + std::to_string(par->width) + " × " +
                         std::to_string(par->height) + ").",
                     path};
    const AVCodec* decoder = avcodec_find_decoder(par->codec_id);
    if (!decoder)
        return Error{"This clip is stored in a way Zevo cannot decode. Convert it to MP4 (H.264) and try again.", path};
    impl->codec.reset(avcodec_alloc_context3(decoder));
    impl->codec->thread_count = 1;  // the two workers of an analysis each have a decoder of their own
    if (avcodec_parameters_to_context(impl->codec.get(), par) < 0 ||
        avcodec_open2(impl->codec.get(), decoder, nullptr) < 0)
        return Error{"This clip is stored in a way Zevo cannot decode. Convert it to MP4 (H.264) and try again.", path};
    impl->codec->pkt_timebase = impl->stream->time_base;

    impl->turn = turnOf(impl->stream);
    ClipInfo& info = impl->info;
    AVRational aspect = av_guess_sample_aspect_ratio(impl->input.get(), impl->stream, nullptr);
    if (aspect.num <= 0 || aspect.den <= 0) aspect = {1, 1};
    const double ratio = std::clamp(av_q2d(aspect), 0.1, 10.0);
    info.width = static_cast<int>(std::lround(par->width * ratio));
    info.height = par->height;
    if (impl->turn.swapsSides()) std::swap(info.width, info.height);
    info.mirrored = impl->turn.xx * impl->turn.yy - impl->turn.xy * impl->turn.yx < 0;
    if (impl->turn.swapsSides())
        info.rotationDeg = impl->turn.yx > 0 ? 90 : 270;
    else
        info.rotationDeg = impl->turn.yy < 0 ? 180 : 0;
    const double base = av_q2d(impl->stream->time_base);
    if (impl->stream->start_time != AV_NOPTS_VALUE) impl->startS = impl->stream->start_time * base;
    if (impl->stream->duration > 0)
        info.durationS = impl->stream->duration * base;
    else if (impl->input->duration > 0)
        info.durationS = static_cast<double>(impl->input->duration) / AV_TIME_BASE;
    for (const AVDictionary* tags : {impl->input->metadata, impl->stream->metadata})
        if (const AVDictionaryEntry* made = av_dict_get(tags, "creation_time", nullptr, 0);
            made && info.filmedAt.empty())
            info.filmedAt = made->value;
    const AVRational rate = av_guess_frame_rate(impl->input.get(), impl->stream, nullptr);
    info.frameRate = rate.num > 0 && rate.den > 0 ? std::clamp(av_q2d(rate), 1.0, 1000.0) : 25.0;
    impl->stamps.emplace(1 / info.frameRate, kLongestGapS, 1e-4);
    info.frames = impl->stream->nb_frames > 0 ? impl->stream->nb_frames : std::lround(info.durationS * info.frameRate);
    return ClipReader(std::move(impl));
}

const ClipInfo& ClipReader::info() const {
    return m_impl->info;
}
int ClipReader::damagedPackets() const {
    return m_impl->damaged;
}

Result<bool> ClipReader::next(VideoFrame& frame) {
    double timeS = 0;
    if (!m_impl->advance(timeS)) return false;
    const auto& m = *m_impl;
    if (!m_impl->converter.convert(*m.frame, {m.info.width, m.info.height, m.options.maxSide, m.turn}, frame.picture))
        return Error{"The pictures in this clip are in a form Zevo cannot show.", m.path};
    frame.timeS = timeS;
    frame.index = m_impl->delivered++;
    return true;
}

Result<bool> ClipReader::skip(double& timeS) {
    if (!m_impl->advance(timeS)) return false;
    ++m_impl->delivered;
    return true;
}

Result<void> ClipReader::seek(double timeS) {
    Impl& m = *m_impl;
    const double base = av_q2d(m.stream->time_base);
    const auto target = static_cast<std::int64_t>(std::floor((timeS + m.startS) / base));
    // Files without an index may refuse to jump: start over then and pass frames by.
    if (av_seek_frame(m.input.get(), m.stream->index, target, AVSEEK_FLAG_BACKWARD) < 0 &&
        av_seek_frame(m.input.get(), m.stream->index, 0, AVSEEK_FLAG_BACKWARD | AVSEEK_FLAG_ANY) < 0)
        return Error{"This clip cannot be wound to another place.", m.path};
    avcodec_flush_buffers(m.codec.get());
    m.draining = false;
    m.wantedS = timeS;
    m.lastS = -1e9;
    m.stamps->restart();
    m.delivered = 0;
    return {};
}

Result<int> longestKeyFrameGap(const std::string& path) {
    auto opened = openInput(path);
    if (!opened) return opened.error();
    const PacketHandle packet(av_packet_alloc());
    int longest = 0, sinceKey = 0;
    while (av_read_frame(opened->input.get(), packet.get()) >= 0) {
        if (packet->stream_index == opened->stream) {
            sinceKey = (packet->flags & AV_PKT_FLAG_KEY) ? 1 : sinceKey + 1;
            longest = std::max(longest, sinceKey);
        }
        av_packet_unref(packet.get());
    }
    return longest;
}

}  // namespace zevo::media

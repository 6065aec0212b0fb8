#include "media/clip_recorder.h"

#include <fcntl.h>
#include <unistd.h>

#include <cmath>
#include <filesystem>

#include "media/av_handles.h"
#include "media/clip_clock.h"

namespace zevo::media {
namespace {

constexpr AVRational kMilliseconds{1, 1000};
/// What is lost at most when everything dies.
constexpr double kFlushEveryS = 1;

Error diskProblem(const std::string& path, int code) {
    if (code == AVERROR(ENOSPC) || code == AVERROR(EDQUOT))
        return {"The disk is full. What was filmed so far is kept; make room (1 to 3 MB for a second of film).", path};
    if (code == AVERROR(EACCES) || code == AVERROR(EROFS))
        return {"The folder of the recordings cannot be written to.", path};
    return {"The recording could not be written. What was filmed so far is kept.", path + ": " + avMessage(code)};
}

/// Opens a Matroska file for one JPEG stream and writes its head.
Result<OutputHandle> openMatroska(const std::string& path, int width, int height, double rate,
                                  const std::string& filmedAt, bool live) {
    keepFfmpegQuiet();
    AVFormatContext* raw = nullptr;
    if (avformat_alloc_output_context2(&raw, nullptr, "matroska", path.c_str()) < 0)
        return Error{"This FFmpeg cannot write Matroska files.", path};
    OutputHandle out(raw);
    AVStream* stream = avformat_new_stream(raw, nullptr);
    stream->time_base = kMilliseconds;
    stream->avg_frame_rate = av_d2q(rate, 100000);
    AVCodecParameters& par = *stream->codecpar;
    par.codec_type = AVMEDIA_TYPE_VIDEO;
    par.codec_id = AV_CODEC_ID_MJPEG;
    par.width = width;
    par.height = height;
    par.format = AV_PIX_FMT_YUVJ420P;
    if (!filmedAt.empty()) av_dict_set(&raw->metadata, "creation_time", filmedAt.c_str(), 0);
    if (const int code = avio_open(&raw->pb, path.c_str(), AVIO_FLAG_WRITE); code < 0) return diskProblem(path, code);
    AVDictionary* options = nullptr;
    // A cluster that is still open is not on the disk: close one at least every half second.
    if (live) av_dict_set(&options, "cluster_time_limit", "500", 0);
    const int code = avformat_write_header(raw, &options);
    av_dict_free(&options);
    if (code < 0) return diskProblem(path, code);
    return out;
}

Result<InputHandle> openRecording(const std::string& path) {
    keepFfmpegQuiet();
    AVFormatContext* raw = nullptr;
    const AVInputFormat* matroska = av_find_input_format("matroska");
    if (const int code = avformat_open_input(&raw, path.c_str(), matroska, nullptr); code < 0)
        return Error{"This recording cannot be read.", path + ": " + avMessage(code)};
    InputHandle out(raw);
    if (avformat_find_stream_info(raw, nullptr) < 0 || raw->nb_streams < 1 ||
        raw->streams[0]->codecpar->codec_id != AV_CODEC_ID_MJPEG)
        return Error{"This recording cannot be read.", path};
    return out;
}

void syncFile(const std::string& path) {
    if (const int file = open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK); file >= 0) {
        fdatasync(file);
        close(file);
    }
}

}  // namespace

struct ClipRecorder::Impl {
    std::string path, partPath;
    OutputHandle output;
    PacketHandle packet{av_packet_alloc()};
    ClipClock clock;
    double flushedS = 0;
    std::int64_t lastMs = -1;
    long frames = 0;
    long long bytes = 0;
    bool finished = false;
};

ClipRecorder::ClipRecorder(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
ClipRecorder::ClipRecorder(ClipRecorder&&) noexcept = default;
ClipRecorder& ClipRecorder::operator=(ClipRecorder&&) noexcept = default;
ClipRecorder::~ClipRecorder() = default;

Result<ClipRecorder> ClipRecorder::create(const std::string& path, const SourceFacts& facts,
                                          const std::string& filmedAt) {
    auto impl = std::make_unique<Impl>();
    impl->path = path;
    impl->partPath = path + ".part";
    auto output = openMatroska(impl->partPath, facts.width, facts.height, facts.frameRate, filmedAt, true);
    if (!output) return output.error();
    impl->output = std::move(*output);
    return ClipRecorder(std::move(impl));
}

Result<void> ClipRecorder::write(const LiveFrame& frame) {
    Impl& m = *m_impl;
    if (m.frames == 0) m.clock = ClipClock::startingAt(frame.timeS), m.flushedS = frame.timeS;
    const std::int64_t ms = std::max<std::int64_t>(m.lastMs + 1, m.clock.clipMs(frame.timeS));
    const int size = static_cast<int>(frame.jpeg->size());
    if (av_new_packet(m.packet.get(), size) < 0) return Error{"There is not enough memory.", m.path};
    std::copy(frame.jpeg->begin(), frame.jpeg->end(), m.packet->data);
    m.packet->pts = m.packet->dts = ms;
    m.packet->flags |= AV_PKT_FLAG_KEY;
    m.packet->stream_index = 0;
    av_packet_rescale_ts(m.packet.get(), kMilliseconds, m.output->streams[0]->time_base);
    int code = av_write_frame(m.output.get(), m.packet.get());
    av_packet_unref(m.packet.get());
    if (code >= 0 && m.output->pb->error < 0) code = m.output->pb->error;
    if (code < 0) return diskProblem(m.path, code);
    m.lastMs = ms;
    ++m.frames;
    m.bytes += size;
    if (frame.timeS - m.flushedS >= kFlushEveryS) {
        m.flushedS = frame.timeS;
        av_write_frame(m.output.get(), nullptr);  // ends the open cluster
        avio_flush(m.output->pb);
        if (m.output->pb->error < 0) return diskProblem(m.path, m.output->pb->error);
        syncFile(m.partPath);
    }
    return {};
}

Result<void> ClipRecorder::finish() {
    Impl& m = *m_impl;
    if (m.finished) return {};
    m.finished = true;
    const int trailer = av_write_trailer(m.output.get());
    const int written = m.output->pb->error;
    m.output.reset();
    if (trailer < 0 || written < 0) {
        // No room even for the index: what is there is read without one.
        auto saved = recoverClip(m.partPath, m.path);
        if (saved && *saved > 0) return {};
    }
    syncFile(m.partPath);
    std::error_code problem;
    std::filesystem::rename(m.partPath, m.path, problem);
    if (problem) return Error{"The recording could not be given its name; it is kept as it is.", m.partPath};
    return {};
}

long ClipRecorder::frames() const {
    return m_impl->frames;
}
double ClipRecorder::seconds() const {
    return std::max<std::int64_t>(0, m_impl->lastMs) / 1000.0;
}
long long ClipRecorder::bytes() const {
    return m_impl->bytes;
}

Result<long> recoverClip(const std::string& partPath, const std::string& path) {
    auto input = openRecording(partPath);
    if (!input) return 0L;
    const AVStream* from = (*input)->streams[0];
    const AVDictionaryEntry* made = av_dict_get((*input)->metadata, "creation_time", nullptr, 0);
    const AVRational rate = from->avg_frame_rate;
    const std::string whole = path + ".whole";
    long frames = 0;
    {
        auto output = openMatroska(whole, from->codecpar->width, from->codecpar->height,
                                   rate.num > 0 && rate.den > 0 ? av_q2d(rate) : 30, made ? made->value : "", false);
        if (!output) return output.error();
        const PacketHandle packet(av_packet_alloc());
        int code = 0;
        while (code >= 0 && av_read_frame(input->get(), packet.get()) >= 0) {
            // The last picture may be cut off: a whole one ends with JPEG's end mark.
            const bool good = packet->stream_index == 0 && packet->size > 4 && packet->data[0] == 0xff &&
                              packet->data[1] == 0xd8 && !(packet->flags & AV_PKT_FLAG_CORRUPT);
            if (good) {
                av_packet_rescale_ts(packet.get(), from->time_base, (*output)->streams[0]->time_base);
                packet->pos = -1;
                code = av_write_frame(output->get(), packet.get());
                if (code >= 0) ++frames;
            }
            av_packet_unref(packet.get());
        }
        if (code >= 0 && frames > 0) code = av_write_trailer(output->get());
        if (code >= 0) code = (*output)->pb->error;
        output->reset();
        if (code < 0 || frames == 0) {
            std::error_code ignored;
            std::filesystem::remove(whole, ignored);
            if (code < 0) return diskProblem(path, code);
            return 0L;
        }
    }
    syncFile(whole);
    std::error_code problem;
    std::filesystem::rename(whole, path, problem);
    if (problem) return Error{"The recording could not be saved.", path};
    std::filesystem::remove(partPath, problem);
    return frames;
}

struct LiveClip::Impl {
    std::string path;
    InputHandle input;
    PacketHandle packet{av_packet_alloc()};
    SourceFacts facts;
    double startS = 0;
    bool started = false;
};

LiveClip::LiveClip(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
LiveClip::LiveClip(LiveClip&&) noexcept = default;
LiveClip& LiveClip::operator=(LiveClip&&) noexcept = default;
LiveClip::~LiveClip() = default;
const SourceFacts& LiveClip::facts() const {
    return m_impl->facts;
}

Result<LiveClip> LiveClip::open(const std::string& path) {
    auto input = openRecording(path);
    if (!input) return input.error();
    auto impl = std::make_unique<Impl>();
    impl->path = path;
    impl->input = std::move(*input);
    const AVStream* s = impl->input->streams[0];
    const AVRational rate = av_guess_frame_rate(impl->input.get(), impl->input->streams[0], nullptr);
    impl->facts.width = s->codecpar->width;
    impl->facts.height = s->codecpar->height;
    impl->facts.frameRate = rate.num > 0 && rate.den > 0 ? av_q2d(rate) : 30;
    if (impl->input->duration > 0) impl->facts.durationS = static_cast<double>(impl->input->duration) / AV_TIME_BASE;
    return LiveClip(std::move(impl));
}

Result<bool> LiveClip::next(LiveFrame& frame) {
    Impl& m = *m_impl;
    if (av_read_frame(m.input.get(), m.packet.get()) < 0) return false;
    const double timeS = static_cast<double>(m.packet->pts) * av_q2d(m.input->streams[0]->time_base);
    if (!m.started) m.startS = timeS, m.started = true;
    frame = {timeS - m.startS,
             std::make_shared<const std::vector<std::uint8_t>>(m.packet->data, m.packet->data + m.packet->size)};
    av_packet_unref(m.packet.get());
    return true;
}

Result<void> LiveClip::rewind() {
    auto again = open(m_impl->path);
    if (!again) return again.error();
    *this = std::move(*again);
    return {};
}

}  // namespace zevo::media

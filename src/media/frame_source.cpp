#include "media/frame_source.h"

#include <array>
#include <fstream>
#include <vector>

#include "media/av_handles.h"

extern "C" {
#include <libavutil/mem.h>
#include <libavutil/sha.h>
}

namespace zevo::media {
namespace {

class ClipSource final : public FrameSource {
  public:
    explicit ClipSource(ClipReader reader) : m_reader(std::move(reader)) {
        const ClipInfo& i = m_reader.info();
        m_facts = {i.width, i.height, i.durationS, i.frameRate, i.frames, i.rotationDeg, false, i.filmedAt};
    }
    const SourceFacts& facts() const override { return m_facts; }
    Result<bool> next(VideoFrame& frame) override { return m_reader.next(frame); }
    bool canSeek() const override { return true; }
    Result<void> seek(double timeS) override { return m_reader.seek(timeS); }
    int damaged() const override { return m_reader.damagedPackets(); }

  private:
    ClipReader m_reader;
    SourceFacts m_facts;
};

}  // namespace

Result<void> FrameSource::seek(double) {
    return Error{"This source cannot be wound to another moment.", "seek"};
}

Result<std::unique_ptr<FrameSource>> openClip(const std::string& path, const ReadOptions& options) {
    auto reader = ClipReader::open(path, options);
    if (!reader) return reader.error();
    return std::unique_ptr<FrameSource>(std::make_unique<ClipSource>(std::move(*reader)));
}

std::string sha256OfFile(const std::string& path) {
    std::ifstream in(path, std::ios::binary);
    if (!in) return {};
    const std::unique_ptr<AVSHA, void (*)(void*)> sha(av_sha_alloc(), av_free);
    if (!sha || av_sha_init(sha.get(), 256) < 0) return {};
    std::vector<char> block(1 << 16);
    while (in.read(block.data(), static_cast<std::streamsize>(block.size())) || in.gcount() > 0)
        av_sha_update(sha.get(), reinterpret_cast<const std::uint8_t*>(block.data()),
                      static_cast<std::size_t>(in.gcount()));
    std::array<std::uint8_t, 32> digest{};
    av_sha_final(sha.get(), digest.data());
    static const char* const kHex = "0123456789abcdef";
    std::string out;
    for (std::uint8_t b : digest) out += {kHex[b >> 4], kHex[b & 15]};
    return out;
}

}  // namespace zevo::media

#include "pipeline/review_proxy.h"

#include <optional>

#include "media/clip_reader.h"
#include "media/clip_writer.h"

namespace zevo::pipeline {
namespace {

constexpr double kBeginning = 0.002;  // seconds
constexpr int kQuickGap = 30;         // frames between key frames up to which a jump stays under about 100 ms at 720p

/// H.264 wants even sides.
PictureView evenPart(const Picture& p) {
    return {p.rgb.data(), p.width & ~1, p.height & ~1, p.width * 3};
}

}  // namespace

Result<bool> needsReviewProxy(const std::string& clip) {
    const auto gap = media::longestKeyFrameGap(clip);
    if (!gap) return gap.error();
    return *gap > kQuickGap;
}

Result<void> makeReviewProxy(const std::string& clip, const std::string& out, const std::atomic<bool>& cancel,
                             const OnProgress& progress) {
    auto reader = media::ClipReader::open(clip, {1280});
    if (!reader) return reader.error();
    media::WriteOptions options;
    options.keyFrameInterval = 12;
    options.quality = 21;
    options.frameRate = reader->info().frameRate;
    options.preset = "ultrafast";
    std::optional<media::ClipWriter> writer;
    media::VideoFrame frame;
    for (;;) {
        if (cancel) return refusal(NoticeKind::Stopped);
        auto more = reader->next(frame);
        if (!more) return more.error();
        if (!*more) break;
        const PictureView view = evenPart(frame.picture);
        if (!writer) {
            auto made = media::ClipWriter::create(out, view.width, view.height, options);
            if (!made) return made.error();
            writer.emplace(std::move(*made));
        }
        // A copy whose first picture came later than its clip's beginning would be wound back by just that much when
        // it is read again: the first picture that can be shown stands for those before it.
        if (frame.index == 0 && frame.timeS > kBeginning)
            if (auto wrote = writer->write(view, 0); !wrote) return wrote;
        if (auto wrote = writer->write(view, frame.timeS); !wrote) return wrote;
        if (progress && frame.index % 10 == 0)
            progress({frame.index, std::max(reader->info().frames, frame.index), 0, Doing::ViewingCopy});
    }
    if (!writer) return refusal(NoticeKind::NoPicture, {}, clip);
    return writer->finish();
}

}  // namespace zevo::pipeline

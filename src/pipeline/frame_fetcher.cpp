#include "pipeline/frame_fetcher.h"

#include <algorithm>
#include <cmath>
#include <condition_variable>
#include <map>
#include <mutex>
#include <optional>
#include <thread>

#include "media/clip_reader.h"

namespace zevo::pipeline {
namespace {

/// Decoding on over this many frames is cheaper than winding to the key frame before.
constexpr std::size_t kStepRatherThanSeek = 15;
constexpr std::size_t kReadAhead = 12;

}  // namespace

struct FrameFetcher::Impl {
    std::string clip;
    std::vector<double> timesS;
    OnFrame onFrame;
    OnProblem onProblem;
    Options options;

    std::mutex mutex;
    std::condition_variable_any wake;
    std::optional<std::size_t> wanted;

    // Touched by the worker only.
    std::optional<media::ClipReader> reader;
    std::map<std::size_t, Frame> kept;
    std::optional<std::size_t> position;  // frame delivered last by the reader

    std::jthread worker;  // last: it ends before the rest goes

    Impl(std::string c, std::vector<double> t, OnFrame f, OnProblem p, const Options& o)
        : clip(std::move(c)), timesS(std::move(t)), onFrame(std::move(f)), onProblem(std::move(p)), options(o) {}

    std::size_t indexOf(double timeS) const {
        const auto at = std::lower_bound(timesS.begin(), timesS.end(), timeS);
        if (at == timesS.begin()) return 0;
        if (at == timesS.end()) return timesS.size() - 1;
        const auto i = static_cast<std::size_t>(at - timesS.begin());
        return timeS - timesS[i - 1] < timesS[i] - timeS ? i - 1 : i;
    }

    void keep(std::size_t index, Frame frame, std::size_t around) {
        const std::size_t bytes = frame->rgb.size();
        kept[index] = std::move(frame);
        const std::size_t most = std::max<std::size_t>(3, options.budgetBytes / std::max<std::size_t>(1, bytes));
        while (kept.size() > most) {  // the one furthest from where the coach is looking goes
            const auto first = kept.begin(), last = std::prev(kept.end());
            const auto distance = [&](std::size_t i) { return i > around ? i - around : around - i; };
            kept.erase(distance(first->first) > distance(last->first) ? first : last);
        }
    }

    /// Reads the next frame of the file and keeps it; false at the end or on damage.
    bool readOne(std::size_t around) {
        media::VideoFrame frame;
        auto more = reader->next(frame);
        if (!more || !*more) {
            position.reset();
            return false;
        }
        position = indexOf(frame.timeS);
        keep(*position, std::make_shared<Picture>(std::move(frame.picture)), around);
        return true;
    }

    Frame fetch(std::size_t index) {
        if (!reader) return nullptr;
        if (const auto found = kept.find(index); found != kept.end()) return found->second;
        if (!position || index <= *position || index > *position + kStepRatherThanSeek) {
            position.reset();
            if (!reader->seek(timesS[index])) return nullptr;
        }
        while (readOne(index) && *position < index) {
        }
        // Time stamps of a cut may leave a number without a picture: the nearest one read stands for it.
        if (const auto found = kept.find(index); found != kept.end()) return found->second;
        return position && kept.count(*position) ? kept[*position] : nullptr;
    }

    void run(const std::stop_token& stop) {
        auto opened = media::ClipReader::open(clip, {options.maxSide});
        if (opened)
            reader.emplace(std::move(*opened));
        else if (onProblem)
            onProblem(opened.error());
        std::size_t last = 0, ahead = kReadAhead;
        while (!stop.stop_requested()) {
            std::optional<std::size_t> index;
            {
                std::unique_lock lock(mutex);
                const bool idle = ahead >= kReadAhead || !position || *position + 1 >= timesS.size();
                if (idle) wake.wait(lock, stop, [&] { return wanted.has_value(); });
                std::swap(index, wanted);
            }
            if (stop.stop_requested()) return;
            if (index) {
                last = *index;
                ahead = 0;
                onFrame(*index, fetch(*index));
            } else if (position && *position < last + kReadAhead) {
                readOne(last);
                ++ahead;
            } else {
                ahead = kReadAhead;
            }
        }
    }
};

FrameFetcher::FrameFetcher(std::string clip, std::vector<double> timesS, OnFrame onFrame, OnProblem onProblem,
                           const Options& options)
    : m_impl(std::make_unique<Impl>(std::move(clip), std::move(timesS), std::move(onFrame), std::move(onProblem),
                                    options)) {
    m_impl->worker = std::jthread([impl = m_impl.get()](const std::stop_token& stop) { impl->run(stop); });
}
FrameFetcher::~FrameFetcher() = default;

void FrameFetcher::want(std::size_t index) {
    if (m_impl->timesS.empty()) return;
    {
        std::lock_guard lock(m_impl->mutex);
        m_impl->wanted = std::min(index, m_impl->timesS.size() - 1);
    }
    m_impl->wake.notify_one();
}

}  // namespace zevo::pipeline

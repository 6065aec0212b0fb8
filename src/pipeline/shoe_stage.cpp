#include "pipeline/shoe_stage.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

namespace zevo::pipeline {
namespace {

/// Readings a second: eight serve as well as fifteen.
constexpr double kEveryS = 0.095;
/// Margins of a piece around heel and toe, shares of the foot: the canvas it is read on, and what the landmarks wander.
constexpr double kBehind = 1.0, kAhead = 0.9, kAbove = 1.4, kBelow = 0.8;
/// A larger foot fills the picture; its pieces would be as large as frames.
constexpr double kLargestFootPx = 160;

}  // namespace

struct ShoeViews::Kept {
    double timeS = 0;
    Side side = Side::Left;
    int x = 0, y = 0, width = 0, height = 0;
    long at = 0;
};

struct ShoeViews::File {
    std::FILE* handle = std::tmpfile();
    ~File() {
        if (handle) std::fclose(handle);
    }
};

ShoeViews::ShoeViews() : m_file(std::make_unique<File>()) {}
ShoeViews::~ShoeViews() = default;

Result<void> ShoeViews::add(const PictureView& picture, const PoseFrame& seen) {
    m_frameWidth = picture.width;
    const Error full{"There is no room on the disk to look at the shoes.", "temporary file"};
    if (!m_file->handle) return full;
    if (!m_kept.empty() && seen.timeS - m_kept.back().timeS < kEveryS) return {};
    for (Side side : {Side::Left, Side::Right}) {
        const auto& heel = seen.at(ofSide(Landmark::LeftHeel, side));
        const auto& toe = seen.at(ofSide(Landmark::LeftToe, side));
        const double foot = std::hypot(toe.x - heel.x, toe.y - heel.y);
        if (!seen.found || !(foot >= 0.5 * TurnedStrip::kLeastFootPx) || foot > kLargestFootPx) continue;
        const double rear = toe.x > heel.x ? kBehind : kAhead, fore = toe.x > heel.x ? kAhead : kBehind;
        const double low = std::max(heel.y, toe.y), high = std::min(heel.y, toe.y);
        const int x0 = std::max(0, static_cast<int>(std::min(heel.x, toe.x) - rear * foot)),
                  x1 = std::min(picture.width, static_cast<int>(std::max(heel.x, toe.x) + fore * foot)),
                  y0 = std::max(0, static_cast<int>(high - kAbove * foot)),
                  y1 = std::min(picture.height, static_cast<int>(low + kBelow * foot));
        if (x1 - x0 < 8 || y1 - y0 < 8) continue;
        if (std::fseek(m_file->handle, 0, SEEK_END) != 0) return full;
        Kept kept{seen.timeS, side, x0, y0, x1 - x0, y1 - y0, std::ftell(m_file->handle)};
        for (int y = y0; y < y1; ++y)
            if (std::fwrite(picture.rgb + static_cast<std::ptrdiff_t>(y) * picture.stride + 3 * x0, 3,
                            static_cast<std::size_t>(kept.width),
                            m_file->handle) != static_cast<std::size_t>(kept.width))
                return full;
        m_kept.push_back(kept);
    }
    return {};
}

std::vector<ShoeView> ShoeViews::between(Side side, double fromS, double toS) const {
    std::vector<ShoeView> out;
    for (const Kept& k : m_kept) {
        if (k.side != side || k.timeS < fromS || k.timeS > toS) continue;
        ShoeView view{k.timeS, Picture(k.width, k.height), Vec2(k.x, k.y)};
        if (std::fseek(m_file->handle, k.at, SEEK_SET) == 0 &&
            std::fread(view.picture.rgb.data(), 1, view.picture.rgb.size(), m_file->handle) == view.picture.rgb.size())
            out.push_back(std::move(view));
    }
    return out;
}

namespace {

class ShoeStage final : public FrameStage {
  public:
    explicit ShoeStage(std::shared_ptr<ShoeViews> views) : m_views(std::move(views)) {}
    Result<void> process(const media::VideoFrame& frame, PoseFrame& seen) override {
        // Without room for them the shoes are not read; all else is.
        if (!m_full) m_full = !m_views->add(frame.picture.view(), seen);
        return {};
    }

  private:
    std::shared_ptr<ShoeViews> m_views;
    bool m_full = false;
};

/// Where the shoe stands just before a repetition, pixels of the delivered picture.
StandingShoe standingBefore(const PoseFrames& poses, Side side, double fromS, double toS, double scale) {
    std::array<std::vector<double>, 4> places;
    for (const auto& f : poses) {
        if (!f.found || f.timeS < fromS || f.timeS > toS) continue;
        const auto &heel = f.at(ofSide(Landmark::LeftHeel, side)), &toe = f.at(ofSide(Landmark::LeftToe, side));
        places[0].push_back(heel.x), places[1].push_back(heel.y), places[2].push_back(toe.x),
            places[3].push_back(toe.y);
    }
    auto middle = [&](std::size_t k) {
        auto& v = places[k];
        if (v.empty()) return 0.0;
        std::nth_element(v.begin(), v.begin() + static_cast<std::ptrdiff_t>(v.size() / 2), v.end());
        return v[v.size() / 2] / scale;
    };
    return {{middle(0), middle(1)}, {middle(2), middle(3)}};
}

/// Whether the shoe is still where it stood: one that has stepped away is another picture altogether, and what looks
/// like it there is chance.
bool standsStill(const PoseFrame& seen, Side side, const StandingShoe& shoe, double scale) {
    constexpr double kStepped = 0.4;  // of the foot's length
    auto moved = [&](Landmark left, const Vec2& stood) {
        const LandmarkPoint& p = seen.at(ofSide(left, side));
        return (Vec2(p.x, p.y) / scale - stood).norm();
    };
    return seen.found && std::min(moved(Landmark::LeftHeel, shoe.heel), moved(Landmark::LeftToe, shoe.toe)) <
                             kStepped * shoe.length();
}

/// Views of all workers, each moment once.
std::vector<ShoeView> viewsBetween(const std::vector<std::shared_ptr<ShoeViews>>& all, Side side, double fromS,
                                   double toS) {
    std::vector<ShoeView> out;
    for (const auto& views : all)
        for (auto& v : views->between(side, fromS, toS)) out.push_back(std::move(v));
    std::stable_sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.timeS < b.timeS; });
    // Where two workers overlap, both kept theirs.
    std::vector<ShoeView> once;
    for (auto& v : out)
        if (once.empty() || v.timeS - once.back().timeS > 0.4 * kEveryS) once.push_back(std::move(v));
    return once;
}

}  // namespace

std::unique_ptr<FrameStage> makeShoeStage(std::shared_ptr<ShoeViews> views) {
    return std::make_unique<ShoeStage>(std::move(views));
}

void readShoes(const std::vector<std::shared_ptr<ShoeViews>>& views, const MeasuredView& found, Observation& seen) {
    int width = 0;
    for (const auto& v : views) width = std::max(width, v->frameWidth());
    if (width == 0) return;
    const double scale = static_cast<double>(seen.clip.width) / width;  // the source's pixels for one of the frame
    const Track& t = *found.track;
    if (t.view != ViewKind::Side && t.view != ViewKind::Oblique) return;
    // The last moment before the repetition; a little longer where too few views lie in it.
    constexpr double kBeforeS = 0.30, kLongerS = 0.60, kIntoS = 0.02;
    for (const Rep& rep : found.reps) {
        const double start = t.timesS[rep.start], end = t.timesS[rep.end];
        const auto all = viewsBetween(views, t.near, start - kLongerS, end);
        std::vector<const ShoeView*> before;
        for (double reach : {kBeforeS, kLongerS}) {
            before.clear();
            for (const auto& v : all)
                if (v.timeS >= start - reach && v.timeS <= start + kIntoS) before.push_back(&v);
            if (before.size() >= 3) break;
        }
        const StandingShoe shoe = standingBefore(seen.poses, t.near, start - kLongerS, start + kIntoS, scale);
        TurnedStrip strip(shoe, before);
        for (const auto& v : all) {
            if (v.timeS < start) continue;
            const auto frame = std::lower_bound(seen.poses.begin(), seen.poses.end(), v.timeS - 1e-6,
                                                [](const PoseFrame& f, double at) { return f.timeS < at; });
            if (frame == seen.poses.end()) break;
            TurnedStrip::Lift lift;
            lift.heel.state = lift.toe.state = ShoeReading::State::Unclear;
            if (strip.readable() && standsStill(*frame, t.near, shoe, scale)) lift = strip.read(v);
            for (auto [reading, place] : {std::pair(&lift.heel, 0), {&lift.toe, 2}}) {
                for (float* length : {&reading->rise, &reading->half, &reading->apart})
                    *length *= static_cast<float>(scale);
                frame->shoes[static_cast<std::size_t>(place + (t.near == Side::Right))] = *reading;
            }
        }
    }
}

}  // namespace zevo::pipeline

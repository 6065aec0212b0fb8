#include "pipeline/kept_pieces.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <mutex>

#include "vision/turned_strip.h"

namespace zevo::pipeline {
namespace {

/// Eight readings a second serve as well as fifteen.
constexpr double kEveryS = 0.095;
/// Margins of a piece around heel and toe, shares of the foot: the canvas it is read on, and what the landmarks wander.
constexpr double kBehind = 1.0, kAhead = 0.9, kAbove = 1.4, kBelow = 0.8;
/// A larger foot fills the picture; its pieces would be as large as frames.
constexpr double kLargestFootPx = 160;
/// Half a head's piece, share of the person's extent in the picture (the tallest of the clip so far): twice a head's
/// radius.
constexpr double kHead = 0.16;

}  // namespace

struct KeptPieces::Kept {
    double timeS = 0;
    PieceOf what = PieceOf::Head;
    int x = 0, y = 0, width = 0, height = 0;
    long at = 0;
};

struct KeptPieces::File {
    std::FILE* handle = std::tmpfile();
    std::mutex place;  // the file's, while it is sought and read
    ~File() {
        if (handle) std::fclose(handle);
    }
};

KeptPieces::KeptPieces() : m_file(std::make_unique<File>()) {}
KeptPieces::~KeptPieces() = default;

Result<void> KeptPieces::keep(const PictureView& picture, double timeS, PieceOf what, const Vec2& upperLeft,
                              const Vec2& lowerRight) {
    const int x0 = std::max(0, static_cast<int>(upperLeft.x())), y0 = std::max(0, static_cast<int>(upperLeft.y())),
              x1 = std::min(picture.width, static_cast<int>(lowerRight.x())),
              y1 = std::min(picture.height, static_cast<int>(lowerRight.y()));
    if (x1 - x0 < 8 || y1 - y0 < 8) return {};
    const Error full{"There is no room on the disk to look at shoes and head.", "temporary file"};
    if (!m_file->handle || std::fseek(m_file->handle, 0, SEEK_END) != 0) return full;
    const Kept kept{timeS, what, x0, y0, x1 - x0, y1 - y0, std::ftell(m_file->handle)};
    const auto width = static_cast<std::size_t>(kept.width);
    for (int y = y0; y < y1; ++y)
        if (std::fwrite(picture.rgb + static_cast<std::ptrdiff_t>(y) * picture.stride + 3 * x0, 3, width,
                        m_file->handle) != width)
            return full;
    m_kept.push_back(kept);
    return {};
}

Result<void> KeptPieces::add(const PictureView& picture, const PoseFrame& seen) {
    m_frameWidth = picture.width;
    if (!seen.found || seen.timeS - m_lastS < kEveryS) return {};
    m_lastS = seen.timeS;
    m_personPx = std::max(m_personPx, extentOf(seen));
    auto place = [&](Landmark id) { return Vec2(seen.at(id).x, seen.at(id).y); };
    for (Side side : {Side::Left, Side::Right}) {
        const Vec2 heel = place(ofSide(Landmark::LeftHeel, side)), toe = place(ofSide(Landmark::LeftToe, side));
        const double foot = (toe - heel).norm();
        if (!(foot >= 0.5 * TurnedStrip::kLeastFootPx) || foot > kLargestFootPx) continue;
        const bool right = toe.x() > heel.x();
        const Vec2 before((right ? kBehind : kAhead) * foot, kAbove * foot),
            behind((right ? kAhead : kBehind) * foot, kBelow * foot);
        if (auto kept = keep(picture, seen.timeS, side == Side::Left ? PieceOf::LeftShoe : PieceOf::RightShoe,
                             heel.cwiseMin(toe) - before, heel.cwiseMax(toe) + behind);
            !kept)
            return kept;
    }
    const Vec2 head = (place(Landmark::LeftEar) + place(Landmark::RightEar) + place(Landmark::Nose)) / 3,
               half = Vec2::Constant(kHead * m_personPx);
    return keep(picture, seen.timeS, PieceOf::Head, head - half, head + half);
}

std::vector<FramePiece> KeptPieces::between(PieceOf what, double fromS, double toS) const {
    std::vector<FramePiece> out;
    for (const Kept& k : m_kept) {
        if (k.what != what || k.timeS < fromS || k.timeS > toS) continue;
        FramePiece piece{k.timeS, Picture(k.width, k.height), Vec2(k.x, k.y)};
        const std::lock_guard lock(m_file->place);
        if (std::fseek(m_file->handle, k.at, SEEK_SET) == 0 &&
            std::fread(piece.picture.rgb.data(), 1, piece.picture.rgb.size(), m_file->handle) ==
                piece.picture.rgb.size())
            out.push_back(std::move(piece));
    }
    return out;
}

std::vector<FramePiece> piecesBetween(const AllPieces& all, PieceOf what, double fromS, double toS) {
    std::vector<FramePiece> out;
    for (const auto& pieces : all)
        for (auto& p : pieces->between(what, fromS, toS)) out.push_back(std::move(p));
    std::stable_sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.timeS < b.timeS; });
    // Where two workers overlap, both kept theirs.
    std::vector<FramePiece> once;
    for (auto& p : out)
        if (once.empty() || p.timeS - once.back().timeS > 0.4 * kEveryS) once.push_back(std::move(p));
    return once;
}

int frameWidthOf(const AllPieces& all) {
    int width = 0;
    for (const auto& pieces : all) width = std::max(width, pieces->frameWidth());
    return width;
}

namespace {

class PieceStage final : public FrameStage {
  public:
    explicit PieceStage(std::shared_ptr<KeptPieces> pieces) : m_pieces(std::move(pieces)) {}
    Result<void> process(const media::VideoFrame& frame, PoseFrame& seen) override {
        if (!m_full) m_full = !m_pieces->add(frame.picture.view(), seen);
        return {};
    }

  private:
    std::shared_ptr<KeptPieces> m_pieces;
    bool m_full = false;
};

}  // namespace

std::unique_ptr<FrameStage> makePieceStage(std::shared_ptr<KeptPieces> pieces) {
    return std::make_unique<PieceStage>(std::move(pieces));
}

}  // namespace zevo::pipeline

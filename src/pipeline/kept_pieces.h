#pragma once

#include <memory>
#include <span>
#include <vector>

#include "core/base/result.h"
#include "core/body/landmarks.h"
#include "pipeline/frame_stage.h"
#include "vision/frame_piece.h"

namespace zevo::pipeline {

enum class PieceOf { LeftShoe, RightShoe, Head };

/// Pieces of frames with the client's shoes and head in them, about ten a second, kept until the repetitions are known.
/// They lie in a file without a name that goes with this object, so that a long set costs disk and not memory; nobody
/// else can open it. Kept by one thread; read by any number of them afterwards.
class KeptPieces {
  public:
    KeptPieces();
    ~KeptPieces();
    KeptPieces(const KeptPieces&) = delete;
    KeptPieces& operator=(const KeptPieces&) = delete;

    /// Keeps the pieces of a frame, unless the last are too young. Error: the disk is full.
    Result<void> add(const PictureView& picture, const PoseFrame& seen);
    /// Those of one kind in a span of time, in order. Pieces that cannot be read again are left out.
    std::vector<FramePiece> between(PieceOf what, double fromS, double toS) const;
    /// Width of the frames they were cut from; 0 before the first.
    int frameWidth() const { return m_frameWidth; }

  private:
    struct Kept;
    Result<void> keep(const PictureView& picture, double timeS, PieceOf what, const Vec2& upperLeft,
                      const Vec2& lowerRight);
    std::vector<Kept> m_kept;
    double m_lastS = -1e9, m_personPx = 0;
    int m_frameWidth = 0;
    struct File;
    std::unique_ptr<File> m_file;
};

/// What all workers over one clip kept.
using AllPieces = std::vector<std::shared_ptr<KeptPieces>>;

/// Pieces of all workers, each moment once.
std::vector<FramePiece> piecesBetween(const AllPieces& all, PieceOf what, double fromS, double toS);
/// Width of the frames that the pieces were cut from; 0: there are none.
int frameWidthOf(const AllPieces& all);

/// Keeps pieces while the frames go by; without room for them they are not kept, and all else goes on.
std::unique_ptr<FrameStage> makePieceStage(std::shared_ptr<KeptPieces> pieces);

}  // namespace zevo::pipeline

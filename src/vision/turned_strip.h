#pragma once

#include <array>
#include <vector>

#include "core/base/vectors.h"
#include "core/body/landmarks.h"
#include "vision/frame_piece.h"

namespace zevo {

/// Where a shoe stands at rest, pixels of the frames: heel and toe landmarks.
struct StandingShoe {
    Vec2 heel = Vec2::Zero(), toe = Vec2::Zero();
    double length() const { return (toe - heel).norm(); }
};

/// How far the heel (and, where the heel stays down, the toe) of a planted shoe has risen in each view, against the
/// moment before the repetition.
///
/// A strip of the shoe's rear half, a little above the lower edge of its sole, is looked for in every frame, turned
/// about the ball of the foot by −6…30° and shifted by a few pixels, with the forefoot held still. What is found is an
/// angle, so that the rise follows from geometry and not from where a landmark was put. The strips leave the floor and
/// its shadow out: those stay where they are when the heel rises and would hold it down. Two strips of different
/// height are looked for each by itself; where they disagree, or where other angles fit almost as well, there is no
/// reading.
///
/// All lengths are shares of the foot, drawn at 48 pixels. Method and first thresholds: own measurements on figures
/// drawn by three renderers; the thresholds were frozen before the last test.
class TurnedStrip {
  public:
    /// The smallest foot that is read, heel to toe, pixels of the frame: below, a dark sole is lost in its shadow.
    static constexpr double kLeastFootPx = 28;

    /// `before`: views from the last moment before the repetition, standing. Nothing is read when there are fewer than
    /// three, the foot is too small, or it does not stand flat (readable()).
    TurnedStrip(const StandingShoe& shoe, const std::vector<const FramePiece*>& before);
    bool readable() const { return m_readable; }

    struct Lift {
        ShoeReading heel, toe;  ///< lengths in pixels of the frame
    };
    /// Views in order of time: the forefoot is looked for around its last place.
    Lift read(const FramePiece& view);

  private:
    /// One end of the shoe that may rise, and what holds still meanwhile, along the foot.
    struct End {
        double pivot, from, to, farEnd;
        double steadyFrom, steadyTo;
        int sense;  ///< +1: the heel rises, −1: the toe
    };
    static constexpr std::size_t kHeel = 0, kToe = 1;
    static constexpr std::array<End, 2> kEnds{
        {{0.62, -0.14, 0.42, -0.20, 0.55, 1.12, 1}, {-0.08, 0.50, 1.02, 1.12, -0.45, 0.12, -1}}};
    struct Colours {
        int width = 0, height = 0;
        std::vector<float> rgb;
    };
    struct Found {
        double score = 0, rise = 0, half = 0;
        bool valid = false;
    };
    Colours onCanvas(const FramePiece& view) const;
    bool findSole();
    Vec2 at(double u, double v) const;
    Vec2 steadied(const Colours& seen, const End& end, Vec2& last) const;
    Found find(const Colours& seen, const Vec2& shift, const End& end, double low, double high, double self) const;
    ShoeReading readEnd(const Colours& seen, std::size_t which, bool& risen);

    StandingShoe m_shoe;
    bool m_readable = false, m_mirrored = false;
    double m_scale = 1;               ///< canvas pixels for one of the frame
    double m_soleY = 0, m_slope = 0;  ///< of the sole's lower edge at the heel, canvas
    Colours m_reference;
    /// How well a standing view finds itself: by end and strip.
    std::array<std::array<double, 2>, 2> m_self{};
    std::array<Vec2, 2> m_shift{Vec2::Zero(), Vec2::Zero()};
};

}  // namespace zevo

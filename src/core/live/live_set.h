#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "core/judge/set_result.h"
#include "core/reps/reps.h"
#include "core/track/track.h"

namespace zevo {

/// A set while it is being done: the same repetitions as the answer will have, as far as they are over. Poses come in
/// time order; reading() is brought up to date now and then, never for every pose.
class LiveSet {
  public:
    struct Reading {
        int reps = 0;                                          ///< whole ones
        int partial = 0;                                       ///< begun and not gone far enough; not in `reps`
        double tensionS = 0;                                   ///< of the repetitions so far
        double lastEndS = 0;                                   ///< of the last repetition; 0 before the first
        double lastLowerS = 0, lastPauseS = 0, lastLiftS = 0;  ///< its times
        double lastDepth = 0;                                  ///< its depth, as below
        double depth = 0;                                      ///< now: 0 at rest … (series.h)
        bool atRest = true;                                    ///< between repetitions
        ViewKind view = ViewKind::Side;
    };

    LiveSet(const SetContext& context, int pictureWidth, int pictureHeight);
    void add(const PoseFrame& pose);
    const Reading& reading() const { return m_reading; }
    /// All poses so far, as they came.
    const PoseFrames& poses() const { return m_poses; }
    /// Brings the reading up to date now.
    void update();

  private:
    SetContext m_context;
    int m_width, m_height;
    PoseFrames m_poses;
    double m_updatedS = -1e9;
    Reading m_reading, m_frozen;  ///< `m_frozen`: of what lies before the window that is still looked at
    std::size_t m_from = 0;       ///< first pose of that window
};

}  // namespace zevo

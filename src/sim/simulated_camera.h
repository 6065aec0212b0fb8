#pragma once

#include <atomic>
#include <memory>
#include <string>
#include <vector>

#include "media/live_source.h"
#include "sim/clip_maker.h"

namespace zevo::sim {

/// Where the simulated camera stands, against where it should: beside or before the client, square to them, at the
/// height of their hips.
struct Placement {
    double distanceM = 3.3, heightM = 1.0;
    double turnDeg = 0;   ///< walked round the client, from square; towards their front +
    double aimDeg = 0;    ///< pointed past them, to the picture's right +
    double tiltDeg = 0;   ///< pointed up +, from the client's middle
    double rollDeg = 0;   ///< not level, clockwise +
    double light = 1;     ///< 1 = a well-lit room
    std::string inFront;  ///< see SceneSpec
    bool bystander = false;
    bool operator==(const Placement&) const = default;
};

/// What the virtual client in front of the simulated camera does: dials a coach can turn.
struct ClientDials {
    std::string movement = "squat", variation;
    std::string fault;   ///< id of what they do wrong (faultsOf()); empty: nothing
    double size = 1;     ///< of the fault: 0 none … 1 plain to see
    bool front = false;  ///< seen from the front (a bridge: from the foot end); else from their right side
    int reps = 5;
    double statureCm = 175;
    unsigned look = 1;  ///< who they are: colours of skin and clothes
    Placement camera;
    int width = 1280, height = 720;
    bool operator==(const ClientDials&) const = default;
};

/// Faults the virtual client can show in a movement, each in the view that shows it.
std::vector<std::string> faultsOf(const std::string& movement, bool front);

/// The set as a clip to be drawn: they stand still, do their repetitions, stand still again.
ClipSpec setOf(const ClientDials& dials);
/// The client before their set, standing (or lying) still: a few pictures, to be repeated.
ClipSpec restOf(const ClientDials& dials);

/// A client who listens: what is left of a fault after its cue was given. `listens`: 0 not at all … 1 wholly.
double afterCue(double size, double listens);

/// Draws either as a clip of JPEG pictures, so that it can be played without being drawn while something is measured.
Result<void> drawLiveClip(const ClipSpec& spec, const std::string& path, const Progress& progress = {});

/// The camera that is always there: plays drawn clips at the pace of a camera. The client rests until begin(), does
/// their set once, and rests again. Calls other than next() may come from any thread.
class SimulatedCamera final : public media::LiveSource {
  public:
    /// `rest`: the client at rest. `pace`: 1 = as a camera does.
    static Result<std::unique_ptr<SimulatedCamera>> open(const std::string& rest, double pace = 1);
    ~SimulatedCamera() override;

    const media::SourceFacts& facts() const override;
    Result<bool> next(media::LiveFrame& frame) override;
    void stop() override;

    /// The camera was put somewhere else: another clip of the client at rest, of the same size.
    void setRest(const std::string& path);
    /// What begin() will play.
    void setSet(const std::string& path);
    bool hasSet() const;
    /// The client begins their set. False where none is drawn yet, or one is under way.
    bool begin();
    bool isMoving() const;
    /// Somebody pulls the plug: next() answers as an unplugged camera does.
    void unplug();

  private:
    struct Impl;
    explicit SimulatedCamera(std::unique_ptr<Impl> impl);
    std::unique_ptr<Impl> m_impl;
};

}  // namespace zevo::sim

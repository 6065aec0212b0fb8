#pragma once

#include <atomic>
#include <string>
#include <vector>

#include "core/live/camera_check.h"
#include "pipeline/analyse_clip.h"
#include "pipeline/live_session.h"
#include "sim/simulated_camera.h"

namespace zevo::pipeline {

/// A camera the coach can choose.
struct CameraChoice {
    std::string id;          ///< "simulated", or the device: "/dev/video0"
    std::string name;        ///< as it calls itself; empty for the simulated one
    media::CameraMode mode;  ///< it would be opened with
    std::vector<media::CameraMode> modes;
};
/// Those plugged in now, the simulated one last: it is always there.
std::vector<CameraChoice> camerasToChoose();

/// The simulated camera's clips, drawn into `folder` unless they are there already from these very dials. The folder is
/// kept small: what was not used for longest goes first.
Result<std::string> drawnRest(const sim::ClientDials& dials, const std::string& folder,
                              const std::atomic<bool>& cancel);
Result<std::string> drawnSet(const sim::ClientDials& dials, const std::string& folder, const std::atomic<bool>& cancel,
                             const OnProgress& progress = {});

/// Where the simulated camera stands after somebody did what the check said.
sim::Placement moved(sim::Placement placement, CameraMove move, double amount);

}  // namespace zevo::pipeline

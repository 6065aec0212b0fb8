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
    std::string id;          ///< "simulated", or device and mode: "/dev/video0 1280x720 30 mjpeg"
    std::string name;        ///< as it calls itself; empty for the simulated one
    std::string device;      ///< to be opened; empty for the simulated one
    media::CameraMode mode;  ///< it is opened with
    bool best = true;        ///< of its camera's modes, the one to film with
};
/// Every camera with each size it can film in, its best one first; the simulated camera last: it is always there.
std::vector<CameraChoice> choicesOf(const std::vector<media::CameraInfo>& cameras);
/// Of those plugged in now.
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

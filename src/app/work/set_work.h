#pragma once

#include <QString>
#include <atomic>
#include <memory>

#include "analysis/analyse_clip.h"
#include "app/review/review_presenter.h"
#include "core/result.h"
#include "store/library.h"

namespace zevo::app {

/// What can be done with a set away from the window's thread. Each call opens the library folder itself, because a
/// database connection belongs to one thread.
struct LoadedSet {
    store::SetId id{};
    store::Client client;
    store::Clip clip;
    QDate heldOn;
    std::vector<store::Correction> corrections;
    QString viewingPath;  ///< the clip, or the copy that is quick to jump about in; empty when the video is not there
    QString missing;      ///< why there is no video, in plain words
    std::vector<double> frameTimesS;
    std::shared_ptr<ReviewPresenter> presenter;
};

struct ImportRequest {
    QString libraryFolder, clipPath, movement = "squat", standard, model = "full";
    store::ClientId client{};
};

/// Measures a clip and writes it to the client's record. Errors are sentences for the coach; nothing is kept then.
Result<LoadedSet> importClip(const ImportRequest& request, const std::atomic<bool>& cancel,
                             const analysis::OnProgress& progress);

/// Shows a recorded set again: no network runs, the video is only looked for.
Result<LoadedSet> openSet(const QString& libraryFolder, store::SetId id, const std::atomic<bool>& cancel,
                          const analysis::OnProgress& progress);

/// Makes the demo library: the scenario's clients, clips and measured sets. Returns the set to show first.
/// What is already there is left as it is.
Result<LoadedSet> prepareDemo(const QString& libraryFolder, const std::atomic<bool>& cancel,
                              const analysis::OnProgress& progress);

}  // namespace zevo::app

#pragma once

#include <QString>
#include <QStringList>
#include <atomic>
#include <memory>
#include <optional>

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
    /// The other view, where there is one.
    std::optional<store::SecondClip> second;
    QString secondPath, secondMissing;
    std::vector<double> secondTimesS;
    SetContext context;
    QStringList refusedStandards;  ///< own files that cannot be used, a sentence each
    std::shared_ptr<ReviewPresenter> presenter;
};

struct ImportRequest {
    QString libraryFolder, clipPath, movement = "squat", variation, standard, model = "full";
    store::ClientId client{};
    double loadShare = 0;
};

/// Measures a clip and writes it to the client's record. Errors are sentences for the coach; nothing is kept then.
Result<LoadedSet> importClip(const ImportRequest& request, const std::atomic<bool>& cancel,
                             const analysis::OnProgress& progress);

/// Shows a recorded set again: no network runs, the video is only looked for.
Result<LoadedSet> openSet(const QString& libraryFolder, store::SetId id, const std::atomic<bool>& cancel,
                          const analysis::OnProgress& progress);

/// Measures another view of a recorded set and joins it to the record. Errors leave the set as it was.
Result<LoadedSet> addSecondClip(const QString& libraryFolder, store::SetId id, const QString& clipPath, bool together,
                                const QString& model, const std::atomic<bool>& cancel,
                                const analysis::OnProgress& progress);

/// Where the coach's own standards lie.
QString ownStandards(const QString& libraryFolder);

/// Makes the demo library: the clients, clips and measured sets of the demo's story, or of another file of its form.
/// Returns the set to show first, or why there is none.
/// What is already there is left as it is.
Result<LoadedSet> prepareDemo(const QString& libraryFolder, const QString& story, const std::atomic<bool>& cancel,
                              const analysis::OnProgress& progress);

}  // namespace zevo::app

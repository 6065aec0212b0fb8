#pragma once

#include <QString>
#include <atomic>
#include <memory>
#include <optional>

#include "core/session/session.h"
#include "pipeline/analyse_clip.h"
#include "record/set_keeper.h"
#include "store/library.h"

namespace zevo::record {

// Clips become sets. Each call opens the library folder itself, because a database connection belongs to one thread;
// for threads other than the window's.

struct ImportRequest {
    QString libraryFolder, clipPath;
    SetFacts facts;    ///< stature, mass, pain and choices are taken from the client
    QString standard;  ///< empty = the movement's default
    QString model = "full";
    store::ClientId client{};
    std::shared_ptr<const Catalogue> catalogue;
    QString author{};  ///< the coach's name as set on this computer
};

/// What a measured clip has become.
struct Imported {
    store::SetId id{};
    store::ClientId client{};
    QString headline;
};

/// Measures a clip and writes it to the client's record. Outlines and viewing copy are tried last: when they fail the
/// set is kept without them. Errors are for the coach; nothing is kept then, and no file is left behind.
Result<Imported> importClip(const ImportRequest& request, const std::atomic<bool>& cancel,
                            const pipeline::OnProgress& progress);

/// The same without a set in the record yet: fileMeasured() puts it there, dropMeasured() lets it go.
Result<store::NewSet> measureClip(const ImportRequest& request, const std::atomic<bool>& cancel,
                                  const pipeline::OnProgress& progress);
/// Files it under a client, who need not be the one it was measured for: stature, mass, pain, flags and choices are
/// this one's, and it is judged anew.
Result<Imported> fileMeasured(const QString& libraryFolder, store::NewSet set, store::ClientId client,
                              const std::shared_ptr<const Catalogue>& catalogue);
void dropMeasured(const QString& libraryFolder, const store::NewSet& set);

/// Follows the client in another clip, for a set that is open and is judged in `context`; no set is changed.
Result<store::Seen> observeForSet(const QString& libraryFolder, const QString& clipPath, const SetContext& context,
                                  const std::atomic<bool>& cancel, const pipeline::OnProgress& progress,
                                  const std::optional<pipeline::PersonAt>& person = {});

/// Adds the outlines at the turning points of `state`; where they cannot be had, a notice. Error: stopped.
Result<void> addOutlines(const std::string& clip, const SetState& state, Observation& seen,
                         const std::atomic<bool>& cancel, const pipeline::OnProgress& progress);
/// Adds the outlines over the repetitions, about ten a second, where the line of the back can be read from them (a side
/// view); nothing where they cannot be had. Error: stopped.
Result<void> addContours(const std::string& clip, const SetState& state, Observation& seen,
                         const std::atomic<bool>& cancel, const pipeline::OnProgress& progress);

/// A network's size by its name, with the rest as usual.
Result<pipeline::AnalyseOptions> optionsFor(const QString& model);

}  // namespace zevo::record

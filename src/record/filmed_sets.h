#pragma once

#include <QDateTime>
#include <QString>
#include <atomic>
#include <memory>
#include <optional>

#include "core/live/filming_switch.h"
#include "pipeline/live_session.h"
#include "record/file_shelf.h"
#include "record/importing.h"

namespace zevo::record {

// What is filmed lies in the library's folder of recordings. It stands on the shelf before its first picture, with
// whose it is: what was broken off is found by that. For threads other than the window's.

/// What is about to be filmed.
struct FilmPlan {
    store::Client client;
    SetFacts facts;
    QString standard;  ///< empty: the movement's default
    std::shared_ptr<const Catalogue> catalogue;
    SetContext context() const;
    /// The edits a set of it begins with.
    Edits edits() const;
};

/// A recording that has ended, with what it was made for.
struct FilmedSet {
    FilmPlan plan;
    pipeline::Filmed filmed;
    FilmingSwitch::Reason reason = FilmingSwitch::Reason::None;
    QDateTime begun;
    std::optional<pipeline::Filmed> second{};  ///< by another camera at the same time
    /// How much later the second camera's clip begins, by the clock both share.
    double laterS() const { return second ? second->firstS - filmed.firstS : 0; }
};

/// Begins a recording: on the shelf first, then in the session. Error: neither stays.
Result<void> beginRecording(const QString& libraryFolder, pipeline::LiveSession& session, const QString& path,
                            const FilmPlan& plan, const QDateTime& begun);

/// What a filmed set has become.
struct FilmedResult {
    Imported set;
    int reps = 0;
    bool nothingCounted = false;
    QString why;   ///< it was not measured, plain words
    QString note;  ///< what else there is to say: pictures dropped, broken off
};

/// The quick answer, from what the network saw live: measured, judged, and in the record. A set in which nothing counts
/// is recorded as that.
Result<FilmedResult> saveQuickResult(const QString& libraryFolder, const FilmedSet& set, const QString& author = {});

/// The careful reading of the same takes the quick one's place in the record, with what the coach did meanwhile; a set
/// of which nothing counted before may count then. Error: what is in the record stands, also where nothing counts.
Result<Imported> saveRefinedResult(const QString& libraryFolder, store::SetId id, const FilmedSet& set,
                                   const QString& model, const std::atomic<bool>& cancel,
                                   const pipeline::OnProgress& progress);

/// What the other camera filmed at the same time is followed, and joins the set.
Result<void> attachOtherCamera(const QString& libraryFolder, store::SetId id, const FilmedSet& set,
                               const QString& model, const std::atomic<bool>& cancel,
                               const pipeline::OnProgress& progress);

/// A set filmed once more from another side joins it as its second view; what the network saw live need not be read
/// again.
Result<void> attachSecondView(const QString& libraryFolder, store::SetId id, const FilmedSet& set,
                              const QString& author = {});

/// Saves what can be read of a recording that was broken off, and measures it for the client it was filmed of. Error:
/// nothing can be read; the file is left where it is.
Result<Imported> recoverRecording(const QString& libraryFolder, const OrphanedRecording& orphan, const QString& model,
                                  const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel,
                                  const pipeline::OnProgress& progress);

}  // namespace zevo::record

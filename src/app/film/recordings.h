#pragma once

#include <QString>
#include <atomic>
#include <memory>
#include <vector>

#include "app/film/filming.h"
#include "app/work/set_work.h"

namespace zevo::app {

// What is filmed lies in the library's folder of recordings. Beside each one, until it is in the record, lies a note of
// whose it is: who looks for recordings that no set knows finds those that were broken off.

/// Writes the note before the first picture.
Result<void> noteRecording(const QString& path, const FilmPlan& plan);
void forgetRecording(const QString& path);

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
Result<FilmedResult> keepFilmed(const QString& libraryFolder, const FilmedSet& set);

/// The careful reading of the same takes the quick one's place in the record, with what the coach did meanwhile.
Result<store::Seen> refineFilmed(const QString& libraryFolder, store::SetId id, const FilmedSet& set,
                                 const QString& model, const std::atomic<bool>& cancel,
                                 const pipeline::OnProgress& progress);

/// A recording that no set knows.
struct Stranded {
    QString path;  ///< as it would be called: without .part
    bool partial = false;
    store::ClientId client{};
    SetFacts facts;
    QString standard;
    QDateTime at;
};
std::vector<Stranded> strandedRecordings(const store::Library& library);

/// A recording joins a set of the record as its second view. `filmed`: by the network live; it need not be read again.
Result<void> joinFilmed(const QString& libraryFolder, store::SetId id, const FilmedSet& filmed);

void eraseRecording(const Stranded& stranded);
/// Everything of a client's that lies in the folder of recordings and is no set's yet.
void eraseStranded(const store::Library& library, store::ClientId client);
/// Saves what can be read of it and measures it for the client it was filmed of. Error: nothing can be read; the file
/// is left where it is.
Result<Imported> recoverRecording(const QString& libraryFolder, const Stranded& stranded, const QString& model,
                                  const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel,
                                  const pipeline::OnProgress& progress);

}  // namespace zevo::app

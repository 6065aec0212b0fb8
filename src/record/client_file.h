#pragma once

#include <QString>
#include <memory>
#include <optional>
#include <vector>

#include "core/session/cue_ledger.h"
#include "present/paint/course.h"
#include "store/library.h"

namespace zevo::record {

/// One measure of one movement over the days: a value a set, with the scatter of its repetitions.
struct Course {
    QString movement;
    present::CoursePicture picture;
    std::vector<store::SetId> sets;  ///< of the picture's points
};

/// Everything there is on a client's page, read away from the window's thread.
struct ClientFile {
    store::Client client;
    std::vector<store::LoggedSet> log;  ///< oldest first
    std::vector<store::Complaint> complaints;
    Ledger ledger;
    std::vector<CueScore> scores;
    std::vector<Course> courses;  ///< of movements done most lately first; of the measures their schools lead with
};
Result<ClientFile> readClientFile(const QString& libraryFolder, store::ClientId id,
                                  const std::shared_ptr<const Catalogue>& catalogue);

}  // namespace zevo::record

#pragma once

#include <QString>
#include <memory>
#include <optional>
#include <vector>

#include "core/session/cue_ledger.h"
#include "store/library.h"

namespace zevo::record {

/// One measure of one movement over the days: a value a set, with the scatter of its repetitions.
struct Course {
    QString movement, movementTitle;
    MeasureId measure;
    struct Point {
        store::SetId set{};
        QDate day;
        double value = 0, pm90 = 0;  ///< median; 90 % half width of the mean from the repetitions' own scatter
    };
    std::vector<Point> points;  ///< oldest first
    /// What sets differ by when nothing changes: the median of those half widths or, where the client's sets with
    /// nothing said or changed in between tell more, what those differ by.
    double noise = 0;
    std::optional<double> target, min, max;  ///< the client's own; the edges of their school's band
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

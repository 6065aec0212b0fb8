#pragma once

#include <QString>
#include <QStringList>
#include <memory>

#include "core/session/session.h"

namespace zevo::record {

/// What was found when a whole library was read.
struct Verified {
    int clients = 0, sets = 0;
    QStringList problems;  ///< in plain words, of which set or file; empty: everything is as it should be
    QStringList missing;   ///< videos of the coach's own that are not where they were; their measurements are kept
};
/// Reads everything: the database checks itself, every set is opened and measured from what was seen, every file that
/// Zevo made has to lie where the table says. Changes nothing. Error: it cannot be opened.
Result<Verified> verifyLibrary(const QString& libraryFolder, const std::shared_ptr<const Catalogue>& catalogue);

}  // namespace zevo::record

#pragma once

#include <QSqlDatabase>
#include <QStringList>

#include "core/base/result.h"

namespace zevo::store {

// From schema 8 to 9: ids are UUIDs instead of row numbers; edits are entries with id, author and time, added and never
// changed; a set has a revision; values belong to a repetition by its number; what was followed lies apart from the
// edit; files that Zevo made have a table.

extern const QStringList kToSchema9;
/// Gives ids and carries everything over into the new tables.
Result<void> convertToSchema9(QSqlDatabase db);
extern const QStringList kAfterSchema9;

}  // namespace zevo::store

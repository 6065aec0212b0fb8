#pragma once

#include <QSqlDatabase>

#include "core/result.h"

namespace zevo::store {

/// Number of the newest schema this Zevo knows; kept in the file as SQLite's user_version.
int newestSchemaVersion();
/// Brings an open database from its version to the newest, one transaction a step.
Result<void> migrate(QSqlDatabase db);

}  // namespace zevo::store

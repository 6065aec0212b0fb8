#pragma once

#include <QSqlDatabase>
#include <QString>
#include <QStringList>

#include "core/base/result.h"

namespace zevo::store {

/// Number of the newest schema this Zevo knows; kept in the file as SQLite's user_version.
int newestSchemaVersion();
/// Brings an open database from its version to the newest, one transaction a step. Before the first step a copy of the
/// file is put beside it. Foreign keys must be off meanwhile: tables are made anew under their names.
Result<void> migrate(QSqlDatabase db);
/// Copies of the library from before migrations.
QStringList copiesBeforeMigration(const QString& databaseFile);

}  // namespace zevo::store

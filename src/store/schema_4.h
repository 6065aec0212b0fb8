#pragma once

#include <QSqlDatabase>
#include <QStringList>

#include "core/base/result.h"

namespace zevo::store {

// From schema 3 to 4: a set becomes observations with a list of edits, its values become rows that can be asked for,
// and corrections by a repetition's number become spans of time.
extern const QStringList kToSchema4, kAfterSchema4;
Result<void> convertToSchema4(QSqlDatabase db);

}  // namespace zevo::store

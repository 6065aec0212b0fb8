#pragma once

#include <QSqlDatabase>
#include <QSqlError>
#include <QSqlQuery>

#include "core/base/result.h"

namespace zevo::store {

inline constexpr const char* kNotWritten = "This could not be saved. Is the disk full or the library folder read-only?";

/// A change of the record that is there whole or not at all. Begun for writing at once, so that two writers queue
/// instead of failing half way; rolled back when it goes out of scope uncommitted, and when the commit itself fails.
class Transaction {
  public:
    explicit Transaction(QSqlDatabase db) : m_db(std::move(db)) {
        QSqlQuery q(m_db);
        m_open = q.exec("BEGIN IMMEDIATE");
        if (!m_open) m_error = q.lastError().text().toStdString();
    }
    Transaction(const Transaction&) = delete;
    Transaction& operator=(const Transaction&) = delete;
    ~Transaction() { rollBack(); }

    Result<void> begun() const {
        if (m_open) return {};
        return Error{kNotWritten, "begin: " + m_error};
    }
    Result<void> commit() {
        QSqlQuery q(m_db);
        if (!q.exec("COMMIT")) {
            const Error error{kNotWritten, "commit: " + q.lastError().text().toStdString()};
            rollBack();
            return error;
        }
        m_open = false;
        return {};
    }

  private:
    void rollBack() {
        if (!m_open) return;
        QSqlQuery(m_db).exec("ROLLBACK");
        m_open = false;
    }

    QSqlDatabase m_db;
    bool m_open = false;
    std::string m_error;
};

}  // namespace zevo::store

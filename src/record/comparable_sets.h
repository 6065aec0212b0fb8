#pragma once

#include <QDate>
#include <QString>
#include <memory>
#include <optional>
#include <vector>

#include "record/opening.h"

namespace zevo::record {

/// A set as one side of a comparison.
struct ComparedSet {
    store::SetId id{};
    SetState state;
    std::vector<Watchable> clips;
    QString title;  ///< "27 Nov 2026, set 2"
};
Result<ComparedSet> openCompared(const QString& libraryFolder, store::SetId id,
                                 const std::shared_ptr<const Catalogue>& catalogue);

/// What a set can be held against.
struct Comparable {
    struct Choice {
        store::SetId id{};
        QString title;
        QDate heldOn;
        int clear = 0;  ///< faults that are clear in it, by `standard`
    };
    std::vector<Choice> choices;        ///< the client's sets of the movement, newest first, with the set itself
    std::vector<LedgerSet> sets;        ///< the same, oldest first: how much they scatter by themselves
    QString title;                      ///< of the set itself
    std::optional<ComparedSet> before;  ///< the one before it, where there is one
};
Result<Comparable> comparableWith(const QString& libraryFolder, store::SetId id, store::ClientId client,
                                  const QString& movement, const Standard& standard,
                                  const std::shared_ptr<const Catalogue>& catalogue);

}  // namespace zevo::record

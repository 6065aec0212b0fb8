#include "record/comparable_sets.h"

#include <QCoreApplication>
#include <QLocale>
#include <algorithm>

namespace zevo::record {
namespace {

/// "27 Nov 2026, set 2": the ordinal of the set within its day, among those of all movements.
QString titleOf(store::SetId id, const std::vector<store::SetSummary>& newestFirst) {
    const auto at = std::find_if(newestFirst.begin(), newestFirst.end(), [&](const auto& s) { return s.id == id; });
    if (at == newestFirst.end()) return {};
    const auto number = std::count_if(at, newestFirst.end(), [&](const auto& s) { return s.heldOn == at->heldOn; });
    return QCoreApplication::translate("compare", "%1, set %2")
        .arg(QLocale().toString(at->heldOn, "d MMM yyyy"))
        .arg(number);
}

}  // namespace

Result<ComparedSet> openCompared(const QString& libraryFolder, store::SetId id,
                                 const std::shared_ptr<const Catalogue>& catalogue) {
    auto set = openSet(libraryFolder, id, catalogue);
    if (!set) return set.error();
    auto library = openToRead(libraryFolder);
    if (!library) return library.error();
    const auto all = library->sets(set->stored.client.id);
    if (!all) return all.error();
    return ComparedSet{id, std::move(set->state), std::move(set->clips), titleOf(id, *all)};
}

Result<Comparable> comparableWith(const QString& libraryFolder, store::SetId id, store::ClientId client,
                                  const QString& movement, const Standard& standard,
                                  const std::shared_ptr<const Catalogue>& catalogue) {
    Comparable out;
    std::optional<store::SetId> before;
    {
        auto library = openToRead(libraryFolder);
        if (!library) return library.error();
        const auto all = library->sets(client);
        if (!all) return all.error();
        auto log = library->log(client, movement);
        if (!log) return log.error();
        if (auto read = library->readRepetitions(*log); !read) return read.error();
        out.title = titleOf(id, *all);
        bool passed = false;
        out.sets = ledgerSets(*log);
        for (const LedgerSet& s : out.sets) {
            if (s.reps.empty()) continue;
            const auto findings = findFaults(s.counted(), standard);
            const auto clear = std::count_if(findings.begin(), findings.end(),
                                             [](const Finding& f) { return f.severity == Severity::Clear; });
            const auto logged =
                std::find_if(log->begin(), log->end(), [&](const auto& l) { return l.id.key() == s.id; });
            out.choices.push_back({logged->id, titleOf(logged->id, *all) + " · " + logged->headline, logged->heldOn,
                                   static_cast<int>(clear)});
            passed |= logged->id == id;
            if (!passed) before = logged->id;
        }
        std::reverse(out.choices.begin(), out.choices.end());
    }
    if (before) {
        auto set = openCompared(libraryFolder, *before, catalogue);
        if (!set) return set.error();
        out.before = std::move(*set);
    }
    return out;
}

}  // namespace zevo::record

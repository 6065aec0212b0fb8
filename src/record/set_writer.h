#pragma once

#include <QObject>
#include <QString>
#include <functional>
#include <memory>
#include <optional>

#include "record/set_keeper.h"

namespace zevo::record {

/// Writes to the record on a thread of its own, one thing after the other in the order they were asked for: who asks
/// never waits for the disk or for another writer. What was asked for is still done when the writer ends.
class SetWriter : public QObject {
    Q_OBJECT
  public:
    using Work = std::function<Result<void>(store::Library&)>;
    /// Called on the thread the writer lives in.
    using Done = std::function<void(Result<void>)>;
    using Kept = std::function<void(Result<Committed>)>;

    /// `access`: for reading only, everything that is asked for is refused with that reason.
    explicit SetWriter(const QString& libraryFolder, store::Access access = store::Access::Write,
                       QObject* parent = nullptr);
    /// Waits for what was asked for.
    ~SetWriter() override;

    /// What is known of the set whose changes come next: they need not read it again.
    void know(KnownSet set);
    void commit(store::SetId id, SetChange change, std::shared_ptr<const Catalogue> catalogue, const QString& author,
                Kept kept);
    /// Any other change of the record.
    void run(Work work, Done done = {});
    /// Waits until everything asked for so far is in the record; what is to be called then is called first.
    void flush();
    /// Pieces that were asked for and not answered yet.
    int pending() const { return m_pending; }

  signals:
    /// Nothing is pending any more.
    void idle();

  private:
    struct Thread;
    void answer(const std::function<void()>& tell);
    std::unique_ptr<Thread> m_thread;
    int m_pending = 0;
};

}  // namespace zevo::record

#pragma once

#include <QObject>
#include <tuple>
#include <vector>

#include "app/client/client_view.h"
#include "app/parts/workplace.h"

namespace zevo::app {

/// What is done on a client's page: reading it, sets that stand elsewhere in the record, merging, export.
class ClientDesk : public QObject {
    Q_OBJECT
  public:
    ClientDesk(Workplace& at, ClientView* page, QObject* parent);

    /// Reads the client's file and shows it, unless something else was asked for meanwhile.
    void show(store::ClientId id);
    /// What the page shows, as it is now; only while it is looked at.
    void reload();
    /// Everything of the client shown, into a new folder there.
    void exportInto(const QString& folder);

  signals:
    void opened();                            ///< the page shows a client
    void recordChanged();                     ///< sets stand elsewhere, clients were merged
    void merged(zevo::store::ClientId into);  ///< one client less
    void eraseWanted(zevo::store::ClientId client);

  private:
    using Move = std::tuple<store::SetId, store::SetPlace, store::SetPlace>;
    void read(store::ClientId id, int opening);
    void move(std::vector<Move> steps, const QString& what);
    void moveOnDay(store::SetId id, int by);
    void chooseDay(store::SetId id);
    void merge(store::ClientId other);

    Workplace& m_at;
    ClientView* m_page;
};

}  // namespace zevo::app

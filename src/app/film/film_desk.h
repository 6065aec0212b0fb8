#pragma once

#include <QObject>
#include <functional>
#include <memory>
#include <optional>
#include <set>

#include "app/film/film_view.h"
#include "app/film/incoming_folder.h"
#include "app/parts/workplace.h"
#include "record/filmed_sets.h"
#include "record/importing.h"

namespace zevo::app {

/// Who is being filmed, with what is carried over to their next set.
struct FilmedClient {
    store::Client client;
    SetFacts facts;
    QString standard, cue;
};

/// What becomes of what was filmed: the answer at once, the careful reading behind it, the other camera, what was
/// broken off, and clips that come from elsewhere.
class FilmDesk : public QObject {
    Q_OBJECT
  public:
    /// `clientChosen`: whom the coach has chosen in the list.
    FilmDesk(Workplace& at, FilmView* page, std::function<std::optional<store::ClientId>()> clientChosen,
             QObject* parent);

    void film(const FilmedClient& next);
    /// What is filmed next is another view of this set.
    void joinNextTo(store::SetId of) { m_otherViewOf = of; }
    /// The client's record changed.
    void setClient(const store::Client& client);
    /// Recordings that no set knows are offered to be saved.
    void offerRecovery();
    /// Whether the careful reading of a filmed set is still to come.
    bool isReading(store::SetId id) const { return m_reading.contains(id); }
    IncomingFolder& incoming() { return m_incoming; }

  signals:
    void entered(const zevo::store::Client& client);       ///< the page is to be shown
    void openWanted(zevo::store::SetId id);                ///< the answer
    void measured(const zevo::record::Imported& set);      ///< it is there, and the coach is elsewhere
    void measuredAnew(const zevo::record::Imported& set);  ///< the same of a clip whose back was not read yet
    void grown(zevo::store::SetId id);                     ///< the record holds more of it
    void refined(zevo::store::SetId id);                   ///< the same, by the careful reading
    void readingEnded(zevo::store::SetId id);              ///< the careful one, whatever came of it
    void recordChanged();

  private:
    void filmOtherClient();
    void answer(const std::shared_ptr<record::FilmedSet>& filmed);
    /// `nothingCounted`: why, as the live reading has it.
    void refine(store::SetId id, const std::shared_ptr<record::FilmedSet>& filmed,
                const std::optional<QString>& nothingCounted);
    void countedAfterAll(const record::Imported& set, const std::shared_ptr<record::FilmedSet>& filmed);
    void addFilmedSecond(store::SetId id, const std::shared_ptr<record::FilmedSet>& filmed);
    void joinOtherView(store::SetId of, const std::shared_ptr<record::FilmedSet>& filmed);
    void chooseIncoming();
    void clipArrived(const QString& path);
    void measureArrived(const QString& path, const store::Client& client, const SetFacts& facts);

    Workplace& m_at;
    FilmView* m_page;
    std::function<std::optional<store::ClientId>()> m_clientChosen;
    IncomingFolder m_incoming;
    std::optional<FilmedClient> m_filming, m_filmedBefore;
    std::optional<store::SetId> m_otherViewOf;
    std::set<store::SetId> m_reading;  ///< the careful reading of these is to come
};

}  // namespace zevo::app

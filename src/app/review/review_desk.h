#pragma once

#include <QObject>
#include <map>
#include <vector>

#include "app/parts/workplace.h"
#include "app/review/review_view.h"

namespace zevo::app {

/// What is done about the set that is shown: opening it, handing every change to the record and taking over what others
/// changed there, another clip or person, marked points, standards in and out.
class ReviewDesk : public QObject {
    Q_OBJECT
  public:
    ReviewDesk(Workplace& at, ReviewView* page, QObject* parent);

    /// Reads a set from the record and shows it, unless something else was asked for meanwhile.
    void open(store::SetId id);
    /// The record holds more of a set than the document knows: where it is the one shown, that catches up.
    void catchUp(store::SetId id);
    /// Adds the other view to the set shown.
    void addSecondClip(const QString& path, bool sameTake);
    /// Reads the outlines of a set after its answer was given; who looks at it sees the rows of the back come.
    void readBack(store::SetId id);
    void importStandard(const QString& path);
    void exportStandard(const QString& path);

  signals:
    void opened();         ///< the page shows a set
    void recordChanged();  ///< a set has other values now
    void standardsChanged();
    void clientChanged(const zevo::store::Client& client);

  private:
    void show(record::LoadedSet set);
    /// What the coach did to the set shown goes to the record; the window does not wait for it.
    void keep(const present::SetDocument::Change& change);
    void takeOver(const store::StoredSet& now, const Edits& known, const std::map<int, int>& moved);
    void takeOffer(const QString& offer);
    void chooseSecondClip(bool sameTake);
    void followPerson(bool second, double atS, const QPointF& at);
    void followMarked(bool second, const Mark& mark);
    void chooseStandardFile();
    void chooseExport();
    void takeTarget();

    Workplace& m_at;
    ReviewView* m_page;
    std::vector<store::Seen> m_seen;  ///< of the set shown, one an observation
};

}  // namespace zevo::app

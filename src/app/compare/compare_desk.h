#pragma once

#include <QObject>
#include <functional>
#include <optional>

#include "app/compare/compare_view.h"
#include "app/parts/workplace.h"

namespace zevo::app {

/// Opens what the page to compare shows: the set a coach looks at against the one before it, then whatever they choose.
class CompareDesk : public QObject {
    Q_OBJECT
  public:
    CompareDesk(Workplace& at, CompareView* page, QObject* parent);

    struct Asked {
        store::SetId set{};
        store::ClientId client{};
        QString movement;
        Standard standard;
        /// The set as it is when the others have been read; nothing: it is not looked at any more.
        std::function<std::optional<record::ComparedSet>()> now;
    };
    /// Against the set before it of the same movement; where there is none, its first repetition against its last.
    void compare(Asked asked);

  signals:
    void opened();  ///< the page has what it was asked for

  private:
    Workplace& m_at;
    CompareView* m_page;
};

}  // namespace zevo::app

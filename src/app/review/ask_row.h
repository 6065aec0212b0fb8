#pragma once

#include <QWidget>
#include <vector>

#include "core/session/session.h"
#include "present/words.h"

class QPushButton;

namespace zevo::app {

/// What was asked of the set, and what is asked of the next one, a chip each: a tap lifts it or asks it again, the two
/// small buttons beside it ask for the rung that is easier or harder. Hidden where nothing is asked.
class AskRow : public QWidget {
    Q_OBJECT
  public:
    explicit AskRow(QWidget* parent = nullptr);
    /// `before`: what the set was judged by; `after`: what is asked from the next set on.
    void setAsks(const Asks& before, const Asks& after, const Movement& movement, const Catalogue& catalogue,
                 present::Lengths lengths);
    /// The chips stand in a row of another widget, or (null) in a row of their own.
    void setHost(QWidget* host);
    /// The chip of a kind; null where nothing of it is asked.
    QPushButton* chipOf(const QString& kind) const;

  signals:
    /// From the next set on this is asked.
    void taken(const zevo::Ask& ask);
    void lifted(const zevo::Ask& ask);

  private:
    QPushButton* add(const QString& name, const QString& text);

    QWidget* m_host = nullptr;
    std::vector<QWidget*> m_shown;
};

}  // namespace zevo::app

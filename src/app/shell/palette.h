#pragma once

#include <QFrame>
#include <functional>
#include <vector>

#include "app/theme/theme.h"

class QAction;
class QLineEdit;
class QListWidget;

namespace zevo::app {

/// Every action by its words: type a few letters, Enter does it. Lies over the page; Esc closes it.
class Palette : public QFrame {
    Q_OBJECT
  public:
    explicit Palette(QWidget* parent);
    /// Something besides actions that can be gone to: a client, a set.
    struct Place {
        QString title;
        std::function<void()> go;
    };
    void open(std::vector<QAction*> actions, std::vector<Place> places);
    QLineEdit* field() const { return m_field; }
    QListWidget* list() const { return m_list; }

  protected:
    bool eventFilter(QObject* watched, QEvent* e) override;

  private:
    void filter();
    void take();

    std::vector<QAction*> m_actions;
    std::vector<Place> m_places;
    QLineEdit* m_field;
    QListWidget* m_list;
};

}  // namespace zevo::app

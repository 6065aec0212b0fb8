#pragma once

#include <QAction>
#include <QString>
#include <functional>
#include <map>
#include <vector>

#include "app/parts/sheet.h"

class QAbstractButton;
class QWidget;

namespace zevo::app {

/// Where a key means something.
enum class Where { Everywhere, Review, Film, Compare, Client, Focus };

/// One thing that a key does. The list of these is the only one: shortcuts, the key page, tooltips and what is greyed
/// out come from it.
struct KeyRow {
    const char* id;
    const char* keys;  ///< Qt's portable names, parted by spaces; of Where::Focus only for the key page
    const char* text;  ///< what it does
    /// Focus: handled by the widget that has the focus (arrows, Space, Enter, Tab), because there they mean what they
    /// mean everywhere.
    Where where = Where::Everywhere;
};
const std::vector<KeyRow>& keyTable();
/// The key page: what is done by neighbouring keys stands in one row.
Sheet::Rows keyRows();

/// The window's actions, made from the table. A key works whatever has the focus, but in a field that takes text.
class Actions {
  public:
    explicit Actions(QWidget* window);
    /// What the action of this id does.
    void on(const char* id, std::function<void()> slot);
    QAction* get(const char* id) const;
    /// A button that does the same: tooltip, name for screen readers and greying follow the action.
    void bind(QAbstractButton* button, const char* id);
    /// All that have words, in the table's order.
    std::vector<QAction*> worded() const;
    /// Actions of one page are off on the others.
    void setPage(Where page);

  private:
    std::map<QString, QAction*> m_all;
};

}  // namespace zevo::app

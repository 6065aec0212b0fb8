#pragma once

#include <QPainter>
#include <QStyledItemDelegate>

#include "app/theme/theme.h"

namespace zevo::app {

/// A client in the list: a tile with their initials, their name, and when they were seen last with what was found.
class ClientRow : public QStyledItemDelegate {
  public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void setTheme(const Theme& theme) { m_theme = theme; }
    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {180, 58}; }
    /// "MT" of "Marrec Tholby".
    static QString initialsOf(const QString& name);

  private:
    Theme m_theme = lightTheme();
};

}  // namespace zevo::app

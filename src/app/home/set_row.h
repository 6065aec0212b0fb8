#pragma once

#include <QStyledItemDelegate>

#include "app/theme/theme.h"
#include "core/body/outline.h"

Q_DECLARE_METATYPE(std::vector<zevo::Outline>)

namespace zevo::app {

inline constexpr int kSetId = Qt::UserRole, kSetOutlines = Qt::UserRole + 1;

/// A set in the list: words at the left, the outlines of its repetitions at the right.
class SetRow : public QStyledItemDelegate {
  public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void setTheme(const Theme& theme) { m_theme = theme; }
    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {200, 84}; }

  private:
    Theme m_theme = lightTheme();
};

}  // namespace zevo::app

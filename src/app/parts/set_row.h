#pragma once

#include <QStyledItemDelegate>
#include <functional>
#include <vector>

#include "app/theme/theme.h"
#include "core/body/outline.h"

namespace zevo::app {

inline constexpr int kSetId = Qt::UserRole;

/// A set in the list: words at the left, the outlines of its repetitions at the right. Outlines are asked for when a
/// row is drawn, and only then.
class SetRow : public QStyledItemDelegate {
  public:
    using OutlinesOf = std::function<const std::vector<Outline>&(const QString& set)>;
    SetRow(OutlinesOf outlinesOf, QObject* parent) : QStyledItemDelegate(parent), m_outlinesOf(std::move(outlinesOf)) {}
    void setTheme(const Theme& theme) { m_theme = theme; }
    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {200, 84}; }

  private:
    OutlinesOf m_outlinesOf;
    Theme m_theme = lightTheme();
};

}  // namespace zevo::app

#pragma once

#include <QLayout>
#include <QWidget>
#include <vector>

namespace zevo::app {

/// Puts widgets beside each other and goes on in a further row where there is no room, so that long words make a page
/// higher and not wider. Those added after `startRight()` stand at the right end while all fit into one row.
class FlowLayout : public QLayout {
  public:
    explicit FlowLayout(int spacing) : m_spacing(spacing) { setContentsMargins(0, 0, 0, 0); }
    ~FlowLayout() override {
        for (QLayoutItem* item : m_items) delete item;
    }
    void startRight() { m_right = m_items.size(); }

    void addItem(QLayoutItem* item) override { m_items.push_back(item); }
    int count() const override { return static_cast<int>(m_items.size()); }
    QLayoutItem* itemAt(int i) const override {
        return i >= 0 && i < count() ? m_items[static_cast<std::size_t>(i)] : nullptr;
    }
    QLayoutItem* takeAt(int i) override {
        if (i < 0 || i >= count()) return nullptr;
        QLayoutItem* item = m_items[static_cast<std::size_t>(i)];
        m_items.erase(m_items.begin() + i);
        return item;
    }
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override { return place({0, 0, width, 0}, false); }
    QSize sizeHint() const override { return {400, heightForWidth(geometry().width() > 0 ? geometry().width() : 900)}; }
    QSize minimumSize() const override {
        QSize least;
        for (const QLayoutItem* item : m_items)
            if (!item->isEmpty()) least = least.expandedTo(item->minimumSize());
        return least;
    }
    void setGeometry(const QRect& rect) override {
        QLayout::setGeometry(rect);
        place(rect, true);
    }

  private:
    int place(const QRect& rect, bool really) const {
        int all = -m_spacing;
        for (const QLayoutItem* item : m_items)
            if (!item->isEmpty()) all += item->sizeHint().width() + m_spacing;
        const bool oneRow = all <= rect.width();
        int x = rect.x(), y = rect.y(), row = 0;
        for (std::size_t i = 0; i < m_items.size(); ++i) {
            QLayoutItem* item = m_items[i];
            if (item->isEmpty()) continue;
            if (oneRow && i >= m_right && m_right > 0 && x < rect.right() - widthFrom(i))
                x = rect.right() + 1 - widthFrom(i);
            const QSize size(std::min(item->sizeHint().width(), rect.width()), item->sizeHint().height());
            if (x > rect.x() && x + size.width() > rect.right() + 1) {
                x = rect.x();
                y += row + m_spacing;
                row = 0;
            }
            if (really) item->setGeometry(QRect({x, y}, size));
            x += size.width() + m_spacing;
            row = std::max(row, size.height());
        }
        return y + row - rect.y();
    }
    int widthFrom(std::size_t first) const {
        int width = -m_spacing;
        for (std::size_t i = first; i < m_items.size(); ++i)
            if (!m_items[i]->isEmpty()) width += m_items[i]->sizeHint().width() + m_spacing;
        return width;
    }

    std::vector<QLayoutItem*> m_items;
    std::size_t m_right = 0;
    int m_spacing;
};

}  // namespace zevo::app

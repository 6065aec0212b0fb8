#pragma once

#include <QWidget>
#include <vector>

#include "app/theme/theme.h"
#include "present/review_presenter.h"

namespace zevo::app {

using present::Lengths;
using present::ReviewPresenter;

/// The row of repetitions: one tile each with the client's outline at the bottom of that rep, the standard's depth
/// line from the knee, the depth in words and the marks of what was out. Arrow keys, Home, End, click and wheel.
class RepStrip : public QWidget {
    Q_OBJECT
  public:
    explicit RepStrip(QWidget* parent = nullptr);
    void setTheme(const Theme& theme);
    void setTiles(std::vector<ReviewPresenter::Tile> tiles);
    void setCurrent(int position);
    int current() const { return m_current; }
    /// Where a tile lies in the widget now (for tests and tool tips).
    QRectF tileRect(int position) const;

    /// Lower tiles, for low windows.
    void setCompact(bool compact);
    QSize sizeHint() const override { return {800, m_compact ? 72 : 138}; }
    QSize minimumSizeHint() const override { return {300, m_compact ? 72 : 138}; }

  signals:
    void chosen(int position);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    bool event(QEvent*) override;

  private:
    void keepCurrentVisible();
    double tileWidth() const;

    Theme m_theme = lightTheme();
    std::vector<ReviewPresenter::Tile> m_tiles;
    QRectF m_window;  ///< part of the picture every tile shows
    bool m_compact = false;
    int m_current = 0;
    double m_scroll = 0;
};

}  // namespace zevo::app

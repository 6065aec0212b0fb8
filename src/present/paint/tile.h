#pragma once

#include "present/paint/look.h"
#include "present/review_presenter.h"

class QPainter;

namespace zevo::present {

/// The part of the picture (pixels of the clip) that every tile of a set shows, so that all are of one scale.
QRectF tileWindow(const std::vector<ReviewPresenter::Tile>& tiles);

struct TileStyle {
    bool current = false;
    bool compact = false;  ///< for low windows
};

/// One repetition: the client's outline at its turning point, the standard's depth line from the knee, the depth in
/// words and the marks of what was out.
void drawTile(QPainter& p, const QRectF& box, const ReviewPresenter::Tile& tile, const QRectF& window,
              const TileStyle& style, const Theme& theme);

}  // namespace zevo::present

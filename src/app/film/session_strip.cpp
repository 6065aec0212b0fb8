#include "app/film/session_strip.h"

#include <QKeyEvent>
#include <QPainter>
#include <QStyledItemDelegate>

#include "core/session/edits.h"
#include "present/log_words.h"

namespace zevo::app {

class SessionStrip::Row : public QStyledItemDelegate {
  public:
    explicit Row(SessionStrip* strip) : QStyledItemDelegate(strip), m_strip(strip) {}
    Theme theme = lightTheme();

    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {236, 112}; }

    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Tile& t = m_strip->tile(index.row());
        p->save();
        p->setRenderHint(QPainter::Antialiasing);
        const QRectF box = QRectF(option.rect).adjusted(3, 3, -3, -3);
        const bool chosen = option.state & (QStyle::State_Selected | QStyle::State_MouseOver);
        p->setPen(QPen(chosen ? theme.accent : theme.line, chosen ? 2 : 1, t.next ? Qt::DashLine : Qt::SolidLine));
        p->setBrush(t.next ? QBrush(Qt::NoBrush) : QBrush(theme.panel));
        p->drawRoundedRect(box, 10, 10);
        const QRectF in = box.adjusted(12, 8, -12, -8);
        if (t.next) {
            icon("camera", theme.ink)
                .paint(p, QRect(QPoint(int(in.center().x()) - 18, int(in.top()) + 8), QSize(36, 36)));
            p->setPen(theme.ink);
            p->setFont(textFont(15, true));
            p->drawText(in.adjusted(0, 50, 0, 0), Qt::AlignHCenter | Qt::AlignTop, t.title);
            p->restore();
            return;
        }
        paintOutlines(*p, t, QRectF(in.left(), in.top(), in.width(), 38));
        auto line = [&](const QString& text, double top, const QFont& font, const QColor& ink) {
            p->setFont(font);
            p->setPen(ink);
            p->drawText(QRectF(in.left(), in.top() + top, in.width(), 20), Qt::AlignLeft | Qt::AlignVCenter,
                        p->fontMetrics().elidedText(text, Qt::ElideRight, static_cast<int>(in.width())));
        };
        line(t.title, 40, textFont(13), theme.faint);
        line(t.finding, 57, textFont(15, true), theme.ink);
        line(t.cue, 76, textFont(13), theme.faint);
        p->restore();
    }

  private:
    void paintOutlines(QPainter& p, const Tile& t, const QRectF& room) const {
        QRectF all;
        for (const auto& o : t.outlines)
            for (const auto& [x, y] : o.points) all = all.united(QRectF(x, y, 1, 1));
        if (all.isEmpty()) return;
        const double k = room.height() / all.height();
        const double step = std::min(all.width() * k * 0.9, room.width() / static_cast<double>(t.outlines.size()));
        QColor fill = theme.ink;
        fill.setAlphaF(0.34F);
        p.setPen(Qt::NoPen);
        p.setBrush(fill);
        double left = room.left();
        for (const auto& o : t.outlines) {
            QPolygonF body;
            for (const auto& [x, y] : o.points)
                body << QPointF(left + (x - all.left()) * k, room.bottom() - (all.bottom() - y) * k);
            p.drawPolygon(body);
            left += step;
        }
    }
    SessionStrip* m_strip;
};

SessionStrip::SessionStrip(QWidget* parent) : QListWidget(parent) {
    setObjectName("session");
    setAccessibleName(tr("Today's sets"));
    setFlow(QListView::LeftToRight);
    setWrapping(false);
    setHorizontalScrollMode(QAbstractItemView::ScrollPerPixel);
    setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFixedHeight(128);
    setItemDelegate(m_row = new Row(this));
    connect(this, &QListWidget::itemClicked, this, &SessionStrip::choose);
    connect(this, &QListWidget::itemActivated, this, &SessionStrip::choose);
}

void SessionStrip::setTheme(const Theme& theme) {
    m_row->theme = theme;
    viewport()->update();
}

void SessionStrip::show(const store::Library& library, const Catalogue& catalogue, const store::Client& client,
                        const QDate& day, present::Lengths lengths) {
    m_tiles.clear();
    const auto sets = library.sets(client.id);
    for (const auto& s : sets ? *sets : std::vector<store::SetSummary>()) {
        if (s.heldOn != day) continue;
        Tile t;
        t.id = s.id;
        const zevo::Movement* movement = catalogue.movement(s.movement.toStdString());
        t.title = tr("%1 · %2").arg(movement ? QString::fromStdString(movement->title) : s.movement,
                                    present::repCount(s.reps));
        t.finding = s.headline;
        if (const auto edits = library.edits(s.id)) {
            const EditedSet e = fold(*edits);
            t.warmUp = e.facts.log.kind == SetKind::WarmUp;
            if (const QString load = present::loadText(e.facts.log.load, lengths); !load.isEmpty())
                t.title += tr(" · %1").arg(load);
            else if (e.facts.loadShare > 0)
                t.title += tr(" · load %1 %").arg(std::lround(100 * e.facts.loadShare));
            if (t.warmUp) t.title += tr(" · warm-up");
            if (e.cue)
                t.cue = e.cue->fault.empty() ? tr("no cue: watching")
                                             : tr("said: “%1”").arg(QString::fromStdString(e.cue->wording));
        }
        if (auto outlines = library.outlines(s.id)) t.outlines = std::move(*outlines);
        m_tiles.insert(m_tiles.begin(), std::move(t));  // the library has the newest first
    }
    Tile next;
    next.next = true;
    next.title = m_tiles.empty() ? tr("First set") : tr("Next set");
    m_tiles.push_back(next);
    clear();
    for (const Tile& t : m_tiles) {
        auto* item = new QListWidgetItem(this);
        item->setData(Qt::AccessibleTextRole, t.next ? t.title : t.title + ", " + t.finding + " " + t.cue);
        if (!t.next) item->setToolTip(t.finding + (t.cue.isEmpty() ? QString() : "\n" + t.cue));
    }
    setCurrentRow(count() - 1);
    scrollToItem(item(count() - 1));
}

void SessionStrip::choose(QListWidgetItem* item) {
    const Tile& t = tile(row(item));
    if (t.next) return emit nextWanted();
    emit setWanted(t.id);
}

void SessionStrip::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Delete && currentRow() >= 0 && !tile(currentRow()).next)
        return emit deleteWanted(tile(currentRow()).id);
    // Not on to QListWidget: Space and the page keys belong to filming.
    if (e->key() == Qt::Key_Space || e->key() == Qt::Key_PageUp || e->key() == Qt::Key_PageDown) return e->ignore();
    QListWidget::keyPressEvent(e);
}

}  // namespace zevo::app

#pragma once

#include <QListWidget>

#include "app/theme/theme.h"
#include "present/words.h"
#include "store/library.h"

namespace zevo::app {

/// Today's sets of one client as a row: the outlines of its repetitions, what was done and what was found, the cue that
/// was given; last an empty place for the next one. Enter or a click opens a set or films the next; Del takes one out.
class SessionStrip : public QListWidget {
    Q_OBJECT
  public:
    explicit SessionStrip(QWidget* parent = nullptr);
    void setTheme(const Theme& theme);
    /// Reads the sets of `client` held on `day`.
    void show(const store::Library& library, const Catalogue& catalogue, const store::Client& client, const QDate& day,
              present::Lengths lengths);
    int setCount() const { return count() > 0 ? count() - 1 : 0; }

    struct Tile {
        store::SetId id{};
        bool next = false;  ///< the empty place
        QString title, finding, cue;
        bool warmUp = false;
        std::vector<Outline> outlines;
    };
    const Tile& tile(int row) const { return m_tiles[static_cast<std::size_t>(row)]; }

  signals:
    void setWanted(zevo::store::SetId id);
    void nextWanted();
    void deleteWanted(zevo::store::SetId id);

  protected:
    void keyPressEvent(QKeyEvent*) override;
    QSize sizeHint() const override { return {600, 128}; }

  private:
    void choose(QListWidgetItem* item);
    std::vector<Tile> m_tiles;
    class Row;
    Row* m_row;
};

}  // namespace zevo::app

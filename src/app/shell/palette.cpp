#include "app/shell/palette.h"

#include <QAction>
#include <QBoxLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QTimer>
#include <algorithm>

namespace zevo::app {

Palette::Palette(QWidget* parent) : QFrame(parent) {
    setObjectName("palette");
    setProperty("kind", "card");
    setAccessibleName(tr("Everything that can be done"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 14, 14, 14);
    m_field = new QLineEdit(this);
    m_field->setObjectName("paletteField");
    m_field->setPlaceholderText(tr("What do you want to do, or whom to see?"));
    m_field->setAccessibleName(m_field->placeholderText());
    m_field->setFont(textFont(18));
    m_list = new QListWidget(this);
    m_list->setObjectName("paletteList");
    m_list->setAccessibleName(tr("What fits"));
    m_list->setFont(textFont(15));
    m_list->setFocusPolicy(Qt::NoFocus);
    column->addWidget(m_field);
    column->addWidget(m_list, 1);
    m_field->installEventFilter(this);
    connect(m_field, &QLineEdit::textChanged, this, &Palette::filter);
    connect(m_field, &QLineEdit::returnPressed, this, &Palette::take);
    connect(m_list, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        m_list->setCurrentItem(item);
        take();
    });
    hide();
}

void Palette::open(std::vector<QAction*> actions, std::vector<Place> places) {
    if (isVisible()) return hide();
    m_actions = std::move(actions);
    m_places = std::move(places);
    const QRect all = parentWidget()->rect();
    const int width = std::min(720, all.width() - 40), height = std::min(520, all.height() - 40);
    setGeometry((all.width() - width) / 2, 20, width, height);
    m_field->clear();
    filter();
    show();
    raise();
    m_field->setFocus();
}

/// All words have to be there; what begins with what was typed comes first.
void Palette::filter() {
    m_list->clear();
    const QStringList words = m_field->text().simplified().split(' ', Qt::SkipEmptyParts);
    struct Fit {
        QString title, keys;
        int order = 0, index = 0;
        bool place = false;
    };
    std::vector<Fit> fits;
    auto add = [&](const QString& title, const QString& keys, int index, bool place) {
        const QString all = title + ' ' + keys;
        int order = place ? 2 : 1;
        for (const QString& w : words) {
            if (!all.contains(w, Qt::CaseInsensitive)) return;
            if (title.startsWith(w, Qt::CaseInsensitive)) order = 0;
        }
        fits.push_back({title, keys, order, index, place});
    };
    for (std::size_t i = 0; i < m_actions.size(); ++i) {
        QStringList keys;
        for (const QKeySequence& k : m_actions[i]->shortcuts()) keys.append(k.toString(QKeySequence::NativeText));
        add(m_actions[i]->text(), keys.join("  "), static_cast<int>(i), false);
        if (!m_actions[i]->isEnabled() && !fits.empty() && fits.back().index == static_cast<int>(i))
            fits.back().order = 3;
    }
    // Places only once something was typed: there may be hundreds.
    constexpr int kMostPlaces = 12;
    if (!words.isEmpty())
        for (std::size_t i = 0, shown = 0; i < m_places.size() && shown < kMostPlaces; ++i) {
            const std::size_t before = fits.size();
            add(m_places[i].title, {}, static_cast<int>(i), true);
            shown += fits.size() - before;
        }
    std::stable_sort(fits.begin(), fits.end(), [](const Fit& a, const Fit& b) { return a.order < b.order; });
    for (const Fit& f : fits) {
        auto* item = new QListWidgetItem(f.keys.isEmpty() ? f.title : QString("%1    %2").arg(f.title, f.keys), m_list);
        item->setData(Qt::UserRole, f.index);
        item->setData(Qt::UserRole + 1, f.place);
        // What belongs to another page is shown with its key, and cannot be taken here.
        if (!f.place && !m_actions[static_cast<std::size_t>(f.index)]->isEnabled()) item->setFlags(Qt::NoItemFlags);
    }
    if (fits.empty()) {
        auto* none = new QListWidgetItem(tr("Nothing fits. Fewer letters find more."), m_list);
        none->setFlags(Qt::NoItemFlags);
    }
    m_list->setCurrentRow(0);
}

void Palette::take() {
    const auto* item = m_list->currentItem();
    if (!item || !(item->flags() & Qt::ItemIsEnabled)) return;
    const auto index = static_cast<std::size_t>(item->data(Qt::UserRole).toInt());
    const bool place = item->data(Qt::UserRole + 1).toBool();
    hide();
    parentWidget()->setFocus();
    // After the palette has gone: what is done may open something of its own.
    if (place)
        QTimer::singleShot(0, this, [go = m_places[index].go] { go(); });
    else
        QTimer::singleShot(0, m_actions[index], [action = m_actions[index]] { action->trigger(); });
}

bool Palette::eventFilter(QObject* watched, QEvent* e) {
    if (watched == m_field && e->type() == QEvent::KeyPress) {
        const auto* key = static_cast<QKeyEvent*>(e);
        const int rows = m_list->count();
        if (key->key() == Qt::Key_Escape) {
            hide();
            parentWidget()->setFocus();
            return true;
        }
        if (rows > 0 && (key->key() == Qt::Key_Down || key->key() == Qt::Key_Up)) {
            m_list->setCurrentRow((m_list->currentRow() + rows + (key->key() == Qt::Key_Down ? 1 : -1)) % rows);
            return true;
        }
    }
    return QFrame::eventFilter(watched, e);
}

}  // namespace zevo::app

#include "app/parts/sheet.h"

#include <QBoxLayout>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QScrollArea>
#include <QScrollBar>

#include "app/theme/parts.h"
#include "core/judge/stop_rules.h"
#include "present/words.h"

namespace zevo::app {

Sheet::Sheet(const QString& title, const Rows& rows, const QString& foot, QWidget* parent) : QFrame(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(title);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(60, 36, 60, 24);
    auto* heading = new QLabel(title, this);
    heading->setFont(textFont(28, true));
    column->addWidget(heading);
    column->addSpacing(12);
    auto* inside = new QWidget;
    inside->setObjectName("sheetRows");
    auto* grid = new QGridLayout(inside);
    grid->setContentsMargins(0, 0, 12, 0);
    grid->setHorizontalSpacing(22);
    grid->setVerticalSpacing(rows.size() > 20 ? 5 : 10);
    const int size = rows.size() > 20 ? 15 : 17;
    // Long lists stand in two columns.
    const int half = rows.size() > 10 ? static_cast<int>(rows.size() + 1) / 2 : static_cast<int>(rows.size());
    for (int i = 0; i < static_cast<int>(rows.size()); ++i) {
        auto* left = new QLabel(rows[static_cast<std::size_t>(i)].first, inside);
        left->setFont(textFont(size, true));
        auto* right = new QLabel(rows[static_cast<std::size_t>(i)].second, inside);
        right->setFont(textFont(size));
        right->setWordWrap(true);
        const int column2 = i / half * 2;
        grid->addWidget(left, i % half, column2, Qt::AlignTop);
        grid->addWidget(right, i % half, column2 + 1);
        grid->setColumnStretch(column2 + 1, 1);
    }
    grid->setRowStretch(half, 1);
    m_scroll = scrolled(inside, this);
    column->addWidget(m_scroll, 1);
    auto* last = new QLabel(foot, this);
    last->setWordWrap(true);
    last->setProperty("kind", "faint");
    column->addWidget(last);
    hide();
}

void Sheet::setTheme(const Theme& theme) {
    m_theme = theme;
    update();
}

void Sheet::toggle() {
    if (isVisible()) return hide();
    setGeometry(parentWidget()->rect());
    show();
    raise();
    setFocus();
}

void Sheet::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape || e->key() == Qt::Key_Return || e->key() == Qt::Key_Question ||
        e->key() == Qt::Key_F1)
        hide();
    else if (e->key() == Qt::Key_Down || e->key() == Qt::Key_Up || e->key() == Qt::Key_PageDown ||
             e->key() == Qt::Key_PageUp)
        // Where the window is too low for all rows.
        m_scroll->verticalScrollBar()->triggerAction(e->key() == Qt::Key_Down     ? QAbstractSlider::SliderSingleStepAdd
                                                     : e->key() == Qt::Key_Up     ? QAbstractSlider::SliderSingleStepSub
                                                     : e->key() == Qt::Key_PageUp ? QAbstractSlider::SliderPageStepSub
                                                                                  : QAbstractSlider::SliderPageStepAdd);
    else
        QFrame::keyPressEvent(e);
}

void Sheet::mousePressEvent(QMouseEvent*) {
    hide();
}

void Sheet::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), m_theme.panel);
}

Sheet::Rows stopRows() {
    QStringList now, refer, cleared;
    for (const RedFlag& f : redFlags())
        (f.level == FlagLevel::HelpNow ? now
         : f.level == FlagLevel::Refer ? refer
                                       : cleared)
            .append(present::redFlagTitle(f.id));
    return {{"Get help now", now.join(", ") + ": stop, call for medical help, stay with the client."},
            {"Refer, do not score", refer.join(", ") + ": end the set; a licensed clinician, by your local rules."},
            {"Cleared with care", cleared.join(", ") + ": scored once a clinician has cleared it; gentler versions."},
            {"0–2", "Pain score before and after, 0 to 10: go on."},
            {"3–4", "Lighten, take the easier version, change the stance. Never the same again, never more load."},
            {"5 and more", "Stop. Also when it rises by 3 or more, rises a second time, or is sharp."},
            {"Persistent pain",
             "Most knee complaints in these movements are about control and set-up, but not all. What stays or comes "
             "back belongs to a clinician."}};
}

}  // namespace zevo::app

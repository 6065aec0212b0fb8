#include "app/shell/busy_view.h"

#include <QBoxLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <cmath>

#include "app/theme/theme.h"

namespace zevo::app {

BusyView::BusyView(QWidget* parent) : QWidget(parent) {
    auto* outer = new QHBoxLayout(this);
    outer->addStretch(1);
    auto* column = new QVBoxLayout;
    column->setSpacing(16);
    outer->addLayout(column, 3);
    outer->addStretch(1);
    auto line = [&](const char* name, int pixels, bool bold) {
        auto* l = new QLabel(this);
        l->setObjectName(name);
        l->setWordWrap(true);
        l->setFont(textFont(pixels, bold));
        column->addWidget(l);
        return l;
    };
    column->addStretch(2);
    m_title = line("busyTitle", 26, true);
    m_bar = new QProgressBar(this);
    m_bar->setObjectName("busyBar");
    m_bar->setTextVisible(false);
    column->addWidget(m_bar);
    m_message = line("busyMessage", 18, false);
    m_safe = line("busySafe", 15, false);
    m_safe->setProperty("kind", "faint");
    auto* row = new QHBoxLayout;
    auto button = [&](const char* name, const QString& text, auto signal) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        b->setMinimumHeight(44);
        connect(b, &QPushButton::clicked, this, signal);
        row->addWidget(b);
        return b;
    };
    m_other = button("otherClip", "Choose another clip…", &BusyView::otherClipWanted);
    m_other->setProperty("kind", "main");
    m_back = button("backHome", "Back to clients", &BusyView::backWanted);
    m_cancel = button("cancel", "Stop (Esc)", &BusyView::cancelWanted);
    row->addStretch();
    column->addLayout(row);
    column->addStretch(3);
}

void BusyView::showWork(const QString& title) {
    m_title->setText(title);
    m_message->setText("Starting");
    m_safe->setText("Your file is only read, never changed.");
    m_bar->setRange(0, 0);
    m_bar->show();
    m_cancel->show();
    m_cancel->setEnabled(true);
    m_other->hide();
    m_back->hide();
    m_cancel->setFocus();
}

void BusyView::setProgress(const QString& stage, qint64 done, qint64 all, double secondsLeft) {
    m_bar->setRange(0, static_cast<int>(all));
    m_bar->setValue(static_cast<int>(done));
    QString text = stage;
    if (all > 0) text += QString(": frame %1 of %2").arg(done).arg(all);
    if (secondsLeft >= 1) text += QString(", about %1 s left").arg(std::lround(std::ceil(secondsLeft)));
    m_message->setText(text);
}

void BusyView::showProblem(const QString& title, const QString& message, const QString& safe) {
    m_title->setText(title);
    m_message->setText(message);
    m_safe->setText(safe);
    m_bar->hide();
    m_cancel->hide();
    m_other->show();
    m_back->show();
    m_other->setFocus();
}

QString BusyView::message() const {
    return m_message->text();
}

}  // namespace zevo::app

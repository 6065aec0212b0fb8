// Help: the details of what went wrong, and who works at this computer.
#include <QApplication>
#include <QBoxLayout>
#include <QClipboard>
#include <QDialog>
#include <QInputDialog>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>

#include "app/shell/main_window.h"

namespace zevo::app {

/// Shown before it is copied: who passes it on sees what is in it.
void MainWindow::copyDetails() {
    const QString details = QString("Zevo %1, engine %2, library schema %3\n%4")
                                .arg(QApplication::applicationVersion())
                                .arg(kEngine)
                                .arg(store::Library::newestSchema())
                                .arg(m_log.recent());
    auto* sheet = new QDialog(this);
    sheet->setAttribute(Qt::WA_DeleteOnClose);
    sheet->setObjectName("details");
    sheet->setWindowTitle(tr("Details of what went wrong"));
    sheet->resize(760, 480);
    auto* column = new QVBoxLayout(sheet);
    auto* words =
        new QLabel(tr("This is all of it: what Zevo was doing and what kind of thing went wrong. No names, notes "
                      "or files' names are in it. It stays on this computer unless you pass it on."),
                   sheet);
    words->setWordWrap(true);
    column->addWidget(words);
    if (m_log.recent().isEmpty()) words->setText(tr("Nothing has gone wrong that Zevo would know of."));
    auto* text = new QPlainTextEdit(details, sheet);
    text->setObjectName("detailsText");
    text->setReadOnly(true);
    text->setLineWrapMode(QPlainTextEdit::NoWrap);
    column->addWidget(text, 1);
    auto* row = new QHBoxLayout;
    row->addStretch(1);
    auto* close = new QPushButton(tr("Close"), sheet);
    auto* copy = new QPushButton(tr("Copy it"), sheet);
    copy->setObjectName("copyThese");
    copy->setProperty("kind", "main");
    copy->setDefault(true);
    for (QPushButton* b : {close, copy}) b->setMinimumHeight(40), row->addWidget(b);
    column->addLayout(row);
    connect(close, &QPushButton::clicked, sheet, &QDialog::close);
    connect(copy, &QPushButton::clicked, sheet, [this, sheet, details] {
        QApplication::clipboard()->setText(details);
        showNotice(tr("The details are in the clipboard."));
        sheet->close();
    });
    sheet->open();
}

void MainWindow::askCoachName() {
    bool ok = false;
    const QString name = QInputDialog::getText(this, tr("Who works at this computer"),
                                               tr("Your name or initials; every change you make carries it:"),
                                               QLineEdit::Normal, m_settings.coach, &ok);
    if (!ok) return;
    constexpr int kLongest = 80;
    m_settings.coach = name.simplified().left(kLongest);
    saveSettings(m_library.folder(), m_settings);
    m_film->setSettings(m_settings);
    showNotice(m_settings.coach.isEmpty() ? tr("Changes carry no name from now on.")
                                          : tr("Changes carry the name %1 from now on.").arg(m_settings.coach));
}

}  // namespace zevo::app

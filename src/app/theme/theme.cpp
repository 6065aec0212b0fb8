#include "app/theme/theme.h"

#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QPixmap>
#include <QSvgRenderer>

namespace zevo::app {

void installFonts() {
    for (const char* file : {":/fonts/Lato-Regular.ttf", ":/fonts/Lato-Bold.ttf"})
        QFontDatabase::addApplicationFont(file);
    QApplication::setFont(textFont(15));
}

QIcon icon(const QString& name, const QColor& colour) {
    QFile file(":/icons/" + name + ".svg");
    if (!file.open(QIODevice::ReadOnly)) return {};
    const QByteArray svg = file.readAll().replace("currentColor", colour.name().toLatin1());
    QSvgRenderer renderer(svg);
    QIcon out;
    for (int side : {24, 48}) {
        QPixmap pixmap(side, side);
        pixmap.fill(Qt::transparent);
        QPainter painter(&pixmap);
        renderer.render(&painter);
        out.addPixmap(pixmap);
    }
    return out;
}

void applyTheme(QApplication& app, const Theme& t) {
    QPalette p;
    p.setColor(QPalette::Window, t.paper);
    p.setColor(QPalette::Base, t.panel);
    p.setColor(QPalette::AlternateBase, t.sunken);
    p.setColor(QPalette::Button, t.panel);
    for (auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText, QPalette::ToolTipText})
        p.setColor(role, t.ink);
    p.setColor(QPalette::PlaceholderText, t.faint);
    p.setColor(QPalette::Highlight, t.accent);
    p.setColor(QPalette::HighlightedText, t.onAccent);
    p.setColor(QPalette::ToolTipBase, t.panel);
    p.setColor(QPalette::Disabled, QPalette::ButtonText, t.faint);
    p.setColor(QPalette::Disabled, QPalette::Text, t.faint);
    app.setPalette(p);
    const QString css = QStringLiteral(R"(
QWidget { color: @ink; font-family: "Lato"; }
QMainWindow, QDialog, QMessageBox { background: @paper; }
QToolTip { background: @panel; color: @ink; border: 1px solid @line; padding: 4px 8px; }
QPushButton { background: @panel; border: 1px solid @line; border-radius: 8px; padding: 8px 14px; min-height: 20px; }
QPushButton:hover { border-color: @accent; }
QPushButton:focus { border: 2px solid @accent; padding: 7px 13px; }
QPushButton:checked { background: @accent; color: @onAccent; border-color: @accent; }
QPushButton:disabled { color: @faint; background: transparent; }
QPushButton[kind="main"] { background: @accent; color: @onAccent; border-color: @accent; font-weight: bold; }
QPushButton[kind="main"]:focus { border: 2px solid @ink; }
QPushButton[kind="quiet"] { background: transparent; border-color: transparent; padding: 6px 8px; }
QPushButton[kind="quiet"]:checked { background: @accent; border-color: @accent; color: @onAccent; }
QPushButton[kind="quiet"]:hover, QPushButton[kind="quiet"]:focus { border: 1px solid @accent; }
QPushButton[kind="tab"] { background: transparent; border: none; border-bottom: 3px solid transparent; border-radius: 0; padding: 4px 8px; margin-right: 8px; color: @faint; }
QPushButton[kind="tab"]:checked { color: @ink; border-bottom: 3px solid @accent; font-weight: bold; }
QPushButton[kind="tab"]:focus { color: @accent; }
QPushButton[kind="tool"] { padding: 6px 9px; }
QPushButton[kind="tool"]:focus { padding: 5px 8px; }
QPushButton[kind="chip"] { border-radius: 12px; padding: 2px 12px; min-height: 20px; }
QPushButton[kind="chip"]:focus { border: 2px solid @accent; padding: 1px 11px; }
QPushButton::menu-indicator { width: 0; }
QComboBox { background: @panel; border: 1px solid @line; border-radius: 8px; padding: 7px 12px; min-height: 20px; }
QComboBox[kind="chip"] { border-radius: 12px; padding: 2px 12px; }
QComboBox[kind="chip"]:focus { border-radius: 12px; padding: 1px 11px; }
QComboBox:focus { border: 2px solid @accent; padding: 6px 11px; }
QComboBox::drop-down, QDateEdit::drop-down { border: none; width: 30px; }
QComboBox::down-arrow, QDateEdit::down-arrow { image: url(:/icons/down-@tick.svg); width: 20px; height: 20px; }
QComboBox QAbstractItemView { background: @panel; border: 1px solid @line; selection-background-color: @accent; selection-color: @onAccent; padding: 4px; }
QLineEdit, QPlainTextEdit, QDoubleSpinBox, QDateEdit { background: @panel; border: 1px solid @line; border-radius: 8px; padding: 7px 10px; selection-background-color: @accent; selection-color: @onAccent; }
QLineEdit:focus, QPlainTextEdit:focus, QDoubleSpinBox:focus, QDateEdit:focus { border: 2px solid @accent; padding: 6px 9px; }
QTableWidget { background: transparent; border: none; alternate-background-color: @panel; selection-background-color: @sunken; selection-color: @ink; }
QTableWidget:focus { border: 1px solid @accent; }
QHeaderView::section { background: transparent; color: @faint; border: none; border-bottom: 1px solid @line; padding: 4px; }
QListWidget { background: transparent; border: none; outline: none; }
QListWidget::item { border-radius: 10px; padding: 8px 12px; border: 1px solid transparent; }
QListWidget::item:hover { border: 1px solid @line; }
QListWidget::item:selected { background: @panel; color: @ink; border: 1px solid @accent; border-left: 5px solid @accent; }
QCheckBox { spacing: 10px; }
QCheckBox::indicator { width: 20px; height: 20px; border: 1px solid @faint; border-radius: 5px; background: @panel; }
QCheckBox::indicator:checked { background: @accent; border-color: @accent; image: url(:/icons/tick-@tick.svg); }
QCheckBox:focus { color: @accent; }
QProgressBar { background: @sunken; border: none; border-radius: 6px; height: 12px; }
QProgressBar::chunk { background: @accent; border-radius: 6px; }
QScrollArea { background: transparent; border: none; }
QScrollBar:vertical { background: transparent; width: 10px; margin: 0; }
QScrollBar::handle:vertical { background: @line; border-radius: 5px; min-height: 32px; }
QScrollBar:horizontal { background: transparent; height: 10px; margin: 0; }
QScrollBar::handle:horizontal { background: @line; border-radius: 5px; min-width: 32px; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
#palette { border: 1px solid @accent; }
QMenu { background: @panel; border: 1px solid @line; padding: 4px; }
QMenu::item { padding: 8px 18px; }
QMenu::item:selected { background: @accent; color: @onAccent; }
QMenu::item:disabled { color: @faint; }
QMenu::separator { height: 1px; background: @line; margin: 4px 8px; }
QLabel[kind="faint"] { color: @faint; }
QFrame[kind="card"] { background: @panel; border-radius: 12px; }
QFrame[kind="notice"] { background: @sunken; border: 1px solid @outside; border-radius: 8px; }
)");
    QString filled = css;
    const std::pair<const char*, QString> names[] = {
        {"@onAccent", t.onAccent.name()},    {"@outside", t.outside.name()}, {"@sunken", t.sunken.name()},
        {"@accent", t.accent.name()},        {"@paper", t.paper.name()},     {"@panel", t.panel.name()},
        {"@faint", t.faint.name()},          {"@line", t.line.name()},       {"@ink", t.ink.name()},
        {"@tick", t.dark ? "dark" : "light"}};
    for (const auto& [name, value] : names) filled.replace(name, value);
    app.setStyleSheet(filled);
}

}  // namespace zevo::app

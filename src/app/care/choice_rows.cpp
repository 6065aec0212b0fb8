#include "app/care/choice_rows.h"

#include <QBoxLayout>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>

namespace zevo::app {
namespace {

QString text(const std::string& s) {
    return QString::fromStdString(s);
}

}  // namespace

ChoiceRows::ChoiceRows(QWidget* parent) : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    m_grid = new QGridLayout;
    m_grid->setHorizontalSpacing(10);
    m_grid->setVerticalSpacing(4);
    column->addLayout(m_grid);
    m_keep = new QPushButton(tr("Keep these for this client"), this);
    m_keep->setObjectName("keepChoices");
    m_keep->setToolTip(tr("The next sets of this client begin with them"));
    column->addWidget(m_keep, 0, Qt::AlignLeft);
    connect(m_keep, &QPushButton::clicked, this, [this] { emit keptForClient(m_overrides); });
}

void ChoiceRows::build(const ChoiceBook& book, const Movement& movement) {
    while (QLayoutItem* item = m_grid->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    m_rows.clear();
    m_movement = movement.id;
    int at = 0;
    for (const Choice& c : book) {
        if (!c.isFor(movement)) continue;
        Row row{c.id, {}, new QComboBox(this)};
        row.box->setObjectName(text("choice-" + c.id));
        row.box->setAccessibleName(text(c.title));
        row.box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        row.box->setMinimumContentsLength(10);
        row.box->addItem(QString(), QString());
        for (const auto& o : c.options) {
            row.box->addItem(text(o.title), text(o.id));
            if (o.asksNumber) row.number = o.id;
        }
        m_grid->addWidget(new QLabel(text(c.title), this), at, 0);
        m_grid->addWidget(row.box, at, 1);
        m_grid->setColumnStretch(1, 1);
        if (!row.number.empty()) {
            row.value = new QDoubleSpinBox(this);
            row.value->setObjectName(text("number-" + c.id));
            row.value->setAccessibleName(text(c.title));
            row.value->setRange(-40, 60);
            row.value->setDecimals(0);
            row.value->setSuffix("°");
            row.value->setKeyboardTracking(false);
            m_grid->addWidget(row.value, at, 2);
            connect(row.value, &QDoubleSpinBox::valueChanged, this, [this] {
                if (!m_filling) emit chosen(picked());
            });
        }
        connect(row.box, &QComboBox::activated, this, [this] { emit chosen(picked()); });
        m_rows.push_back(row);
        ++at;
    }
}

void ChoiceRows::show(const ChoiceBook& book, const Movement& movement, const Standard& school,
                      const Choices& overrides, const Choices& forClient) {
    m_filling = true;
    if (m_movement != movement.id) build(book, movement);
    m_overrides = overrides;
    for (const Row& row : m_rows) {
        const auto choice = std::find_if(book.begin(), book.end(), [&](const Choice& c) { return c.id == row.choice; });
        const auto bundled = school.choices.find(row.choice);
        const ChoiceOption* own =
            choice == book.end() || bundled == school.choices.end() ? nullptr : choice->option(bundled->second);
        row.box->setItemText(0, own ? tr("%1 (as the school)").arg(text(own->title)) : tr("As the school"));
        const auto other = overrides.find(row.choice);
        const ChoiceOption* option =
            other == overrides.end() || choice == book.end() ? nullptr : choice->option(other->second);
        row.box->setCurrentIndex(option ? std::max(0, row.box->findData(text(option->id))) : 0);
        row.box->setToolTip(row.box->currentText());
        if (!row.value) continue;
        row.value->setVisible(option && option->asksNumber);
        if (option && option->asksNumber) row.value->setValue(numberOf(other->second).value_or(0));
    }
    m_keep->setEnabled(overrides != forClient);
    m_filling = false;
}

Choices ChoiceRows::picked() const {
    // What belongs to other movements stays.
    Choices out = m_overrides;
    for (const Row& row : m_rows) {
        const std::string id = row.box->currentData().toString().toStdString();
        if (id.empty())
            out.erase(row.choice);
        else
            out[row.choice] = id == row.number ? id + ":" + std::to_string(std::lround(row.value->value())) : id;
    }
    return out;
}

}  // namespace zevo::app

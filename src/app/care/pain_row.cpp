#include "app/care/pain_row.h"

#include <QBoxLayout>
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>

#include "app/care/place_button.h"

namespace zevo::app {

PainRow::PainRow(const QString& question, const QString& name, QWidget* parent) : QWidget(parent) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    row->addWidget(new QLabel(question, this));
    m_score = new QComboBox(this);
    m_score->setObjectName(name + "Score");
    m_score->setAccessibleName(question + tr(", 0 to 10"));
    m_score->addItem(tr("not asked"));
    for (int i = 0; i <= 10; ++i) m_score->addItem(QString::number(i));
    m_place = new PlaceButton(this);
    m_place->setObjectName(name + "Place");
    m_place->setAccessibleName(question + tr(", where"));
    m_sharp = new QCheckBox(tr("sharp"), this);
    m_sharp->setObjectName(name + "Sharp");
    for (QWidget* w : {static_cast<QWidget*>(m_score), static_cast<QWidget*>(m_place), static_cast<QWidget*>(m_sharp)})
        row->addWidget(w);
    row->addStretch();
    auto tell = [this] {
        if (!m_filling) emit answered(answer());
    };
    connect(m_score, &QComboBox::activated, this, tell);
    connect(m_place, &PlaceButton::chosen, this, tell);
    connect(m_sharp, &QCheckBox::toggled, this, tell);
}

PainRow::Answer PainRow::answer() const {
    Answer a;
    if (m_score->currentIndex() > 0) a.score = m_score->currentIndex() - 1;
    a.spots = m_place->spots();
    a.sharp = m_sharp->isChecked();
    return a;
}

void PainRow::setAnswer(const Answer& a) {
    m_filling = true;
    m_score->setCurrentIndex(a.score ? *a.score + 1 : 0);
    m_place->setSpots(a.spots);
    m_sharp->setChecked(a.sharp);
    m_filling = false;
}

}  // namespace zevo::app

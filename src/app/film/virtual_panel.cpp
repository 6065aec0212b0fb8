#include "app/film/virtual_panel.h"

#include <QComboBox>
#include <QFormLayout>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QVBoxLayout>

#include "app/theme/theme.h"

namespace zevo::app {

VirtualPanel::VirtualPanel(QWidget* parent) : QWidget(parent) {
    setObjectName("virtualPanel");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 6, 0, 0);
    column->setSpacing(6);
    auto* heading = new QLabel(tr("Virtual client"), this);
    heading->setFont(textFont(15, true));
    column->addWidget(heading);
    auto* form = new QFormLayout;
    form->setVerticalSpacing(6);
    m_view = new QComboBox(this);
    m_view->setObjectName("virtualView");
    m_view->addItem(tr("from the side"), false);
    m_view->addItem(tr("from the front"), true);
    m_fault = new QComboBox(this);
    m_fault->setObjectName("virtualFault");
    m_size = new QSlider(Qt::Horizontal, this);
    m_size->setObjectName("virtualSize");
    m_size->setRange(0, 100);
    m_size->setSingleStep(10);
    m_listens = new QComboBox(this);
    m_listens->setObjectName("virtualListens");
    for (int share : {0, 30, 60, 100}) m_listens->addItem(tr("%1 %").arg(share), share);
    m_listens->setCurrentIndex(3);
    m_listens->setToolTip(tr("How much of a fault is gone in the next set, once its cue was marked as given"));
    for (auto* b : {m_view, m_fault, m_listens}) {
        b->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        b->setMinimumContentsLength(6);
    }
    form->addRow(tr("Seen"), m_view);
    form->addRow(tr("Fault"), m_fault);
    form->addRow(tr("How much"), m_size);
    form->addRow(tr("Listens"), m_listens);
    column->addLayout(form);
    auto* moves = new QGridLayout;
    moves->setSpacing(2);
    struct Button {
        const char* name;
        const char* text;
        const char* tip;
        CameraMove move;
        double amount;
    };
    static constexpr Button kButtons[] = {
        {"moveUp", "▲", QT_TR_NOOP("raise it 10 cm"), CameraMove::Up, 0.1},
        {"moveDown", "▼", QT_TR_NOOP("lower it 10 cm"), CameraMove::Down, 0.1},
        {"moveNearer", "+", QT_TR_NOOP("half a step nearer"), CameraMove::Nearer, 0.35},
        {"moveBack", "−", QT_TR_NOOP("half a step back"), CameraMove::Back, 0.35},
        {"walkLeft", "⟲", QT_TR_NOOP("walk it to the left"), CameraMove::WalkLeft, 6},
        {"walkRight", "⟳", QT_TR_NOOP("walk it to the right"), CameraMove::WalkRight, 6},
        {"levelLeft", "↶", QT_TR_NOOP("left side down 1°"), CameraMove::LevelLeft, 1},
        {"levelRight", "↷", QT_TR_NOOP("right side down 1°"), CameraMove::LevelRight, 1}};
    int at = 0;
    for (const Button& b : kButtons) {
        auto* button = new QPushButton(QString::fromUtf8(b.text), this);
        button->setObjectName(b.name);
        button->setToolTip(tr("The camera: %1").arg(tr(b.tip)));
        button->setAccessibleName(button->toolTip());
        button->setMinimumWidth(30);
        connect(button, &QPushButton::clicked, this, [this, &b] { put(b.move, b.amount); });
        moves->addWidget(button, at / 4, at % 4);
        ++at;
    }
    column->addLayout(moves);
    m_helper = new QPushButton(tr("Have it done"), this);
    m_helper->setObjectName("helper");
    m_helper->setToolTip(tr("Somebody moves the simulated camera as the sentence on the picture says"));
    column->addWidget(m_helper);
    connect(m_helper, &QPushButton::clicked, this, [this] {
        if (m_advice) put(m_advice->move, m_advice->amount);
    });
    for (auto* box : {m_view, m_fault, m_listens}) connect(box, &QComboBox::activated, this, &VirtualPanel::take);
    connect(m_size, &QSlider::sliderReleased, this, &VirtualPanel::take);
    connect(m_size, &QSlider::actionTriggered, this, [this](int) {
        if (!m_size->isSliderDown()) QMetaObject::invokeMethod(this, &VirtualPanel::take, Qt::QueuedConnection);
    });
    setAdvice({});
    // Smaller pictures are drawn sooner; the joints are found as well.
    m_dials.width = 960, m_dials.height = 540;
    m_dials.reps = 4;
}

void VirtualPanel::setMovement(const Movement& movement, const std::string& variation, double statureCm, unsigned look,
                               const AdviceBook& book) {
    const bool other = m_dials.movement != movement.id || m_fault->count() == 0;
    m_dials.movement = movement.id;
    m_dials.variation = variation;
    m_dials.statureCm = statureCm > 100 ? statureCm : 175;
    m_dials.look = look;
    if (other) {
        m_dials.camera.heightM = movement.family == Family::Bridge ? 0.5 : 0.53 * m_dials.statureCm / 100;
        m_dials.fault.clear();
    }
    m_filling = true;
    m_fault->clear();
    m_fault->addItem(tr("none"), "");
    for (const std::string& fault : sim::faultsOf(movement.id, m_dials.front)) {
        const auto text = book.faults.find(fault);
        m_fault->addItem(
            text == book.faults.end() ? QString::fromStdString(fault) : QString::fromStdString(text->second.title),
            QString::fromStdString(fault));
    }
    m_filling = false;
    if (other && m_fault->count() > 1) {
        m_dials.fault = m_fault->itemData(1).toString().toStdString();
        m_dials.size = 1;
    }
    fill();
    emit changed();
}

void VirtualPanel::setDials(const sim::ClientDials& dials) {
    m_dials = dials;
    fill();
    emit changed();
}

void VirtualPanel::setAdvice(const std::optional<CameraAdvice>& advice) {
    m_advice = advice && advice->move != CameraMove::None ? advice : std::nullopt;
    m_helper->setEnabled(m_advice.has_value());
}

void VirtualPanel::hear(const QString& fault) {
    if (fault.isEmpty() || fault.toStdString() != m_dials.fault) return;
    m_dials.size = sim::afterCue(m_dials.size, m_listens->currentData().toDouble() / 100);
    fill();
    emit changed();
}

void VirtualPanel::fill() {
    m_filling = true;
    m_view->setCurrentIndex(m_dials.front ? 1 : 0);
    m_fault->setCurrentIndex(std::max(0, m_fault->findData(QString::fromStdString(m_dials.fault))));
    m_size->setValue(static_cast<int>(std::lround(100 * m_dials.size)));
    m_size->setEnabled(!m_dials.fault.empty());
    m_filling = false;
}

void VirtualPanel::take() {
    if (m_filling) return;
    sim::ClientDials now = m_dials;
    now.front = m_view->currentData().toBool();
    now.fault = m_fault->currentData().toString().toStdString();
    now.size = m_size->value() / 100.0;
    if (now.fault != m_dials.fault && now.size == 0) now.size = 1;
    if (now.front != m_dials.front) now.fault.clear();  // the other view shows others
    if (now == m_dials) return;
    m_dials = now;
    fill();
    emit changed();
}

void VirtualPanel::put(CameraMove move, double amount) {
    m_dials.camera = pipeline::moved(m_dials.camera, move, amount);
    emit changed();
}

}  // namespace zevo::app

// What the film page is made of.
#include <QBoxLayout>
#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>

#include "app/film/film_view.h"
#include "app/parts/movement_box.h"

namespace zevo::app {
namespace {

using Phase = Filming::Phase;

QCheckBox* box(QWidget* parent, const char* name, const QString& text, const QString& tip) {
    auto* b = new QCheckBox(text, parent);
    b->setObjectName(name);
    b->setToolTip(tip);
    return b;
}

}  // namespace

void FilmView::buildSide(QVBoxLayout* side) {
    m_start = new QPushButton(tr("Start"), this);
    m_start->setObjectName("startFilming");
    m_start->setProperty("kind", "main");
    m_start->setMinimumHeight(56);
    m_start->setFont(textFont(20, true));
    side->addWidget(m_start);
    m_movement = new MovementBox(this);
    m_movement->setObjectName("filmMovement");
    m_movement->setMinimumHeight(42);
    side->addWidget(m_movement);
    m_camera = new QComboBox(this);
    m_camera->setObjectName("camera");
    m_camera->setAccessibleName(tr("Camera"));
    side->addWidget(m_camera);
    m_secondCamera = new QComboBox(this);
    m_secondCamera->setObjectName("secondCamera");
    m_secondCamera->setAccessibleName(tr("Second camera"));
    m_secondCamera->setToolTip(tr("Films the other view at the same time; both become one set"));
    side->addWidget(m_secondCamera);
    connect(m_secondCamera, &QComboBox::activated, this, [this] {
        if (!m_filling && m_filming->phase() != Phase::Filming) openCamera();
    });
    m_warmUp = box(this, "warmUp", tr("Warm-up set"), tr("Not a working set"));
    m_startStill = box(this, "startStill", tr("Starts on standing still"),
                       tr("After two seconds of standing still; what came before is in the clip as well"));
    m_stopStill = box(this, "stopStill", tr("Stops when the set is over"),
                      tr("After three seconds of standing still, or when nobody is left in the picture"));
    m_hand = box(this, "hand", tr("Raised hand"), tr("One hand above the head for a second starts and stops"));
    m_sound = box(this, "sound", tr("Sounds"), tr("Count-in, end, and the clicks of the tempo"));
    m_mirror = box(this, "mirror", tr("Mirrored"), tr("The picture as in a mirror, for watching oneself"));
    m_showCue = box(this, "showCue", tr("Show the cue during the set"),
                    tr("The words given after the last set. Off for the first set: watch first, cue later"));
    auto* pairs = new QGridLayout;
    pairs->setVerticalSpacing(4);
    pairs->addWidget(m_warmUp, 0, 0);
    pairs->addWidget(m_sound, 0, 1);
    pairs->addWidget(m_hand, 1, 0);
    pairs->addWidget(m_mirror, 1, 1);
    side->addLayout(pairs);
    for (QCheckBox* b : {m_startStill, m_stopStill, m_showCue}) side->addWidget(b);
    for (QCheckBox* b : {m_warmUp, m_startStill, m_stopStill, m_hand, m_sound, m_mirror, m_showCue}) {
        connect(b, &QCheckBox::toggled, this, [this] {
            if (!m_filling) takeSettings();
        });
    }
    m_tempo = new QComboBox(this);
    m_tempo->setObjectName("tempoGuide");
    m_tempo->setAccessibleName(tr("Tempo guide"));
    m_tempo->addItem(tr("No tempo guide"), "");
    for (const char* tempo : {"2-0-2", "3-1-1", "4-1-1", "4-0-1", "5-2-1"})
        m_tempo->addItem(tr("Tempo %1: down, still, up").arg(tempo), tempo);
    side->addWidget(m_tempo);
    m_displayButton = new QPushButton(tr("Client's display"), this);
    m_displayButton->setObjectName("showDisplay");
    side->addWidget(m_displayButton);
    // A long name must not push the column's right edge out of sight.
    for (QComboBox* b : {static_cast<QComboBox*>(m_movement), m_camera, m_secondCamera, m_tempo}) {
        b->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        b->setMinimumContentsLength(8);
    }
    m_virtual = new VirtualPanel(this);
    side->addWidget(m_virtual);
    side->addStretch();
    m_state = new QLabel(this);
    m_state->setObjectName("cameraState");
    m_state->setWordWrap(true);
    m_state->setProperty("kind", "faint");
    m_state->setFont(textFont(13));
    side->addWidget(m_state);
    connect(m_camera, &QComboBox::activated, this, &FilmView::chooseCamera);
    connect(m_movement, &QComboBox::activated, this, &FilmView::chooseMovement);
    connect(m_tempo, &QComboBox::activated, this, &FilmView::takeSettings);
}

void FilmView::buildConsent() {
    m_consent = new QWidget(m_canvas);
    m_consent->setObjectName("consentPage");
    auto* column = new QVBoxLayout(m_consent);
    column->setContentsMargins(40, 30, 40, 30);
    column->setSpacing(14);
    m_consentText = new QLabel(m_consent);
    m_consentText->setObjectName("consentText");
    m_consentText->setWordWrap(true);
    m_consentText->setFont(textFont(22, true));
    auto* small = new QLabel(tr("Ask once, before the first filming. The videos stay on this computer; if the client "
                                "takes it back, everything can be deleted at once."),
                             m_consent);
    small->setWordWrap(true);
    small->setFont(textFont(16));
    column->addStretch();
    column->addWidget(m_consentText);
    column->addWidget(small);
    struct Purpose {
        const char* name;
        QString text, purpose;
    };
    for (const Purpose& p : {Purpose{"agreeCoaching", tr("Agreed today: for coaching only"), tr("coaching only")},
                             Purpose{"agreeShow", tr("Agreed today: for coaching, and to show to others"),
                                     tr("coaching, and to show to others")}}) {
        auto* b = new QPushButton(p.text, m_consent);
        b->setObjectName(p.name);
        b->setMinimumHeight(52);
        b->setFont(textFont(18, true));
        connect(b, &QPushButton::clicked, this, [this, purpose = p.purpose] { agree(purpose); });
        column->addWidget(b);
    }
    column->addStretch();
    auto* whole = new QVBoxLayout(m_canvas);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->addWidget(m_consent);
    m_consent->hide();
}

}  // namespace zevo::app

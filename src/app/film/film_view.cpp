#include "app/film/film_view.h"

#include <QBoxLayout>
#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QLabel>
#include <QLocale>
#include <QPushButton>
#include <QScreen>
#include <QScrollArea>

#include "app/home/movement_box.h"
#include "core/judge/tempo.h"
#include "present/film_words.h"

namespace zevo::app {
namespace {

using Phase = Filming::Phase;

constexpr int kBeatMs = 33;
/// The check looks at the last second, twice a second; and the pictures from the new place have to be drawn.
constexpr double kSettledS = 2.2;
/// The first repetition begins this long after the picture begins to count.
constexpr double kTempoLeadS = 1.5, kTempoRestS = 1;

QCheckBox* box(QWidget* parent, const char* name, const QString& text, const QString& tip) {
    auto* b = new QCheckBox(text, parent);
    b->setObjectName(name);
    b->setToolTip(tip);
    return b;
}

}  // namespace

FilmView::FilmView(const QString& libraryFolder, JobQueue* queue, Actions& actions, QWidget* parent)
    : QWidget(parent), m_folder(libraryFolder) {
    m_filming = new Filming(libraryFolder, queue, this);
    m_sounds = new Sounds(this);
    auto* page = new QVBoxLayout(this);
    page->setContentsMargins(16, 6, 16, 10);
    page->setSpacing(8);
    auto* upper = new QHBoxLayout;
    upper->setSpacing(14);
    m_canvas = new LiveCanvas(LiveCanvas::For::Coach, this);
    m_canvas->setObjectName("live");
    upper->addWidget(m_canvas, 1);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFixedWidth(300);
    scroll->setFocusPolicy(Qt::NoFocus);
    auto* sideBox = new QWidget(scroll);
    auto* side = new QVBoxLayout(sideBox);
    side->setContentsMargins(0, 0, 12, 0);
    side->setSpacing(6);
    buildSide(side);
    scroll->setWidget(sideBox);
    upper->addWidget(scroll);
    page->addLayout(upper, 1);
    m_session = new SessionStrip(this);
    page->addWidget(m_session);
    buildConsent();

    m_display = new LiveCanvas(LiveCanvas::For::Client);
    m_display->setObjectName("clientDisplay");
    m_display->setWindowTitle(tr("Zevo: the client's display"));
    m_display->resize(1280, 720);

    actions.bind(m_start, "filmPress");
    actions.bind(m_displayButton, "clientDisplay");
    connect(m_filming, &Filming::looked, this, &FilmView::look);
    connect(m_filming, &Filming::secondLooked, this, [this](const pipeline::LiveLook& look) {
        m_secondLook = look;
        m_canvas->setInset(look.picture);
    });
    connect(m_filming, &Filming::phaseChanged, this, &FilmView::phaseChanged);
    connect(m_filming, &Filming::ended, this, &FilmView::filmed);
    connect(m_filming, &Filming::trouble, this, [this](const Error& error) {
        emit trouble(tr("Filming"), error);
        refresh();
    });
    connect(m_filming, &Filming::clientReadiness, this, [this](int percent) {
        m_ready = percent;
        refresh();
    });
    connect(m_session, &SessionStrip::setWanted, this, &FilmView::setWanted);
    connect(m_session, &SessionStrip::deleteWanted, this, &FilmView::deleteWanted);
    connect(m_session, &SessionStrip::nextWanted, this, [this] {
        if (m_filming->phase() == Phase::Watching) press();
    });
    connect(m_virtual, &VirtualPanel::changed, this, [this] {
        if (m_virtual->dials().camera != m_filming->dials().camera) m_movedS = media::steadySeconds();
        m_filming->setDials(m_virtual->dials());
        refresh();
    });
    m_beat.setTimerType(Qt::PreciseTimer);
    m_beat.setInterval(kBeatMs);
    connect(&m_beat, &QTimer::timeout, this, &FilmView::refresh);
    setFocusPolicy(Qt::StrongFocus);
}

FilmView::~FilmView() {
    delete m_display;
}

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

void FilmView::setTheme(const Theme& theme) {
    m_theme = theme;
    m_canvas->setTheme(theme);
    m_display->setTheme(theme);
    m_session->setTheme(theme);
    m_start->setIcon(icon("camera", theme.onAccent));
    m_start->setIconSize({28, 28});
    m_displayButton->setIcon(icon("screen", theme.ink));
}

void FilmView::setSettings(const Settings& settings) {
    m_settings = settings;
    m_filling = true;
    m_startStill->setChecked(settings.startStill);
    m_stopStill->setChecked(settings.stopStill);
    m_hand->setChecked(settings.handStarts);
    m_sound->setChecked(settings.sounds);
    m_mirror->setChecked(settings.mirror);
    m_tempo->setCurrentIndex(std::max(0, m_tempo->findData(settings.tempoGuide)));
    m_filling = false;
    m_sounds->setOn(settings.sounds);
    FilmingRules rules;
    rules.startStill = settings.startStill;
    rules.startHand = rules.stopHand = settings.handStarts;
    rules.stopStill = rules.stopGone = settings.stopStill;
    m_filming->setRules(rules);
    refresh();
}

void FilmView::takeSettings() {
    Settings s = m_settings;
    s.startStill = m_startStill->isChecked();
    s.stopStill = m_stopStill->isChecked();
    s.handStarts = m_hand->isChecked();
    s.sounds = m_sound->isChecked();
    s.mirror = m_mirror->isChecked();
    s.tempoGuide = m_tempo->currentData().toString();
    m_facts.warmUp = m_warmUp->isChecked();
    takePlan();
    setSettings(s);
    emit settingsChanged(s);
}

void FilmView::setCatalogue(std::shared_ptr<const Catalogue> catalogue) {
    m_catalogue = std::move(catalogue);
    static_cast<MovementBox*>(m_movement)->fill(*m_catalogue);
}

void FilmView::fillCameras() {
    m_cameras = pipeline::camerasToChoose();
    m_filling = true;
    m_camera->clear();
    int at = -1;
    for (std::size_t i = 0; i < m_cameras.size(); ++i) {
        const auto& c = m_cameras[i];
        if (c.id == "simulated")
            m_camera->addItem(tr("Simulated camera (virtual client)"));
        else
            m_camera->addItem(QString("%1 (%2)").arg(QString::fromStdString(c.name),
                                                     present::modeText(c.mode.width, c.mode.height, c.mode.rate)));
        if (QString::fromStdString(c.id) == m_settings.camera) at = static_cast<int>(i);
    }
    // The one used last, else the first real one, else the simulated one.
    m_camera->setCurrentIndex(std::max(at, 0));
    m_secondCamera->clear();
    m_secondCamera->addItem(tr("No second camera"));
    for (int i = 0; i < m_camera->count(); ++i) m_secondCamera->addItem(tr("Second: %1").arg(m_camera->itemText(i)));
    m_filling = false;
}

void FilmView::chooseCamera() {
    if (m_filling || m_filming->phase() == Phase::Filming) return;
    m_settings.camera = QString::fromStdString(m_cameras[static_cast<std::size_t>(m_camera->currentIndex())].id);
    emit settingsChanged(m_settings);
    openCamera();
}

void FilmView::chooseMovement() {
    const QString movement = m_movement->currentData().toString();
    const QString variation = m_movement->currentData(Qt::UserRole + 1).toString();
    m_facts.movement = movement.toStdString();
    m_facts.variation = variation.toStdString();
    m_standard.clear();
    m_cue.clear();
    takePlan();
    emit movementChosen(movement, variation);
}

void FilmView::takePlan() {
    if (!m_catalogue || !m_entered) return;
    m_filming->setPlan({m_client, m_facts, m_standard, m_catalogue});
    const Movement* movement = m_catalogue->movement(m_facts.movement);
    if (!movement) return;
    const auto schools = m_catalogue->standardsFor(*movement);
    if (schools.empty()) return;
    const auto chosen = std::find_if(schools.begin(), schools.end(),
                                     [&](const Standard& s) { return s.id == m_standard.toStdString(); });
    m_bands = (chosen == schools.end() ? schools.front() : *chosen).forSet(movement->id, m_facts.variation);
}

void FilmView::enter(const store::Client& client, const SetFacts& facts, const QString& standard, const QString& cue) {
    const bool other = client.id != m_client.id || !m_entered;
    m_entered = true;
    m_client = client;
    m_facts = facts;
    m_facts.pain = {};
    m_facts.felt.clear();
    m_standard = standard;
    m_cue = cue;
    m_filling = true;
    static_cast<MovementBox*>(m_movement)->choose(facts.movement, facts.variation);
    m_warmUp->setChecked(facts.warmUp);
    // Watch first, cue later.
    m_showCue->setChecked(m_showCue->isChecked() && !cue.isEmpty());
    m_showCue->setEnabled(!cue.isEmpty());
    m_filling = false;
    takePlan();
    if (const Movement* movement = m_catalogue->movement(facts.movement))
        m_virtual->setMovement(*movement, facts.variation, client.statureCm, static_cast<unsigned>(client.id),
                               m_catalogue->advice);
    if (other || m_cameras.empty()) fillCameras();
    m_consentText->setText(
        tr("Has %1 agreed to be filmed?").arg(client.name.isEmpty() ? tr("the client") : client.name));
    m_consent->setVisible(!client.consent);
    if (!client.consent) {
        m_filming->close();
        m_canvas->clear();
        if (auto* first = m_consent->findChild<QPushButton*>("agreeCoaching")) first->setFocus();
        return refresh();
    }
    if (!m_filming->isOpen()) openCamera();
    m_filming->arm(true);
    refresh();
    setFocus();
}

void FilmView::openCamera() {
    if (!m_client.consent || m_cameras.empty()) return;
    const auto& camera = m_cameras[static_cast<std::size_t>(std::max(0, m_camera->currentIndex()))];
    m_virtual->setVisible(camera.id == "simulated");
    m_look.reset();
    m_wasRight = false;
    m_filming->setDials(m_virtual->dials());
    m_secondLook.reset();
    m_canvas->setInset({});
    std::optional<pipeline::CameraChoice> second;
    if (const int at = m_secondCamera->currentIndex() - 1; at >= 0) {
        second = m_cameras[static_cast<std::size_t>(at)];
        // One real camera cannot be both; the virtual client is seen from as many sides as one likes.
        if (second->id == camera.id && camera.id != "simulated") second.reset();
    }
    m_filming->open(camera, second, m_settings.model);
    m_filming->arm(true);
}

void FilmView::agree(const QString& purpose) {
    store::Client client = m_client;
    client.consent = QDate::currentDate();
    client.consentFor = purpose;
    emit clientChanged(client);
}

void FilmView::setClient(const store::Client& client) {
    if (!m_entered || client.id != m_client.id) return;
    const bool agreed = !m_client.consent && client.consent;
    m_client = client;
    takePlan();
    m_consent->setVisible(!client.consent);
    if (agreed && isVisible()) {
        openCamera();
        setFocus();
    }
}

bool FilmView::leave() {
    if (m_filming->phase() == Phase::Filming || m_filming->phase() == Phase::CountingIn) return false;
    m_filming->close();
    m_canvas->clear();
    m_display->hide();
    return true;
}

void FilmView::showSession(const store::Library& library) {
    m_session->show(library, *m_catalogue, m_client, QDate::currentDate());
}

void FilmView::press() {
    if (m_consent->isVisible()) return;
    if (!m_filming->isOpen()) {
        if (m_filming->phase() == Phase::Off) openCamera();
        return;
    }
    m_filming->press();
}

void FilmView::toggleDisplay() {
    if (m_display->isVisible()) return m_display->hide();
    // On another screen, if there is one, over all of it.
    for (QScreen* screen : QGuiApplication::screens())
        if (screen != this->screen()) {
            m_display->setGeometry(screen->geometry());
            return m_display->showFullScreen();
        }
    m_display->show();
}

void FilmView::toggleCue() {
    if (m_showCue->isEnabled()) m_showCue->toggle();
}

void FilmView::phaseChanged() {
    const Phase phase = m_filming->phase();
    const bool on = phase == Phase::CountingIn || phase == Phase::Filming;
    on ? m_beat.start() : m_beat.stop();
    m_lastBeat = -1;
    if (phase == Phase::Filming) m_counted = 0, m_sounds->play("go");
    if (phase == Phase::Ending) m_sounds->play("end");
    m_start->setText(phase == Phase::Filming      ? tr("Stop")
                     : phase == Phase::CountingIn ? tr("Not yet")
                     : phase == Phase::Off        ? tr("Camera on")
                                                  : tr("Start"));
    m_movement->setEnabled(!on);
    m_camera->setEnabled(!on);
    m_secondCamera->setEnabled(!on);
    m_virtual->setEnabled(!on);
    refresh();
}

void FilmView::look(const pipeline::LiveLook& look) {
    m_look = look;
    m_canvas->setLook(look.picture, look.scale);
    if (m_display->isVisible()) m_display->setLook(look.picture, look.scale);
    const bool right = look.check.good();
    if (m_filming->phase() == Phase::Watching && right && !m_wasRight) m_sounds->play("right");
    m_wasRight = right;
    if (m_filming->phase() == Phase::Filming && look.filming && look.set.reps > m_counted)
        m_sounds->say(m_counted = look.set.reps);
    refresh();
}

QString FilmView::tempoWord(int phase) const {
    const auto breath = m_facts.choices.find("breath");
    if (breath != m_facts.choices.end() && breath->second == "down-up" && phase < 3)
        return phase == 0 ? tr("breathe in") : phase == 2 ? tr("breathe out") : QString();
    const Movement* movement = m_catalogue->movement(m_facts.movement);
    // A bridge lifts first.
    const bool up = movement && movement->drive == Drive::HipRise;
    if (phase == 0) return up ? tr("up") : tr("down");
    if (phase == 1) return tr("hold");
    if (phase == 2) return up ? tr("down") : tr("up");
    return {};
}

void FilmView::refresh() {
    const Phase phase = m_filming->phase();
    LiveCanvas::Scene s;
    s.phase = phase;
    s.mirrored = m_settings.mirror;
    s.countInS = m_filming->countInLeftS();
    std::optional<CameraAdvice> advice;
    if (m_look) {
        s.reps = m_look->set.reps;
        s.partial = m_look->set.partial;
        s.clipS = m_look->clipS;
        s.tensionS = m_look->set.tensionS;
    }
    switch (phase) {
        case Phase::Off:
            s.sentence = m_consent->isVisible() ? QString() : tr("The camera is off");
            s.reason = m_consent->isVisible() ? QString() : tr("Space switches it on");
            break;
        case Phase::Opening: s.sentence = tr("The camera is being opened"); break;
        case Phase::Ending: s.sentence = tr("Measuring"); break;
        case Phase::Watching:
            if (!m_look) break;
            if (m_look->timeS - m_movedS < kSettledS) {
                // What is said next is about where it stands now.
                s.sentence = tr("The camera is being moved");
            } else if (!m_look->check.good()) {
                advice = m_look->check.problems.front();
                s.sentence = present::cameraSentence(*advice, m_settings.lengths);
                s.reason = present::cameraReason(advice->problem) + tr(" · Space films all the same");
                s.move = advice->move;
                const auto problem = advice->problem;
                if (problem == CameraProblem::CutOff || problem == CameraProblem::TooNear) s.room = m_look->check.room;
            } else if (m_filming->hasSecond() && m_secondLook && !m_secondLook->check.good()) {
                const CameraAdvice& other = m_secondLook->check.problems.front();
                s.sentence = tr("Second: %1").arg(present::cameraSentence(other, m_settings.lengths));
                s.reason = present::cameraReason(other.problem) + tr(" · Space films all the same");
            } else if (!m_filming->isClientReady()) {
                s.sentence = tr("The virtual client gets ready: %1 %").arg(m_ready);
            } else {
                s.right = true;
                s.sentence = m_settings.startStill ? tr("Right. Stand still to begin") : tr("Right. Space to begin");
                s.reason = tr("%1 view").arg(QString::fromStdString(viewName(m_look->check.view)));
            }
            break;
        case Phase::CountingIn: {
            const int beat = static_cast<int>(std::ceil(s.countInS));
            if (beat != m_lastBeat && beat > 0) m_sounds->play("count");
            m_lastBeat = beat;
            break;
        }
        case Phase::Filming: {
            if (!m_look) break;
            if (const Movement* movement = m_catalogue->movement(m_facts.movement);
                movement && m_look->set.view == ViewKind::Side)
                s.line = present::liveLine(m_look->drawn, *movement, m_bands);
            if (m_showCue->isChecked()) s.cue = m_cue;
            if (const auto tempo = parseTempo(m_settings.tempoGuide.toStdString())) {
                // Between two pictures the target goes on.
                const double since = m_look->clipS + (media::steadySeconds() - m_look->timeS) - 3 - kTempoLeadS;
                s.tempo = present::tempoAt(since, tempo->lowerS, tempo->pauseS, tempo->liftS, kTempoRestS);
                s.tempoWord = tempoWord(s.tempo->phase);
                const int beat =
                    s.tempo->rep * 1000 + s.tempo->phase * 100 + static_cast<int>(std::ceil(s.tempo->leftS));
                if (beat != m_lastBeat && s.tempo->phase < 3) m_sounds->play("tick");
                m_lastBeat = beat;
            }
            break;
        }
    }
    m_virtual->setAdvice(advice);
    m_canvas->setScene(s);
    if (m_display->isVisible()) {
        m_display->setScene(s);
    }
    const auto counts = m_filming->counts();
    QString state;
    if (m_filming->isOpen() && counts.cameraRate > 0) {
        state = tr("%1 pictures a second, %2 looked at, lines %3 ms behind")
                    .arg(QLocale().toString(counts.cameraRate, 'f', 0), QLocale().toString(counts.poseRate, 'f', 0),
                         QLocale().toString(1000 * counts.behindS, 'f', 0));
        if (phase == Phase::Filming) state += tr(", %n dropped", "", static_cast<int>(counts.dropped));
        // Below fifteen a second turning points are missed live; the answer still has every picture.
        if (counts.poseRate > 0 && counts.poseRate < 15)
            state += tr(". This machine is slow for this network: “Quick” follows better.");
    }
    m_state->setText(state);
}

void FilmView::keyPressEvent(QKeyEvent* e) {
    // Whatever has the focus and does not want these itself: a box is ticked with Space, a set opened with Enter.
    if (!e->isAutoRepeat() && (e->key() == Qt::Key_Space || e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter))
        return press();
    QWidget::keyPressEvent(e);
}

}  // namespace zevo::app

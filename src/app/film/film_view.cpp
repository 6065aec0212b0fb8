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

#include "app/parts/movement_box.h"
#include "core/judge/tempo.h"
#include "present/film_words.h"

namespace zevo::app {
namespace {

using Phase = Filming::Phase;

constexpr int kBeatMs = 33;

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
    // Under the picture, not over it: feet and floor are what the camera is put up for.
    auto* seen = new QVBoxLayout;
    seen->addWidget(m_canvas, 1);
    m_painTap = new PainTap(this);
    seen->addWidget(m_painTap);
    connect(m_painTap, &PainTap::answered, this, &FilmView::takePain);
    upper->addLayout(seen, 1);
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
    connect(m_filming, &Filming::secondLooked, this, [this](const pipeline::LiveFrameResult& look) {
        m_secondLook = look;
        m_canvas->setInset(look.picture);
    });
    connect(m_filming, &Filming::phaseChanged, this, &FilmView::phaseChanged);
    connect(m_filming, &Filming::ended, this, [this](const std::shared_ptr<record::FilmedSet>& set) {
        m_endedS = media::steadySeconds();
        emit filmed(set);
    });
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
    // Plugged in or pulled out while the page is open: the list follows, what is being filmed with stays.
    if (m_devices.addPath("/dev"))
        connect(&m_devices, &QFileSystemWatcher::directoryChanged, this, [this] {
            if (isVisible() && m_filming->phase() != Phase::Filming && m_filming->phase() != Phase::CountingIn)
                fillCameras();
        });
    m_beat.setTimerType(Qt::PreciseTimer);
    m_beat.setInterval(kBeatMs);
    connect(&m_beat, &QTimer::timeout, this, &FilmView::refresh);
    setFocusPolicy(Qt::StrongFocus);
}

FilmView::~FilmView() {
    delete m_display;
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
    m_facts.log.kind = m_warmUp->isChecked() ? SetKind::WarmUp : SetKind::Working;
    if (s.tempoGuide.isEmpty() && !m_settings.tempoGuide.isEmpty()) m_facts.tempo.reset();
    m_settings.tempoGuide = s.tempoGuide;
    takePlan();
    setSettings(s);
    emit settingsChanged(s);
}

void FilmView::setCatalogue(std::shared_ptr<const Catalogue> catalogue) {
    m_catalogue = std::move(catalogue);
    static_cast<MovementBox*>(m_movement)->fill(*m_catalogue);
}

void FilmView::fillCameras() {
    auto now = pipeline::camerasToChoose();
    const bool same = std::equal(now.begin(), now.end(), m_cameras.begin(), m_cameras.end(),
                                 [](const auto& a, const auto& b) { return a.id == b.id; });
    if (same) return;
    m_cameras = std::move(now);
    m_filling = true;
    m_camera->clear();
    int at = -1;
    for (std::size_t i = 0; i < m_cameras.size(); ++i) {
        const auto& c = m_cameras[i];
        if (c.id == "simulated")
            m_camera->addItem(tr("Simulated camera (virtual client)"));
        else
            m_camera->addItem(
                QString("%1 (%2)").arg(QString::fromStdString(c.name),
                                       present::modeText(c.mode.width, c.mode.height, c.mode.rate) +
                                           (c.mode.encoded ? QString() : tr(", uncompressed: needs a quick machine"))));
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
    m_facts = atMovement(std::move(m_facts), movement.toStdString(), variation.toStdString(), *m_catalogue);
    m_standard.clear();
    m_cue.clear();
    takePlan();
    emit movementChosen(movement, variation);
}

void FilmView::takePlan() {
    if (!m_catalogue || !m_entered) return;
    // The tempo that is guided is the tempo that is judged.
    if (const auto guided = parseTempo(m_settings.tempoGuide.toStdString())) m_facts.tempo = *guided;
    m_filming->setPlan({m_client, m_facts, m_standard, m_catalogue});
    // What is drawn while they move is what the set will be judged by, choices and asks with it.
    EditedSet planned;
    planned.facts = m_facts, planned.standard = m_standard.toStdString();
    if (auto bands = standardFor(planned, *m_catalogue)) m_bands = std::move(*bands);
    m_before = present::beforeFirstRep(m_facts, m_bands.choices, *m_catalogue, m_settings.lengths);
}

void FilmView::enter(const store::Client& client, const SetFacts& facts, const QString& standard, const QString& cue) {
    if (!m_entered || client.id != m_client.id) m_endedS = -1;
    m_entered = true;
    m_client = client;
    m_facts = facts;
    m_facts.pain = {};
    m_facts.pain.roseBefore = facts.pain.roseBefore;
    m_facts.felt.clear();
    m_standard = standard;
    m_cue = cue;
    m_filling = true;
    static_cast<MovementBox*>(m_movement)->choose(facts.movement, facts.variation);
    m_warmUp->setChecked(facts.log.kind == SetKind::WarmUp);
    // Watch first, cue later.
    m_showCue->setChecked(m_showCue->isChecked() && !cue.isEmpty());
    m_showCue->setEnabled(!cue.isEmpty());
    m_filling = false;
    takePlan();
    if (const Movement* movement = m_catalogue->movement(facts.movement))
        m_virtual->setMovement(*movement, facts.variation, client.statureCm, client.id.uuid().data1,
                               m_catalogue->advice);
    fillCameras();
    m_consentText->setText(
        tr("Has %1 agreed to be filmed?").arg(client.name.isEmpty() ? tr("the client") : client.name));
    m_consent->setVisible(!client.consent);
    askWhatHurts();
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
    askWhatHurts();
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
    m_session->show(library, *m_catalogue, m_client, QDate::currentDate(), m_settings.lengths);
}

void FilmView::press() {
    if (m_consent->isVisible()) return;
    if (m_painTap->isVisible() && m_filming->phase() == Phase::Watching) return m_painTap->takeFocus();
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

void FilmView::look(const pipeline::LiveFrameResult& look) {
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

void FilmView::keyPressEvent(QKeyEvent* e) {
    if (e->modifiers() == Qt::NoModifier && m_painTap->takesKey(e->key())) return;
    // Whatever has the focus and does not want these itself: a box is ticked with Space, a set opened with Enter.
    if (!e->isAutoRepeat() && (e->key() == Qt::Key_Space || e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter))
        return press();
    QWidget::keyPressEvent(e);
}

}  // namespace zevo::app

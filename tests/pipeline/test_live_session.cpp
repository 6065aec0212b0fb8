// A camera that is on, from picture to measured set, with the simulated camera's drawn clips and the real network.
#include <sys/stat.h>

#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QFileInfo>
#include <QTemporaryDir>
#include <condition_variable>
#include <mutex>
#include <set>
#include <thread>

#include "pipeline/live_session.h"
#include "pipeline/virtual_client.h"
#include "present/film_words.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"
#include "vision/picture_facts.h"

using namespace zevo;
using namespace zevo::pipeline;

namespace {

const std::atomic<bool> kGoOn{false};

void sleepFor(double seconds) {
    std::this_thread::sleep_for(std::chrono::duration<double>(seconds));
}

/// Gives the pictures of another source late, in lumps, or not at all any more.
class Troubled final : public media::LiveSource {
  public:
    explicit Troubled(std::unique_ptr<media::LiveSource> inner) : m_inner(std::move(inner)) {}
    const media::SourceFacts& facts() const override { return m_inner->facts(); }
    Result<bool> next(media::LiveFrame& frame) override {
        auto more = m_inner->next(frame);
        if (jump != 0) frame.timeS += jump;
        return more;
    }
    void stop() override { m_inner->stop(); }
    std::atomic<double> jump{0};

  private:
    std::unique_ptr<media::LiveSource> m_inner;
};

struct Watched {
    std::mutex mutex;
    std::optional<LiveFrameResult> look;
    long looks = 0;
    std::vector<std::string> troubles;

    LiveSession::OnLook onLook() {
        return [this](LiveFrameResult&& l) {
            const std::lock_guard lock(mutex);
            look = std::move(l);
            ++looks;
        };
    }
    LiveSession::OnError onTrouble() {
        return [this](const Error& e) {
            const std::lock_guard lock(mutex);
            troubles.push_back(present::sentence(e).toStdString());
        };
    }
    template <typename What>
    auto now(What what) {
        const std::lock_guard lock(mutex);
        return what(*this);
    }
    /// However slow the machine is.
    template <typename When>
    void until(When when) {
        while (!now([&](Watched& w) { return w.look && when(*w.look); })) sleepFor(0.01);
    }
};

LiveSession::Options options() {
    LiveSession::Options o;
    o.modelDir = ZEVO_MODEL_DIR;
    return o;
}

}  // namespace

class TestLiveSession : public QObject {
    Q_OBJECT
    QTemporaryDir m_dir;
    sim::ClientDials m_dials;
    std::string m_rest, m_set;

    std::string path(const char* name) { return m_dir.filePath(name).toStdString(); }
    SetContext context() const {
        SetFacts facts;
        facts.statureCm = 175;
        return contextOf(facts, *made::catalogue()->movement("squat"));
    }
    std::unique_ptr<sim::SimulatedCamera> camera() {
        auto c = sim::SimulatedCamera::open(m_rest);
        if (!c) qFatal("%s", c.error().message.c_str());
        (*c)->setSet(m_set);
        return std::move(*c);
    }

  private slots:
    void initTestCase() {
        m_dials.reps = 3;
        m_dials.fault = "heels_rise";
        m_dials.width = 640, m_dials.height = 360;
        auto rest = drawnRest(m_dials, m_dir.path().toStdString(), kGoOn);
        auto set = drawnSet(m_dials, m_dir.path().toStdString(), kGoOn);
        QVERIFY(rest && set);
        m_rest = *rest, m_set = *set;
        // The same dials are not drawn twice.
        QElapsedTimer clock;
        const auto written = QFileInfo(QString::fromStdString(m_set)).size();
        QCOMPARE(*drawnSet(m_dials, m_dir.path().toStdString(), kGoOn), m_set);
        QCOMPARE(QFileInfo(QString::fromStdString(m_set)).size(), written);
    }

    /// From the client at rest to the measured set; and measuring the recorded file afterwards gives the same.
    void whatIsMeasuredLiveIsWhatTheFileGives() {
        Watched seen;
        auto own = camera();
        auto* client = own.get();
        auto session = LiveSession::start(std::move(own), options(), seen.onLook(), seen.onTrouble());
        QVERIFY(bool(session));
        seen.until([](const LiveFrameResult& l) { return l.stillS > 1 && l.check.good(); });
        QVERIFY(bool((*session)->film(path("set.mkv"), "2026-01-02T03:04:05Z", context())));
        QVERIFY(!(*session)->film(path("other.mkv"), "", context()));  // one at a time
        QVERIFY(client->begin());
        QVERIFY(!client->begin());
        seen.until([](const LiveFrameResult& l) { return l.set.reps == 3 && l.set.atRest && l.stillS > 1; });
        const auto filmed = (*session)->endFilming();
        QVERIFY(bool(filmed));
        QVERIFY(!(*session)->endFilming());
        QVERIFY(!filmed->broken);
        const auto counts = (*session)->counts();
        QCOMPARE(filmed->dropped, 0L);
        QCOMPARE(counts.recorded, filmed->frames);
        // The seconds before the start are in it.
        QVERIFY(filmed->durationS > 3 * 3.5 + 2);
        QVERIFY(!filmed->poses.empty() && filmed->poses.front().timeS < 1.5);
        session->reset();

        const auto live = observedLive(*filmed, context());
        AnalyseOptions analyse;
        analyse.modelDir = ZEVO_MODEL_DIR;
        const auto refined = observeFilmed(*filmed, context(), analyse, kGoOn);
        const auto file = observeClip(filmed->path, context(), analyse, kGoOn);
        QVERIFY(refined && file);
        // Every recorded picture has its pose, at its own moment.
        QCOMPARE(refined->poses.size(), static_cast<std::size_t>(filmed->frames));
        QCOMPARE(file->poses.size(), refined->poses.size());
        for (std::size_t i = 0; i < file->poses.size(); ++i)
            NEAR(file->poses[i].timeS, refined->poses[i].timeS, 0.0011);
        SetFacts facts;
        facts.statureCm = 175;
        auto measured = [&](const Observation& o) {
            auto state = recompute({std::make_shared<const Observation>(o)}, {FactsSet{facts}}, *made::catalogue());
            if (!state) qFatal("%s", made::words(state.error()));
            return state->set.result;
        };
        const SetResult a = measured(live), b = measured(*refined), c = measured(*file);
        QCOMPARE(a.reps.size(), std::size_t{3});
        QCOMPARE(b.reps.size(), std::size_t{3});
        QCOMPARE(c.reps.size(), std::size_t{3});
        double worst = 0;
        for (std::size_t i = 0; i < 3; ++i)
            for (const char* measure : {"thigh_angle", "knee_flexion", "trunk_lean", "shin_angle"}) {
                const auto *x = b.reps[i].find(measure), *y = c.reps[i].find(measure);
                QVERIFY(x && y);
                worst = std::max(worst, std::abs(x->value - y->value));
            }
        qInfo("live and file differ by at most %.2f degrees", worst);
        QVERIFY2(worst < 1.5, qPrintable(QString::number(worst)));
        for (const SetResult* r : {&a, &b, &c})
            QVERIFY(std::any_of(r->findings.begin(), r->findings.end(),
                                [](const Finding& f) { return f.fault == "heels_rise"; }));
    }

    /// Pictures the network did not reach are caught up from the file.
    void whatWasNotReachedIsCaughtUp() {
        Filmed filmed;
        filmed.path = m_set;
        AnalyseOptions analyse;
        analyse.modelDir = ZEVO_MODEL_DIR;
        const auto whole = observeClip(m_set, context(), analyse, kGoOn);
        QVERIFY(bool(whole));
        filmed.facts.width = m_dials.width, filmed.facts.height = m_dials.height, filmed.facts.frameRate = 30;
        filmed.frames = static_cast<long>(whole->poses.size());
        filmed.durationS = whole->poses.back().timeS;
        filmed.model = "full";
        filmed.pieces = std::make_shared<KeptPieces>();
        for (const PoseFrame& p : whole->poses)
            if (!(p.timeS > 4 && p.timeS < 4.6) && !(p.timeS > 9 && p.timeS < 9.1)) filmed.poses.push_back(p);
        QVERIFY(filmed.poses.size() < whole->poses.size());
        const auto caught = observeFilmed(filmed, context(), analyse, kGoOn);
        QVERIFY(bool(caught));
        QCOMPARE(caught->poses.size(), whole->poses.size());
        for (std::size_t i = 0; i < whole->poses.size(); ++i) {
            NEAR(caught->poses[i].timeS, whole->poses[i].timeS, 1e-6);
            const auto &a = caught->poses[i].at(Landmark::RightHip), &b = whole->poses[i].at(Landmark::RightHip);
            QVERIFY(std::hypot(a.x - b.x, a.y - b.y) < 6);
        }
        // Nothing of it reached, or no room for the shoes: it is read from beginning to end.
        for (bool poses : {false, true}) {
            Filmed bare = filmed;
            poses ? bare.pieces.reset() : bare.poses.clear();
            const auto anew = observeFilmed(bare, context(), analyse, kGoOn);
            QVERIFY(bool(anew));
            QCOMPARE(anew->poses.size(), whole->poses.size());
            QVERIFY(std::any_of(anew->poses.begin(), anew->poses.end(), [](const PoseFrame& p) {
                return std::any_of(p.shoes.begin(), p.shoes.end(),
                                   [](const ShoeReading& s) { return s.state == ShoeReading::State::Read; });
            }));
        }
        std::atomic<bool> stop{true};
        QVERIFY(!observeFilmed(filmed, context(), analyse, stop));
    }

    /// The plug is pulled in the middle: said in plain words, and what was filmed is a whole clip.
    void anUnpluggedCameraKeepsWhatWasFilmed() {
        Watched seen;
        auto own = camera();
        auto* client = own.get();
        auto session = LiveSession::start(std::move(own), options(), seen.onLook(), seen.onTrouble());
        seen.until([](const LiveFrameResult& l) { return l.thereS > 0.5; });
        QVERIFY(bool((*session)->film(path("unplugged.mkv"), "", context())));
        client->begin();
        seen.until([](const LiveFrameResult& l) { return l.clipS > 3; });
        client->unplug();
        while (seen.now([](Watched& w) { return w.troubles.empty(); })) sleepFor(0.01);
        const auto filmed = (*session)->endFilming();
        QVERIFY(bool(filmed) && filmed->broken);
        QVERIFY(present::sentence(*filmed->broken).contains("unplugged"));
        QVERIFY(filmed->durationS > 2.5);
        auto clip = media::openClip(filmed->path);
        QVERIFY(bool(clip));
        // Nothing comes from it any more, and that is said again instead of waiting for ever.
        QVERIFY(!(*session)->film(path("more.mkv"), "", context()));
    }

    /// A disk that takes nothing for a while: nothing is dropped until the room in memory is used up, then it is
    /// counted.
    void aSlowDiskIsBridgedThenCounted() {
        Watched seen;
        auto o = options();
        o.queueBytes = 150000;  // half a second
        auto session = LiveSession::start(camera(), o, seen.onLook(), seen.onTrouble());
        seen.until([](const LiveFrameResult& l) { return l.thereS > 0.5; });
        // A pipe nobody reads from is the slowest disk there is.
        const std::string pipe = path("slow.mkv.part");
        QCOMPARE(mkfifo(pipe.c_str(), 0600), 0);
        std::atomic<bool> read{false};
        std::thread reader([&] {
            QFile in(QString::fromStdString(pipe));
            QVERIFY(in.open(QIODevice::ReadOnly | QIODevice::Unbuffered));
            while (!read) sleepFor(0.01);
            while (!in.read(65536).isEmpty()) {
            }
        });
        QVERIFY(bool((*session)->film(path("slow.mkv"), "", context())));
        while ((*session)->counts().dropped == 0) sleepFor(0.02);
        QVERIFY((*session)->counts().queuedBytes <= o.queueBytes);
        const long looks = seen.now([](Watched& w) { return w.looks; });
        while (seen.now([](Watched& w) { return w.looks; }) < looks + 5) sleepFor(0.01);  // the picture goes on
        read = true;
        const auto filmed = (*session)->endFilming();
        QVERIFY(bool(filmed) && filmed->dropped > 0);
        session->reset();
        reader.join();
    }

    /// Pulled out while the following thread is inside the estimator: the recording ends only when that has come out,
    /// with every picture it was given looked at; nothing of the set is taken from under it.
    void aDeadCameraWaitsForTheFollower() {
        struct Gate {
            std::mutex mutex;
            std::condition_variable changed;
            bool closed = false;
            int inside = 0, looked = 0;
        };
        auto gate = std::make_shared<Gate>();
        struct Slow final : pose::Estimator {
            std::shared_ptr<Gate> gate;
            explicit Slow(std::shared_ptr<Gate> g) : gate(std::move(g)) {}
            Result<PoseFrame> process(const PictureView&, double timeS) override {
                std::unique_lock lock(gate->mutex);
                ++gate->inside;
                gate->changed.notify_all();
                gate->changed.wait(lock, [&] { return !gate->closed; });
                --gate->inside;
                ++gate->looked;
                PoseFrame out;
                out.timeS = timeS;
                return out;
            }
            void reset() override {}
            void choose(double, double, double) override {}
            int peopleSeen() const override { return 1; }
            int peopleNow() const override { return 1; }
        };
        auto o = options();
        o.makeEstimator = [gate]() -> Result<std::unique_ptr<pose::Estimator>> {
            return std::unique_ptr<pose::Estimator>(std::make_unique<Slow>(gate));
        };
        Watched seen;
        auto own = camera();
        auto* source = own.get();
        auto session = LiveSession::start(std::move(own), o, seen.onLook(), seen.onTrouble());
        QVERIFY(bool(session));
        seen.until([](const LiveFrameResult&) { return true; });
        QVERIFY(bool((*session)->film(path("dead.mkv"), "", context())));
        seen.until([](const LiveFrameResult& l) { return l.filming; });
        {
            std::unique_lock lock(gate->mutex);
            gate->closed = true;
            gate->changed.wait(lock, [&] { return gate->inside > 0; });
        }
        source->unplug();
        while (seen.now([](Watched& w) { return w.troubles.empty(); })) sleepFor(0.01);
        std::atomic<bool> ended{false};
        std::optional<Result<Filmed>> filmed;
        std::jthread ending([&] {
            filmed.emplace((*session)->endFilming());
            ended = true;
        });
        sleepFor(0.3);
        QVERIFY(!ended);  // it is waited for
        {
            const std::lock_guard lock(gate->mutex);
            gate->closed = false;
            gate->changed.notify_all();
        }
        ending.join();
        QVERIFY(*filmed && (*filmed)->broken);
        const std::lock_guard lock(gate->mutex);
        QCOMPARE(gate->inside, 0);
        QVERIFY(!(*filmed)->poses.empty());
    }

    /// The machine slept, or a camera's clock jumps: the clip goes on, and its times still grow.
    void aClockThatJumpsBreaksNothing() {
        Watched seen;
        auto troubled = std::make_unique<Troubled>(camera());
        auto* source = troubled.get();
        auto session = LiveSession::start(std::move(troubled), options(), seen.onLook(), seen.onTrouble());
        seen.until([](const LiveFrameResult& l) { return l.thereS > 0.5; });
        QVERIFY(bool((*session)->film(path("jump.mkv"), "", context())));
        seen.until([](const LiveFrameResult& l) { return l.clipS > 1.5; });
        source->jump = 40;
        seen.until([](const LiveFrameResult& l) { return l.clipS > 41; });
        source->jump = -5;  // and back
        const long before = seen.now([](Watched& w) { return w.looks; });
        while (seen.now([](Watched& w) { return w.looks; }) < before + 20) sleepFor(0.01);
        const auto filmed = (*session)->endFilming();
        QVERIFY(bool(filmed) && !filmed->broken);
        auto clip = media::openClip(filmed->path);
        QVERIFY(bool(clip));
        media::VideoFrame frame;
        double last = -1;
        long n = 0;
        for (;; ++n) {
            const auto more = (*clip)->next(frame);
            QVERIFY(bool(more));
            if (!*more) break;
            QVERIFY(frame.timeS > last);
            last = frame.timeS;
        }
        QCOMPARE(n, filmed->frames);
        for (std::size_t i = 1; i < filmed->poses.size(); ++i)
            QVERIFY(filmed->poses[i].timeS > filmed->poses[i - 1].timeS);
    }

    /// The camera check on drawn pictures with the network's own landmarks, both figures' looks differing by chance.
    void theCheckHoldsOnPictures_data() {
        QTest::addColumn<sim::Placement>("place");
        QTest::addColumn<bool>("front");
        QTest::addColumn<QString>("says");
        auto row = [](const char* name, bool front, const char* says, auto place) {
            sim::Placement p;
            place(p);
            QTest::addRow("%s", name) << p << front << QString(says);
        };
        using P = sim::Placement;
        row("right", false, "", [](P&) {});
        row("right, front", true, "", [](P&) {});
        row("on the floor", false, "Raise", [](P& p) { p.heightM = 0.35; });
        row("as high as the head", false, "Lower", [](P& p) { p.heightM = 1.9; });
        row("rolled", false, "left side down", [](P& p) { p.rollDeg = 5; });
        row("askew", false, "to the left", [](P& p) { p.turnDeg = 18; });
        row("askew, front", true, "to the right", [](P& p) { p.turnDeg = -18; });
        row("too near", false, "back", [](P& p) { p.distanceM = 2; });
        row("too far", false, "nearer", [](P& p) { p.distanceM = 5.6; });
        row("behind a bench", false, "shin", [](P& p) { p.inFront = "bench"; });
        row("dark", false, "light", [](P& p) { p.light = 0.12; });
    }
    void theCheckHoldsOnPictures() {
        QFETCH(sim::Placement, place);
        QFETCH(bool, front);
        QFETCH(QString, says);
        sim::ClientDials d;
        d.camera = place;
        d.front = front;
        d.look = static_cast<unsigned>(qHash(QString(QTest::currentDataTag())) % 50);
        const auto rest = drawnRest(d, m_dir.path().toStdString(), kGoOn);
        QVERIFY(bool(rest));
        auto network = pose::makeNetworkEstimator(ZEVO_MODEL_DIR, pose::ModelSize::Full);
        QVERIFY(bool(network));
        auto clip = media::openClip(*rest);
        QVERIFY(bool(clip));
        PoseFrames poses;
        PictureFacts facts;
        facts.width = d.width, facts.height = d.height;
        media::VideoFrame frame;
        while (*(*clip)->next(frame)) {
            auto pose = (*network)->process(frame.picture.view(), frame.timeS);
            QVERIFY(bool(pose));
            poses.push_back(*pose);
            const auto quality = qualityOf(frame.picture.view());
            facts.brightness = quality.brightness, facts.sharpness = quality.sharpness;
        }
        const auto check = checkCamera(poses, facts, checkedMovement(*made::catalogue()->movement("squat"), ""));
        const QString said =
            check.good() ? QString() : present::cameraSentence(check.problems.front(), present::Lengths::Metric);
        QVERIFY2(says.isEmpty() ? said.isEmpty() : said.contains(says), qPrintable(said));
    }

    /// Whatever the check can ask for can be done to the simulated camera, and each move undoes its opposite.
    void everyMoveHasItsOpposite() {
        using M = CameraMove;
        sim::Placement start;
        start.turnDeg = 2, start.aimDeg = -1, start.tiltDeg = 3, start.rollDeg = 1;
        for (auto [one, other] : {std::pair{M::Back, M::Nearer},
                                  {M::Up, M::Down},
                                  {M::AimLeft, M::AimRight},
                                  {M::AimUp, M::AimDown},
                                  {M::WalkLeft, M::WalkRight},
                                  {M::LevelLeft, M::LevelRight}}) {
            const auto there = moved(start, one, 0.25);
            QVERIFY(!(there == start));
            const auto back = moved(there, other, 0.25);
            NEAR(back.distanceM, start.distanceM, 1e-9);
            NEAR(back.heightM, start.heightM, 1e-9);
            NEAR(back.turnDeg + back.aimDeg + back.tiltDeg + back.rollDeg,
                 start.turnDeg + start.aimDeg + start.tiltDeg + start.rollDeg, 1e-9);
        }
        QVERIFY(moved(start, M::None, 3) == start);
        QVERIFY(moved(start, M::Nearer, 50).distanceM >= 1);  // not into the client
    }

    /// The folder of drawn clips stays small, and what was used last stays in it.
    void drawnClipsDoNotPileUp() {
        QTemporaryDir folder;
        sim::ClientDials d;
        d.width = 64, d.height = 64;
        std::string first;
        for (unsigned look = 0; look < 20; ++look) {
            d.look = look;
            const auto path = drawnRest(d, folder.path().toStdString(), kGoOn);
            QVERIFY(bool(path));
            if (look == 0) first = *path;
            sim::ClientDials again = d;
            again.look = 0;
            QCOMPARE(*drawnRest(again, folder.path().toStdString(), kGoOn), first);
        }
        QVERIFY(QDir(folder.path()).entryList(QDir::Files).size() <= 17);
        QVERIFY(QFile::exists(QString::fromStdString(first)));
        // Stopped in the middle, nothing is left lying about.
        std::atomic<bool> stop{true};
        d.look = 99;
        QVERIFY(!drawnSet(d, folder.path().toStdString(), stop));
        QVERIFY(QDir(folder.path()).entryList({"*.part"}, QDir::Files).isEmpty());
    }

    /// The virtual client does what their dials say, in every movement and view that offers a fault, and less of it
    /// when they listen; by perfect landmarks.
    void dialsAreFaults() {
        QCOMPARE(sim::afterCue(1, 0.3), 0.7);
        QCOMPARE(sim::afterCue(0.5, 1), 0.0);
        for (const char* movement : {"squat", "split-squat", "hinge", "bridge"})
            for (bool front : {false, true})
                for (const std::string& fault : sim::faultsOf(movement, front)) {
                    sim::ClientDials d;
                    d.movement = movement;
                    d.front = front;
                    d.fault = fault;
                    d.reps = 4;
                    if (d.movement == "bridge") d.camera.heightM = 0.5;
                    auto found = [&](double size) {
                        d.size = size;
                        const auto spec = sim::setOf(d);
                        SetFacts facts;
                        facts.movement = movement;
                        facts.statureCm = d.statureCm;
                        Observation seen;
                        seen.poses = sim::truePoses(spec);
                        seen.clip = made::facts(spec);
                        const auto state = recompute({std::make_shared<const Observation>(std::move(seen))},
                                                     {FactsSet{facts}}, *made::catalogue());
                        if (!state) qFatal("%s: %s", fault.c_str(), made::words(state.error()));
                        const auto& all = state->set.result.findings;
                        return std::any_of(all.begin(), all.end(), [&](const Finding& f) {
                            return f.fault == fault && f.severity == Severity::Clear;
                        });
                    };
                    QVERIFY2(found(1), (std::string(movement) + " " + fault).c_str());
                    QVERIFY2(!found(0), (std::string(movement) + " " + fault).c_str());
                }
    }

    void everySizeOfEveryCameraCanBeChosen() {
        const media::CameraInfo desk{"/dev/video0",
                                     "Desk camera",
                                     {{640, 480, 30, false, "yuyv422"},
                                      {640, 480, 60, true, "mjpeg"},
                                      {1280, 720, 10, false, "yuyv422"},
                                      {1280, 720, 30, true, "mjpeg"},
                                      {1920, 1080, 30, true, "mjpeg"}}};
        const auto all = choicesOf({desk});
        QCOMPARE(all.size(), std::size_t{4});
        QVERIFY(all[0].best && all[0].mode == desk.modes[3] && all[0].device == "/dev/video0");
        QVERIFY(!all[1].best && all[1].mode == desk.modes[1]);  // the quickest of its size
        QCOMPARE(all[3].id, std::string("simulated"));
        std::set<std::string> ids;
        for (const auto& c : all) ids.insert(c.id);
        QCOMPARE(ids.size(), all.size());
        QCOMPARE(camerasToChoose().back().id, std::string("simulated"));
        QCOMPARE(present::modeText(1280, 720, 30), QString("1280 × 720, 30 a second"));
    }

    void blurIsSeen() {
        const Picture sharp = [] {
            Picture p(640, 360);
            for (int y = 0; y < 360; ++y)
                for (int x = 0; x < 640; ++x)
                    for (int c = 0; c < 3; ++c) p.at(x, y)[c] = (x / 40 + y / 40) % 2 ? 200 : 40;
            return p;
        }();
        Picture blurred = sharp;
        for (int y = 0; y < 360; ++y)
            for (int x = 0; x < 640; ++x) {
                int sum = 0, n = 0;
                for (int k = -7; k <= 7; ++k)
                    if (x + k >= 0 && x + k < 640) sum += sharp.at(x + k, y)[0], ++n;
                for (int c = 0; c < 3; ++c) blurred.at(x, y)[c] = static_cast<std::uint8_t>(sum / n);
            }
        QVERIFY(qualityOf(sharp.view()).sharpness > 0.9);
        QVERIFY(qualityOf(blurred.view()).sharpness < 0.5);
        NEAR(qualityOf(sharp.view()).brightness, 120, 8);
    }
};

ZEVO_SUITE(TestLiveSession, "live_session")
#include "test_live_session.moc"

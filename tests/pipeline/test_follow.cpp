// Marked points followed through drawn and encoded clips, against where they truly are.
#include <QFile>
#include <QTemporaryDir>

#include "pipeline/follow_mark.h"
#include "sim/tapes.h"
#include "tests/support/ffmpeg.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

namespace {

/// Two repetitions, small pictures: quick to draw.
sim::ClipSpec filmed(const char* movement, const char* variation) {
    sim::ClipSpec s = made::spec(2);
    s.motion.movement = movement, s.motion.variation = variation;
    s.motion.leadInS = s.motion.leadOutS = 0.6;
    for (auto& r : s.motion.reps) r.lowerS = 1.0, r.pauseS = 0.2, r.liftS = 0.9, r.topS = 0.3;
    s.scene.camera.width = 960, s.scene.camera.height = 540;
    s.scene.camera.azimuthDeg = 86;
    s.frameRate = 30;
    return s;
}

struct Drawn {
    QTemporaryDir dir;
    sim::ClipSpec spec;
    std::string clip;
    std::map<MarkKind, std::vector<MarkStep>> truth;
    explicit Drawn(const sim::ClipSpec& s) : spec(s), clip(dir.filePath("clip.mp4").toStdString()) {
        if (auto made = sim::makeClip(s, clip); !made) qFatal("%s", made::words(made.error()));
        auto taped = s;
        taped.scene.looks.tapes = true;
        truth = *sim::trueMarks(taped);
    }
    Mark clickedAt(MarkKind kind, double share) const {
        const auto& way = truth.at(kind);
        const auto& at = way[static_cast<std::size_t>(share * static_cast<double>(way.size() - 1))];
        return Mark{kind, 0, {}, nullptr}.clicked({at.timeS, at.x, at.y});
    }
    Result<Mark> followed(const Mark& mark, const std::atomic<bool>& cancel = std::atomic<bool>(false),
                          const pipeline::OnProgress& progress = {}) const {
        return pipeline::followMark(clip, mark, {0, 1e3}, spec.scene.camera.width, cancel, progress);
    }
    /// Distances from the truth, pictures that hold it only.
    std::vector<double> errors(const Mark& mark) const {
        std::vector<double> out;
        const auto& way = truth.at(mark.kind);
        for (std::size_t i = 0; i < mark.path->size(); ++i) {
            const MarkStep& s = (*mark.path)[i];
            if (s.held()) out.push_back(std::hypot(s.x - way[i].x, s.y - way[i].y));
        }
        std::sort(out.begin(), out.end());
        return out;
    }
};

/// Clips of several tests, drawn once.
const Drawn& romanianHinge() {
    static const Drawn drawn(filmed("hinge", "romanian"));
    return drawn;
}
const Drawn& squatFromTheFront() {
    static const Drawn drawn([] {
        auto s = filmed("squat", "");
        s.scene.camera.azimuthDeg = 0;
        return s;
    }());
    return drawn;
}

/// What the kernel says of this process.
double megabytes(const char* what) {
    QFile status("/proc/self/status");
    if (!status.open(QFile::ReadOnly)) qFatal("no /proc");
    for (const QByteArray& line : status.readAll().split('\n'))
        if (line.startsWith(what)) return line.simplified().split(' ')[1].toDouble() / 1024;
    qFatal("no %s", what);
}

}  // namespace

class TestFollow : public QObject {
    Q_OBJECT

  private slots:
    /// One click in the middle of the clip, both ways; every picture has a place, near the true one.
    void aBarsEndIsFollowedFromOneClick() {
        const Drawn& d = romanianHinge();
        long told = 0;
        const auto done =
            d.followed(d.clickedAt(MarkKind::BarEnd, 0.5), std::atomic<bool>(false), [&](const pipeline::Progress& p) {
                QVERIFY(p.doing == pipeline::Doing::Following && p.framesDone >= told);
                told = p.framesDone;
            });
        QVERIFY2(done, done ? "" : made::words(done.error()));
        QCOMPARE(done->path->size(), d.truth.at(MarkKind::BarEnd).size());
        const auto off = d.errors(*done);
        QVERIFY2(off.size() > 0.97 * static_cast<double>(done->path->size()), qPrintable(QString::number(off.size())));
        QVERIFY2(off[off.size() / 2] < 2 && off[off.size() * 95 / 100] < 4,
                 qPrintable(QString("%1 %2").arg(off[off.size() / 2]).arg(off[off.size() * 95 / 100])));
        QVERIFY(told > 0);
    }

    /// Slow motion: pictures are held by number, not by seconds, which were 440 MB of them.
    void manyPicturesASecondFillNoMemory() {
        const Drawn& d = romanianHinge();
        const QString quick = d.dir.filePath("quick.mp4");
        made::ffmpeg({"-i", QString::fromStdString(d.clip), "-vf", "fps=240", "-preset", "ultrafast", quick});
        const double before = megabytes("VmRSS");
        QFile peak("/proc/self/clear_refs");
        QVERIFY(peak.open(QFile::WriteOnly) && peak.write("5") == 1);  // the highest mark begins anew
        peak.close();
        const auto done = pipeline::followMark(quick.toStdString(), d.clickedAt(MarkKind::BarEnd, 0.5), {0, 1e3},
                                               d.spec.scene.camera.width, false);
        QVERIFY2(done, done ? "" : made::words(done.error()));
        QVERIFY(done->path->size() > 7 * d.truth.at(MarkKind::BarEnd).size());
        const double held = megabytes("VmHWM") - before;
        QVERIFY2(held < 160, qPrintable(QString("%1 MB").arg(held)));
    }

    void tapeIsFollowedWhereItIsStuck() {
        auto s = filmed("squat", "");
        s.scene.camera.azimuthDeg = 0;
        s.scene.looks.tapes = true;
        const Drawn d(s);
        for (MarkKind kind : {MarkKind::HipLeft, MarkKind::KneeRight}) {
            const auto done = d.followed(d.clickedAt(kind, 0.05));
            QVERIFY2(done, done ? "" : made::words(done.error()));
            const auto off = d.errors(*done);
            QVERIFY(!off.empty());
            QVERIFY2(off[off.size() / 2] < 3, qPrintable(QString("%1").arg(off[off.size() / 2])));
        }
    }

    /// A post stands before the client: what passes behind it is a gap, and what is held is where it is. A click after
    /// it takes the other side along.
    void whatIsCoveredIsAGapThatAClickRepairs() {
        auto s = filmed("squat", "back-bar");
        s.scene.inFront = "post";
        const Drawn d(s);
        const auto& way = d.truth.at(MarkKind::BarEnd);
        const auto one = d.followed(d.clickedAt(MarkKind::BarEnd, 0.02));
        if (!one) QVERIFY2(false, made::words(one.error()));
        for (std::size_t i = 0; i < one->path->size(); ++i)
            if ((*one->path)[i].held())
                QVERIFY2(std::hypot((*one->path)[i].x - way[i].x, (*one->path)[i].y - way[i].y) < 6,
                         qPrintable(QString::number(way[i].timeS)));
        const auto two = d.followed(one->clicked({way.back().timeS, way.back().x, way.back().y}));
        QVERIFY(two);
        QVERIFY(d.errors(*two).size() >= d.errors(*one).size());
    }

    /// A plain wall cannot be followed, and it is said so instead of a path.
    void aPlainWallIsRefused() {
        const Drawn& d = squatFromTheFront();
        const auto done = d.followed(Mark{MarkKind::Bell, 0, {{0.5, 100, 60}}, nullptr});
        QVERIFY(!done && done.error().notice && done.error().notice->kind == NoticeKind::MarkNotSeen);
        QVERIFY(present::sentence(done.error()).contains("tape"));
    }

    /// Cloth where tape is said to be: it would drift the same way there and back, and no second click would notice.
    void clothIsNoTape() {
        const Drawn& d = squatFromTheFront();
        for (MarkKind kind : {MarkKind::HipLeft, MarkKind::HipRight}) {
            const auto done = d.followed(d.clickedAt(kind, 0.02));
            QVERIFY(!done && done.error().notice && done.error().notice->kind == NoticeKind::MarkNotSeen);
        }
    }

    void stoppingAndBadClipsAreErrors() {
        const Drawn& d = romanianHinge();
        const std::atomic<bool> stop{true};
        const auto stopped = d.followed(d.clickedAt(MarkKind::BarEnd, 0.5), stop);
        QVERIFY(!stopped && stopped.error().notice && stopped.error().notice->kind == NoticeKind::Stopped);
        const std::atomic<bool> never{false};
        QVERIFY(!pipeline::followMark("/nowhere.mp4", d.clickedAt(MarkKind::BarEnd, 0.5), {0, 3}, 960, never));
        // A click beyond the end of the clip is on no picture.
        QVERIFY(!d.followed(Mark{MarkKind::BarEnd, 0, {{60, 400, 300}}, nullptr}));
    }
};

ZEVO_SUITE(TestFollow, "follow")
#include "test_follow.moc"

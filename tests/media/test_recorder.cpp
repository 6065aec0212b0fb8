// Live sources and recordings: what is written while it is filmed can be read whatever happens, nothing is encoded
// twice, and what a camera does not do is said in plain words.
#include <sys/resource.h>

#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QFileInfo>
#include <QProcess>
#include <QTemporaryDir>
#include <cmath>
#include <csignal>
#include <thread>

#include "media/clip_recorder.h"
#include "media/live_source.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::media;

namespace {

std::vector<LiveFrame> frames(int count, double rate = 30, double startS = 1000) {
    auto encoder = JpegEncoder::create(320, 240);
    if (!encoder) qFatal("%s", encoder.error().message.c_str());
    std::vector<LiveFrame> out;
    for (int i = 0; i < count; ++i) {
        const Picture p = made::blobs(320, 240, 2.0 * i, 0);
        auto f = encoder->encode(p.view(), startS + i / rate);
        if (!f) qFatal("%s", f.error().message.c_str());
        out.push_back(*f);
    }
    return out;
}

SourceFacts facts() {
    SourceFacts f;
    f.width = 320, f.height = 240, f.frameRate = 30, f.live = true;
    return f;
}

int framesIn(const std::string& path) {
    auto clip = openClip(path);
    if (!clip) return -1;
    VideoFrame frame;
    int n = 0;
    while (*(*clip)->next(frame)) ++n;
    return n;
}

}  // namespace

class TestRecorder : public QObject {
    Q_OBJECT
    QTemporaryDir m_dir;
    std::string path(const char* name) { return m_dir.filePath(name).toStdString(); }

  private slots:
    void aRecordingIsAClipLikeAnyOther() {
        const auto all = frames(90);
        auto recorder = ClipRecorder::create(path("a.mkv"), facts(), "2026-03-04T10:11:12Z");
        QVERIFY(bool(recorder));
        for (const auto& f : all) QVERIFY(bool(recorder->write(f)));
        QVERIFY(!QFile::exists(m_dir.filePath("a.mkv")) && QFile::exists(m_dir.filePath("a.mkv.part")));
        QVERIFY(bool(recorder->finish()));
        QVERIFY(QFile::exists(m_dir.filePath("a.mkv")) && !QFile::exists(m_dir.filePath("a.mkv.part")));
        QCOMPARE(recorder->frames(), 90L);
        auto clip = openClip(path("a.mkv"));
        QVERIFY(bool(clip));
        QCOMPARE((*clip)->facts().width, 320);
        QVERIFY((*clip)->facts().filmedAt.rfind("2026-03-04T10:11:12", 0) == 0);
        NEAR((*clip)->facts().durationS, 3.0, 0.05);
        // Times are those of the pictures, to the millisecond; the first is moment 0.
        VideoFrame frame;
        for (int i = 0; i < 90; ++i) {
            QVERIFY(*(*clip)->next(frame));
            NEAR(frame.timeS, i / 30.0, 0.0011);
        }
        // It can be wound anywhere.
        QVERIFY(bool((*clip)->seek(2.0)));
        QVERIFY(*(*clip)->next(frame));
        NEAR(frame.timeS, 2.0, 0.02);
    }

    /// Not one byte of a picture is changed between camera and disk. What is decoded live (libjpeg-turbo) and what is
    /// read back (FFmpeg) are two decoders' answers to the same bytes, a level or two apart.
    void picturesAreNotEncodedAgain() {
        const auto all = frames(10);
        auto recorder = ClipRecorder::create(path("b.mkv"), facts(), "");
        for (const auto& f : all) QVERIFY(bool(recorder->write(f)));
        QVERIFY(bool(recorder->finish()));
        auto back = LiveClip::open(path("b.mkv"));
        QVERIFY(bool(back));
        LiveDecoder decoder;
        auto clip = openClip(path("b.mkv"));
        for (const auto& f : all) {
            LiveFrame read;
            QVERIFY(*back->next(read));
            QVERIFY(*read.jpeg == *f.jpeg);
            VideoFrame live, file;
            QVERIFY(bool(decoder.decode(f, live)));
            QVERIFY(*(*clip)->next(file));
            QCOMPARE(live.picture.rgb.size(), file.picture.rgb.size());
            double apart = 0;
            for (std::size_t i = 0; i < live.picture.rgb.size(); ++i)
                apart += std::abs(int(live.picture.rgb[i]) - int(file.picture.rgb[i]));
            apart /= static_cast<double>(live.picture.rgb.size());
            QVERIFY2(apart < 2, qPrintable(QString::number(apart)));
        }
        LiveFrame none;
        QVERIFY(!*back->next(none));
        QVERIFY(bool(back->rewind()));
        QVERIFY(*back->next(none));
        LiveFrame rubbish{0, std::make_shared<const std::vector<std::uint8_t>>(100, std::uint8_t{7})};
        VideoFrame out;
        QVERIFY(!decoder.decode(rubbish, out));
        QVERIFY(!decoder.decode({}, out));
    }

    /// While it is being filmed, with nobody closing anything: all but the last second is on the disk.
    void whatIsOnTheDiskCanBeReadAtAnyMoment() {
        const auto all = frames(200);
        auto recorder = ClipRecorder::create(path("c.mkv"), facts(), "");
        for (int i = 0; i < 200; ++i) {
            QVERIFY(bool(recorder->write(all[static_cast<std::size_t>(i)])));
            if (i % 45 != 44) continue;
            QFile::remove(m_dir.filePath("copy.mkv.part"));
            QVERIFY(QFile::copy(m_dir.filePath("c.mkv.part"), m_dir.filePath("copy.mkv.part")));
            const auto saved = recoverClip(path("copy.mkv.part"), path("copy.mkv"));
            QVERIFY(bool(saved));
            QVERIFY2(*saved >= i + 1 - 31 && *saved <= i + 1, qPrintable(QString("%1 of %2").arg(*saved).arg(i + 1)));
            QCOMPARE(framesIn(path("copy.mkv")), static_cast<int>(*saved));
        }
    }

    /// Cut off at any byte: what comes before is saved, and no cut makes it fall over.
    void anyCutIsRecovered() {
        const auto all = frames(60);
        auto recorder = ClipRecorder::create(path("d.mkv"), facts(), "");
        for (const auto& f : all) QVERIFY(bool(recorder->write(f)));
        QVERIFY(bool(recorder->finish()));
        QFile whole(m_dir.filePath("d.mkv"));
        QVERIFY(whole.open(QIODevice::ReadOnly));
        const QByteArray bytes = whole.readAll();
        std::mt19937 random(11);
        int before = 0;
        std::vector<int> cuts{0, 1, 40};
        for (int i = 0; i < 40; ++i) cuts.push_back(static_cast<int>(random() % static_cast<unsigned>(bytes.size())));
        std::sort(cuts.begin(), cuts.end());
        for (int cut : cuts) {
            QFile part(m_dir.filePath("e.mkv.part"));
            QVERIFY(part.open(QIODevice::WriteOnly | QIODevice::Truncate));
            part.write(bytes.left(cut));
            part.close();
            QFile::remove(m_dir.filePath("e.mkv"));
            const auto saved = recoverClip(path("e.mkv.part"), path("e.mkv"));
            QVERIFY(bool(saved));
            QVERIFY(*saved >= before);  // more bytes, no fewer pictures
            before = static_cast<int>(*saved);
            // Nothing saved: nothing taken away.
            QCOMPARE(QFile::exists(m_dir.filePath("e.mkv.part")), *saved == 0);
            if (*saved > 0) QCOMPARE(framesIn(path("e.mkv")), static_cast<int>(*saved));
        }
        QVERIFY(before >= 55);
        QVERIFY(!QFile::exists(m_dir.filePath("e.mkv.whole")));
    }

    /// The file may not grow any further: the recording ends cleanly with what was filmed.
    void aFullDiskKeepsWhatWasFilmed() {
        const auto all = frames(120);
        rlimit before{};
        getrlimit(RLIMIT_FSIZE, &before);
        std::signal(SIGXFSZ, SIG_IGN);
        auto recorder = ClipRecorder::create(path("f.mkv"), facts(), "");
        QVERIFY(bool(recorder));
        rlimit small = before;
        small.rlim_cur = 600000;
        setrlimit(RLIMIT_FSIZE, &small);
        std::optional<Error> problem;
        long written = 0;
        for (const auto& f : all) {
            if (auto done = recorder->write(f); !done) {
                problem = done.error();
                break;
            }
            ++written;
        }
        setrlimit(RLIMIT_FSIZE, &before);
        QVERIFY(problem);
        QVERIFY2(problem->message.find("kept") != std::string::npos, problem->message.c_str());
        (void)recorder->finish();
        const int kept = framesIn(path("f.mkv"));
        QVERIFY2(kept > 0 && kept >= written - 31, qPrintable(QString("%1 of %2").arg(kept).arg(written)));
        // A device that is always full: said as that, with the room that is needed.
        QVERIFY(QFile::link("/dev/full", m_dir.filePath("full.mkv.part")));
        auto full = ClipRecorder::create(path("full.mkv"), facts(), "");
        std::optional<Error> why = full ? std::nullopt : std::optional(full.error());
        for (std::size_t i = 0; !why && i < all.size(); ++i)
            if (auto done = full->write(all[i]); !done) why = done.error();
        QVERIFY(why);
        QVERIFY2(why->message.find("disk is full") != std::string::npos && why->message.find("MB") != std::string::npos,
                 (why->message + why->detail).c_str());
    }

    void aFolderThatCannotBeWrittenToIsSaidAtOnce() {
        const auto made = ClipRecorder::create(path("no/such/folder.mkv"), facts(), "");
        QVERIFY(!made);
        QVERIFY(!made.error().message.empty());
    }

    /// The camera class itself, on libavdevice's made-up source: raw pictures, encoded here, at the pace of their
    /// stamps.
    void theCameraClassRunsWithoutACamera() {
        auto source = openPattern("testsrc=size=320x240:rate=30");
        QVERIFY2(bool(source), source ? "" : source.error().message.c_str());
        QCOMPARE((*source)->facts().width, 320);
        NEAR((*source)->facts().frameRate, 30, 0.1);
        QVERIFY((*source)->facts().live);
        LiveFrame frame;
        LiveDecoder decoder;
        VideoFrame picture;
        double first = 0, last = 0;
        for (int i = 0; i < 20; ++i) {
            const auto more = (*source)->next(frame);
            QVERIFY(more && *more);
            if (i == 0) first = frame.timeS;
            QVERIFY(i == 0 || frame.timeS > last);
            last = frame.timeS;
            QVERIFY(bool(decoder.decode(frame, picture)));
            QCOMPARE(picture.picture.width, 320);
        }
        NEAR(last - first, 19 / 30.0, 0.005);    // stamps are the source's own
        QVERIFY(steadySeconds() - first > 0.5);  // and it took its time
        (*source)->stop();
        QVERIFY(!*(*source)->next(frame));
        QVERIFY(!openPattern("nosuchfilter"));
    }

    void aCameraThatIsNotThereIsSaidInPlainWords() {
        const auto none = openCamera("/dev/video97", {640, 480, 30, false, "yuyv422"});
        QVERIFY(!none);
        QVERIFY2(none.error().message.find("not plugged in") != std::string::npos, none.error().message.c_str());
        for (const auto& camera : camerasHere()) QVERIFY(!camera.modes.empty());  // whatever this machine has
    }

    void theModeToFilmWithIs720pAt30() {
        const CameraMode raw{1280, 720, 10, false, "yuyv422"}, jpeg{1280, 720, 30, true, "mjpeg"};
        QCOMPARE(bestMode({raw, {640, 480, 30, false, "yuyv422"}, jpeg, {1920, 1080, 30, true, "mjpeg"}}), jpeg);
        // Rate before size: ten pictures a second miss the turning point.
        QCOMPARE(bestMode({raw, {640, 480, 30, false, "yuyv422"}}).height, 480);
        QCOMPARE(bestMode({{1920, 1080, 30, true, "mjpeg"}, {320, 240, 30, true, "mjpeg"}}).height, 1080);
        QCOMPARE(bestMode({}).width, 0);
        // The same size and rate: the one that need not be encoded.
        QVERIFY(bestMode({{1280, 720, 30, false, "yuyv422"}, jpeg}).encoded);
    }
};

ZEVO_SUITE(TestRecorder, "recorder")
#include "test_recorder.moc"

// Reading clips made by an independent program (ffmpeg's command line) and by our own writer; refusing what is no clip.
#include <QDir>
#include <QFile>
#include <QImage>
#include <QTemporaryDir>

#include "media/clip_reader.h"
#include "media/clip_writer.h"
#include "tests/support/ffmpeg.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::media;

namespace {

QString refusal(const QString& path) {
    auto reader = ClipReader::open(path.toStdString());
    return reader ? QString() : QString::fromStdString(reader.error().message);
}

/// Left half red, right half green, lower half darker: shows every turn.
Picture quarters(int w, int h) {
    Picture p(w, h);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            const auto v = static_cast<std::uint8_t>(y < h / 2 ? 220 : 110);
            p.at(x, y)[x < w / 2 ? 0 : 1] = v;
        }
    return p;
}

enum Colour { Red, Green };
Colour colourAt(const Picture& p, double u, double v) {
    const auto* c = p.at(static_cast<int>(u * p.width), static_cast<int>(v * p.height));
    return c[0] > c[1] ? Red : Green;
}
int brightness(const Picture& p, double u, double v) {
    const auto* c = p.at(static_cast<int>(u * p.width), static_cast<int>(v * p.height));
    return c[0] + c[1];
}

}  // namespace

class TestMedia : public QObject {
    Q_OBJECT
    QTemporaryDir m_dir;
    std::string path(const char* name) const { return m_dir.filePath(name).toStdString(); }

    std::string write(const char* name, const std::vector<double>& times, WriteOptions options = {}) {
        auto writer = ClipWriter::create(path(name), 64, 48, options);
        if (!writer) qFatal("%s", made::words(writer.error()));
        for (double t : times) {
            if (auto wrote = writer->write(quarters(64, 48).view(), t); !wrote)
                qFatal("%s", made::words(wrote.error()));
        }
        if (auto done = writer->finish(); !done) qFatal("%s", made::words(done.error()));
        return path(name);
    }

  private slots:
    void unevenStampsComeBack_data() {
        QTest::addColumn<QString>("name");
        QTest::newRow("mp4") << "uneven.mp4";
        QTest::newRow("matroska") << "uneven.mkv";
    }
    void unevenStampsComeBack() {
        QFETCH(QString, name);
        const std::vector<double> times{0, 0.033, 0.080, 0.1, 0.3, 0.317, 0.4};
        auto reader = ClipReader::open(write(qPrintable(name), times));
        QVERIFY(bool(reader));
        VideoFrame frame;
        std::size_t n = 0;
        for (; *reader->next(frame); ++n) {
            NEAR(frame.timeS, times.at(n), 0.0011);
            QCOMPARE(frame.index, static_cast<long>(n));
        }
        QCOMPARE(n, times.size());
        QCOMPARE(reader->info().width, 64);
        QCOMPARE(reader->info().height, 48);
    }

    void turnedClipsStandUpright_data() {
        QTest::addColumn<int>("turn");
        QTest::addColumn<int>("topLeft");
        QTest::addColumn<int>("topRight");
        QTest::addColumn<bool>("topBrighter");
        // A picture that is shown turned clockwise: its left (red) edge comes to the top at 90, to the bottom at 270.
        QTest::newRow("0") << 0 << int(Red) << int(Green) << true;
        QTest::newRow("90") << 90 << int(Red) << int(Red) << false;
        QTest::newRow("180") << 180 << int(Green) << int(Red) << false;
        QTest::newRow("270") << 270 << int(Green) << int(Green) << false;
    }
    void turnedClipsStandUpright() {
        QFETCH(int, turn);
        QFETCH(int, topLeft);
        QFETCH(int, topRight);
        WriteOptions options;
        options.rotationTagDeg = turn;
        auto reader = ClipReader::open(write("turned.mp4", {0, 0.04}, options));
        QVERIFY(bool(reader));
        QCOMPARE(reader->info().rotationDeg, turn);
        QCOMPARE(reader->info().width, turn % 180 ? 48 : 64);
        VideoFrame frame;
        QVERIFY(*reader->next(frame));
        QCOMPARE(frame.picture.width, reader->info().width);
        QCOMPARE(int(colourAt(frame.picture, 0.2, 0.2)), topLeft);
        QCOMPARE(int(colourAt(frame.picture, 0.8, 0.2)), topRight);
        if (turn == 0) QVERIFY(brightness(frame.picture, 0.2, 0.2) > brightness(frame.picture, 0.2, 0.8));
        if (turn == 180) QVERIFY(brightness(frame.picture, 0.2, 0.2) < brightness(frame.picture, 0.2, 0.8));
        // At 90 the bright upper edge comes to the right, at 270 to the left.
        if (turn == 90) QVERIFY(brightness(frame.picture, 0.8, 0.2) > brightness(frame.picture, 0.2, 0.2));
        if (turn == 270) QVERIFY(brightness(frame.picture, 0.2, 0.2) > brightness(frame.picture, 0.8, 0.2));
    }

    /// The same turned file shown by an independent program that turns by itself.
    void turnsAgreeWithFfmpegsOwn_data() { turnedClipsStandUpright_data(); }
    void turnsAgreeWithFfmpegsOwn() {
        QFETCH(int, turn);
        WriteOptions options;
        options.rotationTagDeg = turn;
        const auto file = write("turned.mp4", {0, 0.04}, options);
        made::ffmpeg({"-i", QString::fromStdString(file), "-frames:v", "1", m_dir.filePath("turned.png")});
        const QImage theirs = QImage(m_dir.filePath("turned.png")).convertToFormat(QImage::Format_RGB888);
        auto reader = ClipReader::open(file);
        VideoFrame frame;
        QVERIFY(*reader->next(frame));
        QCOMPARE(theirs.size(), QSize(frame.picture.width, frame.picture.height));
        double difference = 0;
        for (int y = 0; y < theirs.height(); ++y)
            for (int x = 0; x < theirs.width(); ++x)
                for (int c = 0; c < 3; ++c)
                    difference += std::abs(theirs.constScanLine(y)[3 * x + c] - frame.picture.at(x, y)[c]);
        NEAR(difference / (3.0 * theirs.width() * theirs.height()), 0, 6);
    }

    void pixelsThatAreNotSquareAreStretched() {
        made::ffmpeg({"-f", "lavfi", "-i", "testsrc=size=160x120:rate=10:duration=0.5", "-vf", "setsar=4/3", "-c:v",
                      "libx264", QString::fromStdString(path("wide.mp4"))});
        auto reader = ClipReader::open(path("wide.mp4"));
        QVERIFY(bool(reader));
        QCOMPARE(reader->info().width, 213);
        QCOMPARE(reader->info().height, 120);
        VideoFrame frame;
        QVERIFY(*reader->next(frame));
        QCOMPARE(frame.picture.width, 213);
    }

    void formatsOfOtherProgramsAreRead_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QStringList>("codec");
        QTest::newRow("10 bit") << "ten.mkv" << QStringList{"-c:v", "libx264", "-pix_fmt", "yuv420p10le"};
        QTest::newRow("4:4:4") << "full.mp4" << QStringList{"-c:v", "libx264", "-pix_fmt", "yuv444p"};
        QTest::newRow("motion jpeg") << "jpeg.avi" << QStringList{"-c:v", "mjpeg", "-pix_fmt", "yuvj422p"};
        QTest::newRow("mpeg 4") << "old.avi" << QStringList{"-c:v", "mpeg4"};
        QTest::newRow("vp9 webm") << "web.webm" << QStringList{"-c:v", "libvpx-vp9"};
        QTest::newRow("grey") << "grey.mkv" << QStringList{"-c:v", "ffv1", "-pix_fmt", "gray"};
        QTest::newRow("transport stream") << "stream.ts" << QStringList{"-c:v", "mpeg2video"};
        QTest::newRow("with sound") << "sound.mp4" << QStringList{"-f",   "lavfi",   "-i",   "sine=duration=1",
                                                                  "-c:v", "libx264", "-c:a", "aac"};
    }
    void formatsOfOtherProgramsAreRead() {
        QFETCH(QString, name);
        QFETCH(QStringList, codec);
        const auto file = path(qPrintable(name));
        made::ffmpeg(QStringList{"-f", "lavfi", "-i", "color=c=0x3060c0:size=96x64:rate=20:duration=1"} + codec +
                     QStringList{QString::fromStdString(file)});
        auto reader = ClipReader::open(file);
        QVERIFY2(bool(reader), reader ? "" : reader.error().detail.c_str());
        VideoFrame frame;
        int n = 0;
        for (; *reader->next(frame); ++n) NEAR(frame.timeS, n / 20.0, 0.011);
        QCOMPARE(n, 20);
        const auto* c = frame.picture.at(48, 32);
        if (name == "grey.mkv")
            QVERIFY(std::abs(c[0] - c[2]) < 3);
        else
            QVERIFY2(std::abs(c[0] - 0x30) < 9 && std::abs(c[1] - 0x60) < 9 && std::abs(c[2] - 0xc0) < 9,
                     qPrintable(QString("%1 %2 %3").arg(c[0]).arg(c[1]).arg(c[2])));
    }

    void windingGoesToTheFrameAsked() {
        std::vector<double> times;
        for (int i = 0; i < 100; ++i) times.push_back(i / 25.0);
        WriteOptions options;
        options.keyFrameInterval = 40;
        auto reader = ClipReader::open(write("long.mp4", times, options));
        VideoFrame frame;
        for (int i : {50, 3, 99, 41, 40, 39, 0, 98}) {
            QVERIFY(bool(reader->seek(times[static_cast<std::size_t>(i)])));
            QVERIFY(*reader->next(frame));
            NEAR(frame.timeS, times[static_cast<std::size_t>(i)], 0.001);
        }
        double skipped = 0;
        QVERIFY(bool(reader->seek(1.0)));
        QVERIFY(*reader->skip(skipped));
        NEAR(skipped, 1.0, 0.001);
        QVERIFY(*reader->next(frame));
        NEAR(frame.timeS, 1.04, 0.001);
        QCOMPARE(*longestKeyFrameGap(path("long.mp4")), 40);
    }

    void largeClipsAreScaledDown() {
        auto reader = ClipReader::open(write("small.mp4", {0, 0.04}), {32});
        VideoFrame frame;
        QVERIFY(*reader->next(frame));
        QCOMPARE(frame.picture.width, 32);
        QCOMPARE(frame.picture.height, 24);
        QCOMPARE(reader->info().width, 64);
    }

    void whatIsNoClipIsRefusedInPlainWords() {
        QFile empty(m_dir.filePath("empty.mp4")), words(m_dir.filePath("words.mp4"));
        QVERIFY(empty.open(QIODevice::WriteOnly) && words.open(QIODevice::WriteOnly));
        words.write(QByteArray("only words ").repeated(500));
        words.close();
        QVERIFY(refusal(m_dir.filePath("empty.mp4")).contains("empty (0 bytes)"));
        QVERIFY(refusal(m_dir.filePath("words.mp4")).contains("cannot be read as a video"));
        QVERIFY(refusal(ZEVO_TEST_DIR "/CMakeLists.txt").contains("cannot be read as a video"));
        QVERIFY(refusal(ZEVO_TEST_DIR "/reference/pose/side_squat.png").contains("still picture"));
        QVERIFY(refusal(m_dir.filePath("nowhere.mp4")).contains("not there any more"));
        QVERIFY(refusal(m_dir.path()).contains("a folder"));
        const QString sound = m_dir.filePath("sound.m4a");
        made::ffmpeg({"-f", "lavfi", "-i", "sine=duration=1", "-c:a", "aac", sound});
        QVERIFY(refusal(sound).contains("no moving pictures"));
    }

    void cutClipsGiveWhatIsThere() {
        std::vector<double> times;
        for (int i = 0; i < 200; ++i) times.push_back(i / 25.0);
        QFile whole(QString::fromStdString(write("whole.mkv", times)));
        QVERIFY(whole.open(QIODevice::ReadOnly));
        const QByteArray bytes = whole.readAll();
        QFile cut(m_dir.filePath("cut.mkv"));
        QVERIFY(cut.open(QIODevice::WriteOnly));
        cut.write(bytes.left(bytes.size() * 6 / 10));
        cut.close();
        auto reader = ClipReader::open(path("cut.mkv"));
        QVERIFY(bool(reader));
        VideoFrame frame;
        int n = 0;
        while (*reader->next(frame)) ++n;
        QVERIFY2(n > 60 && n < 190, qPrintable(QString::number(n)));
        // An MP4 keeps its index at the end: cut short it cannot be read at all, and says so.
        QFile mp4(QString::fromStdString(write("whole.mp4", times))), half(m_dir.filePath("half.mp4"));
        QVERIFY(mp4.open(QIODevice::ReadOnly) && half.open(QIODevice::WriteOnly));
        half.write(mp4.readAll().left(3000));
        half.close();
        QVERIFY(refusal(m_dir.filePath("half.mp4")).contains("damaged"));
    }

    void scrambledClipsNeverCrash() {
        std::vector<double> times;
        for (int i = 0; i < 60; ++i) times.push_back(i / 25.0);
        QFile whole(QString::fromStdString(write("scramble.mkv", times)));
        QVERIFY(whole.open(QIODevice::ReadOnly));
        const QByteArray bytes = whole.readAll();
        std::mt19937 random(11);
        for (int round = 0; round < 25; ++round) {
            QByteArray bad = bytes;
            for (int k = 0; k < 30; ++k)
                bad[static_cast<int>(random() % static_cast<unsigned>(bad.size()))] = static_cast<char>(random());
            QFile out(m_dir.filePath("bad.mkv"));
            QVERIFY(out.open(QIODevice::WriteOnly | QIODevice::Truncate));
            out.write(bad);
            out.close();
            auto reader = ClipReader::open(path("bad.mkv"));
            if (!reader) continue;
            VideoFrame frame;
            double last = -1;
            for (int n = 0; n < 500; ++n) {
                auto more = reader->next(frame);
                if (!more || !*more) break;
                QVERIFY(frame.timeS > last);  // stamps never run backwards
                last = frame.timeS;
            }
        }
    }

    void unfinishedWritingLeavesNothing() {
        {
            auto writer = ClipWriter::create(path("never.mp4"), 64, 48);
            QVERIFY(bool(writer));
            (void)writer->write(quarters(64, 48).view(), 0);
        }
        QVERIFY(!QFile::exists(m_dir.filePath("never.mp4")));
        QVERIFY(!QFile::exists(m_dir.filePath("never.mp4.part")));
        QVERIFY(!ClipWriter::create(path("odd.mp4"), 63, 48));
        QVERIFY(!ClipWriter::create("/nonexistent/folder/x.mp4", 64, 48));
        auto writer = ClipWriter::create(path("back.mp4"), 64, 48);
        QVERIFY(bool(writer->write(quarters(64, 48).view(), 1)));
        QVERIFY(!writer->write(quarters(64, 48).view(), 0.5));
    }
};

ZEVO_SUITE(TestMedia, "media")
#include "test_media.moc"

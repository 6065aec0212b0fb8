// The whole way from a video file to a judged set, on drawn clips; bad clips; the frame fetcher; the viewing copy.
#include <QDir>
#include <QTemporaryDir>
#include <QTest>
#include <condition_variable>
#include <mutex>
#include <set>
#include <thread>

#include "pipeline/analyse_clip.h"
#include "catalog/data_files.h"
#include "pipeline/frame_fetcher.h"
#include "pipeline/review_proxy.h"
#include "media/clip_reader.h"
#include "tests/support/ffmpeg.h"
#include "tests/support/made_sets.h"

using namespace zevo;
using namespace zevo::pipeline;
using namespace zevo::catalog;

namespace {

std::string fixture(const char* name) {
    return std::string(ZEVO_FIXTURE_DIR) + "/" + name + "/clip.mp4";
}

AnalyseOptions options() {
    AnalyseOptions o;
    o.modelDir = ZEVO_MODEL_DIR;
    return o;
}

Result<AnalysedClip> analyse(const std::string& clip, double stature = 170, const AnalyseOptions& o = options()) {
    std::atomic<bool> cancel{false};
    return analyseClip(clip, made::context(stature), o, cancel);
}

QString refusal(const std::string& clip) {
    const auto result = analyse(clip);
    return result ? "accepted" : QString::fromStdString(result.error().message);
}

/// Waits for frames of a FrameFetcher.
struct Inbox {
    std::mutex mutex;
    std::condition_variable arrived;
    std::map<std::size_t, FrameFetcher::Frame> frames;

    FrameFetcher::OnFrame receiver() {
        return [this](std::size_t index, FrameFetcher::Frame frame) {
            std::lock_guard lock(mutex);
            frames[index] = std::move(frame);
            arrived.notify_all();
        };
    }
    FrameFetcher::Frame wait(std::size_t index) {
        std::unique_lock lock(mutex);
        arrived.wait_for(lock, std::chrono::seconds(20), [&] { return frames.count(index) > 0; });
        return frames[index];
    }
};

}  // namespace

class TestAnalysis : public QObject {
    Q_OBJECT
    QTemporaryDir m_dir;
    std::string path(const char* name) const { return m_dir.filePath(name).toStdString(); }

  private slots:
    void aDrawnSetIsMeasuredAndItsFaultFound() {
        auto result = analyse(fixture("side"));
        QVERIFY2(bool(result), result ? "" : result.error().message.c_str());
        SetResult& r = result->set.result;
        QCOMPARE(r.reps.size(), std::size_t{3});
        QCOMPARE(r.near, Side::Right);
        QVERIFY(r.trackedShare > 0.99);
        QVERIFY(r.offSquareDeg < 12);
        const auto spec = sim::clipSpecFromJson(*readTextFile(ZEVO_TEST_DIR "/fixtures/side.json"));
        const sim::SpecMotion motion(spec->motion);
        for (const auto& rep : r.reps) {
            const auto truth = sim::trueAngles(motion.at(rep.bottomS), 1);
            NEAR(rep.find("knee_flexion")->value, truth.kneeFlexion, 6);
            NEAR(rep.find("hip_flexion")->value, truth.hipFlexion, 9);
            NEAR(rep.find("trunk_lean")->value, truth.trunkLean, 4);
            NEAR(rep.find("shin_angle")->value, truth.shinAngle, 7);
            NEAR(rep.find("heel_rise")->value, 5.5, rep.find("heel_rise")->pm90);
            NEAR(rep.find("lowering_s")->value, 2.0, 0.3);
        }
        judgeSet(r, *loadStandard("whole-foot"));
        std::set<std::string> sure;
        for (const auto& f : r.findings)
            if (f.severity != Severity::Unsure) sure.insert(f.fault);
        QCOMPARE(sure, std::set<std::string>{"heels_rise"});
    }

    void leftSideUnevenStampsAndAHalfRep() {
        auto result = analyse(fixture("left_uneven"), 163);
        QVERIFY(bool(result));
        QCOMPARE(result->set.result.near, Side::Left);
        QCOMPARE(result->set.result.reps.size(), std::size_t{3});
        QCOMPARE(result->set.result.reps[1].kind, RepKind::Partial);
        QCOMPARE(result->set.result.reps[0].kind, RepKind::Full);
        NEAR(result->set.result.reps[0].find("heel_rise")->value, 0, 1.5);
    }

    void oneWorkerAndTwoAgree() {
        auto alone = options();
        alone.workers = 1;
        const auto a = analyse(fixture("side"), 170, alone), b = analyse(fixture("side"), 170);
        QVERIFY(a && b);
        QCOMPARE(a->poses.frames.size(), b->poses.frames.size());
        for (std::size_t i = 0; i < a->poses.frames.size(); ++i)
            QCOMPARE(a->poses.frames[i].timeS, b->poses.frames[i].timeS);
        for (std::size_t r = 0; r < 3; ++r)
            for (const char* id : {"knee_flexion", "hip_flexion", "trunk_lean"})
                NEAR(a->set.result.reps[r].find(id)->value, b->set.result.reps[r].find(id)->value, 2.5);
    }

    void aPhoneHeldUprightIsNoDifferent() {
        // The same clip stored lying on its side, with the note to turn it.
        made::ffmpeg({"-i", QString::fromStdString(fixture("side")), "-vf", "transpose=cclock", "-c:v", "libx264",
                      path("lying.mp4").c_str()});
        made::ffmpeg(
            {"-i", path("lying.mp4").c_str(), "-c", "copy", "-metadata:s:v", "rotate=270", path("turned.mp4").c_str()});
        const auto result = analyse(path("turned.mp4"));
        QVERIFY2(bool(result), result ? "" : result.error().message.c_str());
        QCOMPARE(result->poses.clip.rotationDeg, 90);
        QCOMPARE(result->poses.clip.width, 640);
        QCOMPARE(result->set.result.reps.size(), std::size_t{3});
    }

    void badClipsAreRefusedInPlainWords_data() {
        QTest::addColumn<QString>("clip");
        QTest::addColumn<QString>("says");
        auto drawn = [](const char* name) { return QString::fromStdString(fixture(name)); };
        QTest::newRow("nobody") << drawn("empty_room") << "Nobody was found";
        QTest::newRow("far away") << drawn("far_away") << "";  // either not found or too small; see below
        QTest::newRow("no rep") << drawn("standing") << "Not one whole repetition";
        QTest::newRow("not there") << QString("/nowhere/clip.mp4") << "not there any more";
        QTest::newRow("a folder") << QString("/tmp") << "a folder";
    }
    void badClipsAreRefusedInPlainWords() {
        QFETCH(QString, clip);
        QFETCH(QString, says);
        const QString message = refusal(clip.toStdString());
        QVERIFY2(message != "accepted" && message.contains(says), qPrintable(message));
        QVERIFY(message.endsWith('.'));
        QVERIFY(!message.contains("error", Qt::CaseInsensitive));
    }

    /// Drawn clips of two cameras, the second switched on 0.4 s later, through the network.
    void twoClipsOfOneSetAreLinedUp() {
        auto set = analyse(fixture("side"));
        QVERIFY2(bool(set), set ? "" : set.error().message.c_str());
        pipeline::AnalyseOptions options;
        options.modelDir = catalog::modelDir();
        options.model = pose::ModelSize::Lite;
        const std::atomic<bool> cancel{false};
        const auto joined = pipeline::analyseSecondClip(*set, fixture("front"), true, 0, options, cancel);
        QVERIFY2(bool(joined), joined ? "" : joined.error().message.c_str());
        NEAR(set->set.result.second->lagS(), -0.4, 0.04);  // a frame
        QVERIFY(set->second && !set->second->frames.empty());
        for (const auto& rep : set->set.result.reps) QVERIFY(rep.find("knee_in_left") && rep.find("thigh_angle"));
        // The same side twice does not belong together.
        auto again = analyse(fixture("side"));
        QVERIFY(!pipeline::analyseSecondClip(*again, fixture("side"), true, 0, options, cancel));
        QVERIFY(!again->set.result.second);
    }

    void twoPeopleAreNoticed() {
        made::ffmpeg({"-i", QString::fromStdString(fixture("side")), "-i",
                      QString::fromStdString(fixture("left_uneven")), "-filter_complex",
                      "[0]fps=25,crop=300:360[a];[1]fps=25,crop=300:360,scale=270:324,pad=300:360:15:36:color=gray[b];["
                      "a][b]hstack=shortest=1",
                      "-c:v", "libx264", path("two.mp4").c_str()});
        const auto result = analyse(path("two.mp4"));
        QVERIFY2(bool(result), result ? "" : result.error().message.c_str());
        const auto& w = result->set.result.warnings;
        QVERIFY(std::any_of(w.begin(), w.end(),
                            [](const auto& t) { return t.find("More than one person") != std::string::npos; }));
        QCOMPARE(result->set.result.near, Side::Right);  // the nearer of the two
        QCOMPARE(result->set.result.reps.size(), std::size_t{3});
    }

    void cuttingShortKeepsWhatIsThere() {
        made::ffmpeg({"-i", QString::fromStdString(fixture("side")), "-c", "copy", path("whole.mkv").c_str()});
        QFile whole(path("whole.mkv").c_str());
        QVERIFY(whole.open(QIODevice::ReadOnly));
        QFile cut(path("cut.mkv").c_str());
        QVERIFY(cut.open(QIODevice::WriteOnly));
        cut.write(whole.read(whole.size() * 7 / 10));
        cut.close();
        const auto result = analyse(path("cut.mkv"));
        QVERIFY2(bool(result), result ? "" : result.error().message.c_str());
        QVERIFY(result->set.result.reps.size() == 1 || result->set.result.reps.size() == 2);
    }

    void stoppingStopsSoon() {
        std::atomic<bool> cancel{false};
        int told = 0;
        QElapsedTimer since;
        const auto result = readPoses(fixture("side"), options(), cancel, [&](const Progress& p) {
            QVERIFY(p.framesDone <= p.framesInAll);
            if (++told == 5) {
                cancel = true;
                since.start();
            }
        });
        QVERIFY(!result);
        QCOMPARE(result.error().detail, std::string("cancelled"));
        QVERIFY(told >= 5);
        QVERIFY2(since.elapsed() < 3000, qPrintable(QString("%1 ms").arg(since.elapsed())));
    }

    void missingNetworksSayWhatToDo() {
        auto o = options();
        o.modelDir = "/nowhere";
        const auto result = analyse(fixture("side"), 170, o);
        QVERIFY(!result);
        QVERIFY(!result.error().message.empty());
    }

    void outlinesLieAroundTheClient() {
        std::atomic<bool> cancel{false};
        const auto result = analyse(fixture("side"));
        std::vector<double> bottoms;
        for (const auto& r : result->set.result.reps) bottoms.push_back(r.bottomS);
        const auto outlines = readOutlines(fixture("side"), result->poses, bottoms, ZEVO_MODEL_DIR, cancel);
        QVERIFY(bool(outlines));
        QCOMPARE(outlines->size(), std::size_t{3});
        for (std::size_t i = 0; i < 3; ++i) {
            const auto& o = outlines->at(i);
            QVERIFY(o.points.size() > 50);
            const Track& t = result->set.track;
            const Vec2 hip = t.toPicture(t.at(Landmark::RightHip, t.sampleAt(bottoms[i])));
            double left = 1e9, right = -1e9, top = 1e9, bottom = -1e9;
            for (const auto& [x, y] : o.points) {
                left = std::min<double>(left, x), right = std::max<double>(right, x);
                top = std::min<double>(top, y), bottom = std::max<double>(bottom, y);
            }
            QVERIFY(hip.x() > left && hip.x() < right && hip.y() > top && hip.y() < bottom);
            QVERIFY(right - left < 260 && bottom - top < 260 && bottom - top > 80);
        }
    }

    void anyFrameIsFetched() {
        auto reader = media::ClipReader::open(fixture("side"));
        std::vector<double> times;
        for (double t = 0; *reader->skip(t);) times.push_back(t);
        Inbox inbox;
        auto fetcher = FrameFetcher::open(fixture("side"), times, inbox.receiver());
        QVERIFY(bool(fetcher));
        for (std::size_t i : {0UL, 200UL, 5UL, times.size() - 1, 201UL, 100UL}) {
            (*fetcher)->want(i);
            const auto frame = inbox.wait(i);
            QVERIFY(frame);
            media::VideoFrame same;
            QVERIFY(bool(reader->seek(times[i])));
            QVERIFY(*reader->next(same));
            QCOMPARE(frame->rgb, same.picture.rgb);
        }
        (*fetcher)->want(times.size() + 50);  // past the end: the last one
        QVERIFY(inbox.wait(times.size() - 1));
    }

    void onlyTheNewestWishCounts() {
        std::vector<double> times;
        auto reader = media::ClipReader::open(fixture("side"));
        for (double t = 0; *reader->skip(t);) times.push_back(t);
        Inbox inbox;
        auto fetcher =
            FrameFetcher::open(fixture("side"), times, inbox.receiver(), {640, 1});  // hardly any room to keep frames
        for (std::size_t i = 0; i < times.size(); ++i) (*fetcher)->want(i);
        QVERIFY(inbox.wait(times.size() - 1));
        std::lock_guard lock(inbox.mutex);
        QVERIFY2(inbox.frames.size() < times.size() / 2, qPrintable(QString::number(inbox.frames.size())));
    }

    void fetcherRefusesWhatIsNoClip() {
        QVERIFY(!FrameFetcher::open("/nowhere.mp4", {0, 1}, {}));
        QVERIFY(!FrameFetcher::open(fixture("side"), {}, {}));
    }

    void viewingCopyIsQuickAndTheOriginalUntouched() {
        made::ffmpeg({"-i", QString::fromStdString(fixture("side")), "-c:v", "libx264", "-g", "250",
                      path("sparse.mp4").c_str()});
        QFile original(path("sparse.mp4").c_str());
        QVERIFY(original.open(QIODevice::ReadOnly));
        const QByteArray before = original.readAll();
        original.close();
        QVERIFY(*needsReviewProxy(path("sparse.mp4")));
        QVERIFY(!*needsReviewProxy(fixture("side")));
        std::atomic<bool> cancel{false};
        QVERIFY(bool(makeReviewProxy(path("sparse.mp4"), path("copy.mp4"), cancel)));
        QVERIFY(*media::longestKeyFrameGap(path("copy.mp4")) <= 12);
        auto a = media::ClipReader::open(path("sparse.mp4")), b = media::ClipReader::open(path("copy.mp4"));
        double ta = 0, tb = 0;
        int n = 0;
        for (; *a->skip(ta) && *b->skip(tb); ++n) NEAR(ta, tb, 0.001);
        QCOMPARE(n, 377);
        QVERIFY(original.open(QIODevice::ReadOnly));
        QCOMPARE(original.readAll(), before);
        cancel = true;
        QVERIFY(!makeReviewProxy(path("sparse.mp4"), path("stopped.mp4"), cancel));
        QVERIFY(!QFile::exists(path("stopped.mp4").c_str()));
    }
};

QTEST_GUILESS_MAIN(TestAnalysis)
#include "test_analysis.moc"

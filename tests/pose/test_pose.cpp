// The pose chain against values that two independent programs computed from the same weights
// (tests/reference/pose/README.md names them), and the model reader against damaged files.
#include <QFile>
#include <QImage>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QTemporaryDir>
#include <algorithm>
#include <cmath>
#include <random>

#include "pose/detector.h"
#include "pose/estimator.h"
#include "pose/landmarker.h"
#include "pose/second_estimates.h"
#include "pose/second_network.h"
#include "pose/tfjs_file.h"
#include "pose/tflite_file.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::pose;

namespace {

const QString kReference = QStringLiteral(ZEVO_TEST_DIR "/reference/pose/");
const std::string kModels = ZEVO_MODEL_DIR;
const char* const kPictures[] = {"side_squat", "front_squat", "oblique_lunge", "side_hinge", "side_bridge"};

QJsonObject json(const QString& name) {
    QFile f(kReference + name);
    if (!f.open(QIODevice::ReadOnly)) qFatal("missing %s", qPrintable(name));
    return QJsonDocument::fromJson(f.readAll()).object();
}

Picture picture(const QString& name) {
    const QImage image = QImage(kReference + name).convertToFormat(QImage::Format_RGB888);
    Picture out(image.width(), image.height());
    for (int y = 0; y < image.height(); ++y) std::memcpy(out.at(0, y), image.constScanLine(y), image.width() * 3);
    return out;
}

void feed(std::span<float> input, const Picture& p, float scale, float offset) {
    QCOMPARE(input.size(), p.rgb.size());
    for (std::size_t i = 0; i < p.rgb.size(); ++i) input[i] = p.rgb[i] * scale + offset;
}

double largestDifference(std::span<const float> ours, const QJsonArray& theirs) {
    double worst = ours.size() == static_cast<std::size_t>(theirs.size()) ? 0 : 1e9;
    for (int i = 0; i < theirs.size() && worst < 1e9; ++i)
        worst = std::max(worst, std::abs(ours[i] - theirs[i].toDouble()));
    return worst;
}

}  // namespace

class TestPose : public QObject {
    Q_OBJECT
  private slots:
    void networksAgreeWithAnotherRuntime_data() {
        QTest::addColumn<QString>("size");
        for (const char* size : {"lite", "full", "heavy"}) QTest::newRow(size) << size;
    }
    void networksAgreeWithAnotherRuntime() {
        QFETCH(QString, size);
        const auto graph = loadGraph(kModels + "/pose_landmark_" + size.toStdString() + ".tflite");
        QVERIFY(bool(graph));
        auto network = Network::create(*graph);
        QVERIFY2(bool(network), network ? "" : network.error().detail.c_str());
        const auto values = json("runtime_values.json")["pictures"].toObject();
        for (const char* name : kPictures) {
            const auto expected = values[name].toObject()[size].toObject();
            feed(network->input(), picture(QString(name) + ".landmark_256.png"), 1 / 255.0F, 0);
            QVERIFY(bool(network->run()));
            QVERIFY(largestDifference(network->output("Identity"), expected["landmarks_195"].toArray()) < 5e-3);
            QVERIFY(largestDifference(network->output("Identity_4"), expected["world_117"].toArray()) < 1e-4);
            const double flagOff = std::abs(network->output("Identity_1")[0] - expected["pose_flag"].toDouble());
            QVERIFY2(flagOff < 2e-5, qPrintable(QString("%1: flag off by %2").arg(name).arg(flagOff)));
        }
    }

    void detectorAgreesWithAnotherRuntime() {
        const auto graph = loadGraph(kModels + "/pose_detection.tflite");
        QVERIFY(bool(graph));
        auto network = Network::create(*graph);
        QVERIFY(bool(network));
        const auto values = json("runtime_values.json")["pictures"].toObject();
        for (const char* name : kPictures) {
            feed(network->input(), picture(QString(name) + ".detector_224.png"), 1 / 127.5F, -1);
            QVERIFY(bool(network->run()));
            for (const auto value : values[name].toObject()["detector"].toObject()["top"].toArray()) {
                const auto row = value.toObject();
                const int anchor = row["anchor"].toInt();
                QVERIFY(std::abs(network->output("Identity_1")[anchor] - row["score_logit"].toDouble()) < 3e-3);
                QVERIFY(largestDifference(network->output("Identity").subspan(anchor * 12, 12), row["raw"].toArray()) <
                        5e-3);
            }
        }
    }

    void wholeChainAgreesWithTheReferenceBuild() {
        auto estimator = makeNetworkEstimator(kModels, ModelSize::Full);
        QVERIFY(bool(estimator));
        const auto values = json("chain_values.json")["pictures"].toObject();
        for (const char* name : kPictures) {
            const auto p = picture(QString(name) + ".png");
            (*estimator)->reset();
            PoseFrame last;
            for (int i = 0; i < 12; ++i) last = *(*estimator)->process(p.view(), i / 30.0);
            QVERIFY(last.found);
            const auto expected = values[QString(name) + ".png"].toObject()["last"].toObject()["landmarks"].toArray();
            std::vector<double> apart;
            for (std::size_t k = 0; k < kLandmarkCount; ++k)
                apart.push_back(std::hypot(last.points[k].x - expected[k][0].toDouble(),
                                           last.points[k].y - expected[k][1].toDouble()));
            std::sort(apart.begin(), apart.end());
            double mean = 0;
            for (double a : apart) mean += a / apart.size();
            qInfo("%s: median %.2f px, mean %.2f px from the reference build", name, apart[16], mean);
            QVERIFY(apart[16] < 2.0);
            QVERIFY(mean < 3.0);
        }
    }

    /// What the larger network says of a pose is said once its region lies where it wants it: looking on changes
    /// nothing. From a square that does not lean with the client its first answers are of somebody who stands.
    void theLargerNetworkIsReadAtRest_data() {
        QTest::addColumn<QString>("name");
        for (const char* name : kPictures) QTest::newRow(name) << name;
    }
    void theLargerNetworkIsReadAtRest() {
        QFETCH(QString, name);
        const auto p = picture(name + ".png");
        auto estimator = makeNetworkEstimator(kModels, ModelSize::Full);
        QVERIFY(bool(estimator));
        PoseFrame followed;
        for (int i = 0; i < 12; ++i) followed = *(*estimator)->process(p.view(), i / 30.0);
        auto second = makeSecondEstimator(kModels);
        QVERIFY(bool(second));
        const auto first = (*second)->larger(p.view(), followed);
        QVERIFY(bool(first));
        auto later = first;
        for (int look = 0; look < 4; ++look) later = (*second)->larger(p.view(), followed);
        double top = 1e9, bottom = 0;
        for (const auto& point : first->points) {
            top = std::min<double>({top, point.x, point.y});
            bottom = std::max<double>({bottom, point.x, point.y});
        }
        double most = 0;
        for (auto id : {Landmark::LeftHip, Landmark::RightHip, Landmark::LeftKnee, Landmark::RightKnee,
                        Landmark::LeftShoulder, Landmark::RightShoulder})
            most = std::max<double>(most, std::hypot(first->points[static_cast<std::size_t>(id)].x -
                                                         later->points[static_cast<std::size_t>(id)].x,
                                                     first->points[static_cast<std::size_t>(id)].y -
                                                         later->points[static_cast<std::size_t>(id)].y));
        qInfo("%s: %.2f px of %.0f", qPrintable(name), most, bottom - top);
        QVERIFY(most < 0.015 * (bottom - top));
    }

    /// The second network in our runtime against the runtime it was made for.
    void secondNetworkAgreesWithItsOwnRuntime() {
        const QJsonObject all = json("second_values.json");
        const std::string file = kModels + "/movenet-thunder";
        const std::string prefix = "StatefulPartitionedCall/";
        const std::vector<std::pair<std::string, QString>> heads{
            {prefix + "center_0/conv2d_4/BiasAdd", "middle"},
            {prefix + "kpt_regress_0/conv2d_6/BiasAdd", "regression"},
            {prefix + "kpt_heatmap_0/conv2d_5/BiasAdd", "heat"},
            {prefix + "kpt_offset_0/conv2d_7/BiasAdd", "offset"}};
        std::vector<std::string> outputs;
        for (const auto& [name, ignored] : heads) outputs.push_back(name);
        const auto graph = loadTfjsGraph(file + ".json", file + ".bin", prefix + "sub_1", {1, 256, 256, 3}, outputs);
        QVERIFY2(bool(graph), graph ? "" : graph.error().detail.c_str());
        auto network = Network::create(*graph);
        QVERIFY2(bool(network), network ? "" : network.error().detail.c_str());
        const auto central =
            loadTfjsConstant(file + ".json", file + ".bin", "ConstantFolding/StatefulPartitionedCall/truediv_2_recip");
        QVERIFY(central && central->size() == 64 * 64);
        for (const char* name : kPictures) {
            feed(network->input(), picture(QString(name) + ".landmark_256.png"), 2.0F / 255, -1);
            QVERIFY(bool(network->run()));
            const QJsonObject theirs = all[name].toObject();
            for (const auto& [head, key] : heads) {
                const auto ours = network->output(head);
                const QJsonArray values = theirs[key].toArray();
                for (int i = 0; i < values.size(); ++i)
                    QVERIFY2(std::abs(ours[static_cast<std::size_t>(i) * 997] - values[i].toDouble()) < 2e-3,
                             qPrintable(QString("%1 %2 %3").arg(name, key).arg(i)));
            }
            const auto places =
                SecondNetwork::decode({network->output(heads[0].first), network->output(heads[1].first),
                                       network->output(heads[2].first), network->output(heads[3].first)},
                                      *central);
            const QJsonArray points = theirs["points"].toArray();
            for (int k = 0; k < 17; ++k) {
                QVERIFY(std::abs(places[static_cast<std::size_t>(k)].row / 64 - points[3 * k].toDouble()) < 1e-3);
                QVERIFY(std::abs(places[static_cast<std::size_t>(k)].column / 64 - points[3 * k + 1].toDouble()) <
                        1e-3);
                QVERIFY(std::abs(places[static_cast<std::size_t>(k)].score - points[3 * k + 2].toDouble()) < 1e-3);
            }
        }
    }

    void damagedSecondNetworkIsRefused() {
        QTemporaryDir dir;
        const std::string good = kModels + "/movenet-thunder", bad = dir.filePath("bad").toStdString();
        auto copy = [&](qint64 bytes, const QByteArray& from, const QByteArray& to) {
            QFile json(QString::fromStdString(good + ".json")), weights(QString::fromStdString(good + ".bin"));
            if (!json.open(QIODevice::ReadOnly) || !weights.open(QIODevice::ReadOnly)) qFatal("no second network");
            QFile j(QString::fromStdString(bad + ".json")), w(QString::fromStdString(bad + ".bin"));
            if (!j.open(QIODevice::WriteOnly) || !w.open(QIODevice::WriteOnly)) qFatal("no room");
            j.write(json.readAll().replace(from, to));
            w.write(weights.read(bytes));
        };
        auto refused = [&] {
            return !loadTfjsGraph(bad + ".json", bad + ".bin", "StatefulPartitionedCall/sub_1", {1, 256, 256, 3},
                                  {"StatefulPartitionedCall/center_0/conv2d_4/BiasAdd"});
        };
        copy(1 << 30, "x", "x");
        QVERIFY(!refused());
        copy(1000, "x", "x");
        QVERIFY(refused());  // weights cut short
        copy(1 << 30, "AddV2", "Multiply");
        QVERIFY(refused());
        copy(1 << 30, "{", "");
        QVERIFY(refused());
        QVERIFY(!SecondNetwork::create(dir.path().toStdString()));  // not there at all
    }

    void outlineCoversTheBody() {
        auto estimator = makeNetworkEstimator(kModels, ModelSize::Full);
        auto outlines = makeOutlineReader(kModels);
        QVERIFY(estimator && outlines);
        const auto p = picture("side_squat.png");
        const auto pose = *(*estimator)->process(p.view(), 0);
        const auto mask = (*outlines)->read(p.view(), pose);
        QVERIFY(bool(mask));
        QCOMPARE(mask->inside.size(), std::size_t{256 * 256});
        auto inside = [&](double x, double y) {
            const int i = static_cast<int>(((x - mask->centreX) / mask->size + 0.5) * 256);
            const int j = static_cast<int>(((y - mask->centreY) / mask->size + 0.5) * 256);
            return mask->inside.at(j * 256 + i);
        };
        const auto& hip = pose.at(Landmark::RightHip);
        QVERIFY(inside(hip.x, hip.y) > 0.5);
        QVERIFY(inside(mask->centreX - mask->size * 0.48, mask->centreY - mask->size * 0.48) < 0.5);
    }

    void emptyPictureHoldsNobody() {
        auto estimator = makeNetworkEstimator(kModels, ModelSize::Lite);
        Picture grey(320, 240);
        std::fill(grey.rgb.begin(), grey.rgb.end(), 128);
        const auto pose = (*estimator)->process(grey.view(), 0);
        QVERIFY(bool(pose));
        QVERIFY(!pose->found);
    }

    void damagedModelsAreRefusedNotCrashedOn() {
        QFile f(QString::fromStdString(kModels + "/pose_landmark_lite.tflite"));
        QVERIFY(f.open(QIODevice::ReadOnly));
        const QByteArray whole = f.readAll();
        auto tryRead = [](const QByteArray& bytes) {
            auto graph = readGraph(
                {reinterpret_cast<const std::uint8_t*>(bytes.constData()), static_cast<std::size_t>(bytes.size())});
            if (graph) (void)Network::create(*graph);  // may work or not; must return
            return bool(graph);
        };
        QVERIFY(tryRead(whole));
        QVERIFY(!tryRead({}));
        QVERIFY(!tryRead(QByteArray(4096, '\0')));
        for (int size : {4, 8, 100, 5000, 200000, int(whole.size()) - 100})
            QVERIFY2(!tryRead(whole.left(size)), qPrintable(QString::number(size)));
        // The tables lie at the end of the file: flip bytes there, where every offset and size is.
        std::mt19937 random(7);
        int refused = 0;
        for (int round = 0; round < 60; ++round) {
            QByteArray bad = whole;
            for (int k = 0; k < 20; ++k) bad[int(bad.size() - 1 - random() % 60000)] = char(random());
            refused += !tryRead(bad);
        }
        QVERIFY(refused > 20);
        QVERIFY(!loadGraph("/nonexistent.tflite"));
    }
};

ZEVO_SUITE(TestPose, "pose")
#include "test_pose.moc"

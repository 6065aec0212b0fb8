// Draws the people of the benches to look at them.
//   bench_people FOLDER [--tables] [--first N] [--count N] [--clips] [--joints]
// Each set's first moment and its second turning point, as a PNG; with --clips the clip as well, with --joints the true
// joints of the near side drawn in.
#include <QImage>
#include <QPainter>
#include <QPolygonF>
#include <cstdio>

#include "bench/common.h"
#include "bench/people/cast.h"

using namespace zevo;

int main(int argc, char** argv) {
    std::string folder = ".";
    bench::Half half = bench::Half::Calibration;
    int first = 0, count = 6;
    bool clips = false, joints = false;
    for (int i = 1; i < argc; ++i) {
        const std::string key = argv[i], value = i + 1 < argc ? argv[i + 1] : "";
        if (key == "--tables")
            half = bench::Half::Tables;
        else if (key == "--clips")
            clips = true;
        else if (key == "--joints")
            joints = true;
        else if (key == "--first")
            first = std::stoi(value), ++i;
        else if (key == "--count")
            count = std::stoi(value), ++i;
        else
            folder = key;
    }
    std::filesystem::create_directories(folder);
    const auto package = bench::HumanPackage::open(bench::peopleFolder());
    if (!package) {
        std::fprintf(stderr, "%s (%s)\n", package.error().message.c_str(), package.error().detail.c_str());
        return 1;
    }
    const auto sets = bench::peopleSets(**package, half, first, count);
    if (!sets) {
        std::fprintf(stderr, "%s (%s)\n", sets.error().message.c_str(), sets.error().detail.c_str());
        return 1;
    }
    for (const auto& c : *sets) {
        const auto motion = sim::motionOf(c.spec);
        int n = 0;
        for (double t : {0.3, motion->reps()[1].bottomS}) {
            sim::ClipSpec still = c.spec;
            still.startS = t, still.frames = 1;
            auto source = sim::liveClient(still);
            media::VideoFrame frame;
            if (!source || !(*source)->next(frame)) return 1;
            const Picture& p = frame.picture;
            QImage image = QImage(p.rgb.data(), p.width, p.height, 3 * p.width, QImage::Format_RGB888).copy();
            if (joints) {
                const sim::Skeleton s = motion->at(t);
                const sim::Camera camera(c.spec.scene.camera);
                const std::size_t side = c.spec.scene.camera.azimuthDeg >= 0 ? 1 : 0;
                QPolygonF line;
                for (const Vec3& joint :
                     {s.toe[side], s.ankle[side], s.knee[side], s.hip[side], s.shoulder[side], s.ear[side]}) {
                    double x = 0, y = 0;
                    camera.project(joint, x, y);
                    line << QPointF(x, y);
                }
                QPainter painter(&image);
                painter.setRenderHint(QPainter::Antialiasing);
                painter.setPen(QPen(Qt::yellow, 2));
                painter.drawPolyline(line);
                for (const QPointF& at : line) painter.drawEllipse(at, 4, 4);
            }
            image.save(QString::fromStdString(folder + "/" + c.name + (n++ ? "-bottom.png" : "-start.png")));
        }
        if (clips)
            if (auto made = sim::makeClip(c.spec, folder + "/" + c.name + ".mp4"); !made) return 1;
    }
    return 0;
}

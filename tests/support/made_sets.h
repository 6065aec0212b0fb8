#pragma once

#include <QTest>
#include <random>
#include <string>
#include <vector>

#include "catalog/data_files.h"
#include "core/record/result_json.h"
#include "core/judge/set_result.h"
#include "sim/clip_maker.h"

/// Sets of the virtual client as perfect landmarks: the whole of core/ without video or network.
namespace made {

using namespace zevo;

inline sim::RepSpec rep(double thigh = -12) {
    sim::RepSpec r;
    r.thighBottomDeg = thigh;
    r.shinBottomDeg = 32;
    return r;
}

/// A clean set: deep, slow, heels down.
inline sim::ClipSpec spec(int reps = 3) {
    sim::ClipSpec s;
    s.motion.reps.assign(static_cast<std::size_t>(reps), rep());
    s.scene.camera.width = 1280;
    s.scene.camera.height = 720;
    return s;
}

/// Grey blobs that no shift makes look alike, moved by (dx, dy).
inline Picture blobs(int w, int h, double dx, double dy) {
    Picture p(w, h);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            const double u = x - dx, v = y - dy;
            const double g = 120 + 60 * std::sin(u * 0.31 + 1.3 * std::sin(v * 0.17)) +
                             50 * std::cos(v * 0.23 - 0.9 * std::sin(u * 0.11));
            for (int c = 0; c < 3; ++c) p.at(x, y)[c] = static_cast<std::uint8_t>(std::clamp(g, 0.0, 255.0));
        }
    return p;
}

inline ClipFacts facts(const sim::ClipSpec& s) {
    ClipFacts f;
    f.width = s.scene.camera.width;
    f.height = s.scene.camera.height;
    return f;
}

inline SetContext context(double statureCm = 175) {
    SetContext c;
    c.context.statureCm = statureCm;
    return c;
}

inline Movement movement(const std::string& id) {
    auto m = catalog::loadMovement(id);
    if (!m) qFatal("%s", m.error().message.c_str());
    return *m;
}

/// As what the virtual client does.
inline SetContext contextOf(const sim::ClipSpec& s) {
    SetContext c = context(s.motion.body.statureCm);
    c.movement = movement(s.motion.movement);
    c.variation = s.motion.variation;
    return c;
}

inline Standard standard(const std::string& id) {
    auto s = catalog::loadStandard(id);
    if (!s) qFatal("%s", s.error().message.c_str());
    return *s;
}

inline Result<MeasuredSet> measured(const sim::ClipSpec& s, const PoseFrames& poses) {
    return measureSet(poses, facts(s), contextOf(s));
}
inline Result<MeasuredSet> measured(const sim::ClipSpec& s) {
    return measured(s, sim::truePoses(s));
}

/// The same landmarks with the jitter of a network, standard deviation in pixels.
inline PoseFrames jittered(PoseFrames poses, double px, unsigned seed = 1) {
    std::mt19937 random(seed);
    std::normal_distribution<float> noise(0, static_cast<float>(px));
    for (auto& f : poses)
        for (auto& p : f.points) {
            p.x += noise(random);
            p.y += noise(random);
        }
    return poses;
}

inline double value(const MeasuredSet& set, int rep, const std::string& id) {
    const Measurement* m = set.result.reps.at(static_cast<std::size_t>(rep)).find(id);
    return m ? m->value : std::nan("");
}

}  // namespace made

/// Fails with both numbers in the message.
#define NEAR(actual, expected, tolerance)                                                                   \
    QVERIFY2(std::abs((actual) - (expected)) <= (tolerance), qPrintable(QString("%1 is %2, wanted %3 ± %4") \
                                                                            .arg(#actual)                   \
                                                                            .arg(double(actual))            \
                                                                            .arg(double(expected))          \
                                                                            .arg(double(tolerance))))

#pragma once

#include <QTest>
#include <cmath>
#include <memory>
#include <random>
#include <string>
#include <vector>

#include "catalog/data_files.h"
#include "core/base/degrees.h"
#include "core/serial/result_json.h"
#include "core/session/session.h"
#include "present/words.h"
#include "sim/clip_maker.h"

/// Sets of the virtual client as perfect landmarks: the whole of core/ without video or network.
namespace made {

using namespace zevo;

/// Why something was refused, as the coach reads it; good for QVERIFY2 and qFatal.
inline const char* words(const Error& error) {
    static QByteArray said;
    said = present::sentence(error).toUtf8() + " [" + QByteArray::fromStdString(error.detail) + "]";
    return said.constData();
}

inline bool says(const std::vector<Notice>& notices, NoticeKind kind) {
    return std::any_of(notices.begin(), notices.end(), [kind](const Notice& n) { return n.kind == kind; });
}

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

/// The same, with how the camera is held as a room would tell it: level, looking at where it is aimed.
inline ClipFacts heldFacts(const sim::ClipSpec& s) {
    const auto& c = s.scene.camera;
    ClipFacts f = facts(s);
    f.hold = CameraHold{0, std::atan2(c.heightM - c.aimHeightM, c.distanceM) * kDegreesPerRadian, 0.5, 0.6};
    return f;
}

inline SetContext context(double statureCm = 175) {
    SetContext c;
    c.context.statureCm = statureCm;
    return c;
}

inline Movement movement(const std::string& id) {
    auto m = catalog::loadMovement(id);
    if (!m) qFatal("%s", made::words(m.error()));
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
    if (!s) qFatal("%s", made::words(s.error()));
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

/// Everything that ships, read once.
inline std::shared_ptr<const Catalogue> catalogue() {
    static const auto all = [] {
        auto read = catalog::loadCatalogue();
        if (!read) qFatal("%s", made::words(read.error()));
        return std::make_shared<const Catalogue>(std::move(*read));
    }();
    return all;
}

/// What a camera and a perfect network would have seen.
inline std::shared_ptr<const Observation> observation(const sim::ClipSpec& s, const PoseFrames& poses) {
    Observation o;
    o.clip = facts(s);
    o.poses = poses;
    return std::make_shared<const Observation>(std::move(o));
}
inline std::shared_ptr<const Observation> observation(const sim::ClipSpec& s) {
    return observation(s, sim::truePoses(s));
}

/// What the coach would say of what the virtual client does.
inline SetFacts factsOf(const sim::ClipSpec& s) {
    SetFacts f;
    f.movement = s.motion.movement;
    f.variation = s.motion.variation;
    f.statureCm = s.motion.body.statureCm;
    return f;
}

/// As the window makes it: judged by a standard, or by the movement's default.
inline Result<SetState> state(const sim::ClipSpec& s, const std::string& standard = {}) {
    Edits edits{FactsSet{factsOf(s)}};
    if (!standard.empty()) edits.push_back(StandardChosen{standard});
    return recompute({observation(s)}, edits, *catalogue());
}

/// Of facts the coach gave otherwise; by a school, or the movement's default.
inline SetState judged(const sim::ClipSpec& s, const SetFacts& facts, const std::string& school = {}) {
    Edits edits{FactsSet{facts}};
    if (!school.empty()) edits.push_back(StandardChosen{school});
    auto state = recompute({observation(s)}, edits, *catalogue());
    if (!state) qFatal("%s", words(state.error()));
    return *state;
}

/// Whether a fault is found, clear or watch.
inline bool found(const SetState& s, const std::string& fault) {
    return std::any_of(s.set.result.findings.begin(), s.set.result.findings.end(),
                       [&](const Finding& f) { return f.fault == fault && f.severity != Severity::Unsure; });
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

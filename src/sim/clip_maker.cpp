#include "sim/clip_maker.h"

#include <algorithm>
#include <cmath>
#include <future>
#include <nlohmann/json.hpp>

#include "core/base/contour.h"
#include "sim/loose_shirt.h"
#include "sim/scene_things.h"
#include "sim/tapes.h"

namespace zevo::sim {

using nlohmann::json;

namespace {

/// A motion whose clock starts later.
class LaterMotion : public Motion {
  public:
    LaterMotion(std::shared_ptr<const Motion> whole, double startS) : m_whole(std::move(whole)), m_startS(startS) {
        for (RepTruth r : m_whole->reps()) m_reps.push_back({r.startS - startS, r.bottomS - startS, r.endS - startS});
    }
    double durationS() const override { return m_whole->durationS() - m_startS; }
    Skeleton at(double timeS) const override { return m_whole->at(timeS + m_startS); }
    const std::vector<RepTruth>& reps() const override { return m_reps; }

  private:
    std::shared_ptr<const Motion> m_whole;
    double m_startS;
    std::vector<RepTruth> m_reps;
};

}  // namespace

std::shared_ptr<const Motion> motionOf(const ClipSpec& spec) {
    std::shared_ptr<const Motion> motion = spec.capture;
    if (!motion) motion = std::make_shared<const SpecMotion>(spec.motion);
    if (spec.startS > 0) motion = std::make_shared<const LaterMotion>(motion, spec.startS);
    return motion;
}

Result<std::shared_ptr<const Figure>> figureOf(const ClipSpec& spec) {
    if (spec.figure) return spec.figure;
    return makeFigure(spec.motion.body);
}

std::vector<double> frameTimes(const ClipSpec& spec) {
    auto count = static_cast<long>(motionOf(spec)->durationS() * spec.frameRate);
    if (spec.frames > 0) count = std::min(count, spec.frames);
    std::vector<double> times;
    for (long i = 0; i < count; ++i) {
        const double late =
            spec.jitter *
            (0.5 + 0.5 * std::sin(static_cast<double>(i) * 12.9898 + static_cast<double>(spec.scene.seed)));
        times.push_back((static_cast<double>(i) + (i == 0 ? 0 : late)) / spec.frameRate);
    }
    return times;
}

namespace {

/// The client's own mesh at a moment, before anything is stuck to it or held.
void buildBody(const ClipSpec& spec, const Figure& figure, const Skeleton& s, Mesh& mesh) {
    figure.build(s, mesh);
    hangShirt(spec.motion.body, s, mesh);
}

int nearSide(const ClipSpec& spec) {
    return spec.scene.camera.azimuthDeg >= 0 ? 1 : 0;
}

/// Stuck on at the first moment.
Tapes tapesOf(const ClipSpec& spec, const Figure& figure, const Motion& motion) {
    const Skeleton s = motion.at(0);
    Mesh body;
    buildBody(spec, figure, s, body);
    return {body, s, spec.motion.body.statureCm, nearSide(spec), std::abs(spec.scene.camera.azimuthDeg) > 90};
}

/// Draws the frames of one spec; one instance per thread.
class FrameMaker {
  public:
    FrameMaker(const ClipSpec& spec, std::shared_ptr<const Motion> motion, std::shared_ptr<const Figure> figure)
        : m_spec(spec),
          m_motion(std::move(motion)),
          m_figure(std::move(figure)),
          m_renderer(spec.scene),
          m_things(thingsInFront(spec.scene)) {
        for (const Prop& p : thingsBehind(spec)) m_things.push_back(p);
        Mesh room;
        addProps(furniture(spec), room);
        m_renderer.furnish(room);
        if (spec.scene.looks.tapes) m_tapes = tapesOf(spec, *m_figure, *m_motion);
        if (!spec.scene.bystander) return;
        MotionSpec other;
        other.body.statureCm = 170;
        other.body.shirt = {92, 104, 84};
        other.body.looseTrousers = true;
        const Camera camera(spec.scene.camera);
        const Vec3 away = Vec3(camera.forward().x(), 0, camera.forward().z()).normalized();
        buildFigure(moved(SpecMotion(other).at(0.5), 1.3 * away + 0.95 * camera.right()), other.body, m_other);
        for (auto& g : m_other.groups) g = static_cast<std::uint8_t>(g + kBystanderGroups);
    }

    void draw(double timeS, long frame, Picture& out) {
        const double open = m_spec.scene.shutter / m_spec.frameRate;
        if (open <= 0) return drawMoment(timeS, frame, out);
        // Three moments while the shutter is open, averaged.
        constexpr int kMoments = 3;
        std::vector<int> sum;
        for (int k = 0; k < kMoments; ++k) {
            drawMoment(timeS + open * (k / (kMoments - 1.0) - 0.5), frame, out);
            sum.resize(out.rgb.size());
            for (std::size_t i = 0; i < sum.size(); ++i) sum[i] += out.rgb[i];
        }
        for (std::size_t i = 0; i < sum.size(); ++i) out.rgb[i] = static_cast<std::uint8_t>(sum[i] / kMoments);
    }

    Outline outline(double timeS) {
        int width = 0, height = 0;
        m_renderer.mask(m_mask, width, height);
        Outline out{timeS, {}};
        const auto line = largestContour(m_mask, width, height, 0.5F);
        constexpr std::size_t kEvery = 3;
        for (std::size_t i = 0; i < line.size(); i += kEvery)
            out.points.emplace_back(static_cast<float>(line[i].x() * Renderer::kMaskStep),
                                    static_cast<float>(line[i].y() * Renderer::kMaskStep));
        return out;
    }

  private:
    void drawMoment(double timeS, long frame, Picture& out) {
        const Skeleton s = m_motion->at(timeS);
        buildBody(m_spec, *m_figure, s, m_mesh);
        paintShoes(m_spec.scene.looks, s, m_mesh);
        if (m_tapes) {
            const Mesh body = m_mesh;
            m_tapes->add(body, s, m_mesh);
        }
        addProps(s.props, m_mesh);
        addProps(m_things, m_mesh);
        m_mesh.append(m_other);
        m_renderer.draw(m_mesh, frame, out, timeS);
        shake(m_spec.scene.looks, timeS, out);
    }

    ClipSpec m_spec;
    std::shared_ptr<const Motion> m_motion;
    std::shared_ptr<const Figure> m_figure;
    Renderer m_renderer;
    std::vector<Prop> m_things;
    std::optional<Tapes> m_tapes;
    Mesh m_mesh, m_other;
    std::vector<float> m_mask;
};

}  // namespace

Result<void> makeClip(const ClipSpec& spec, const std::string& path, const Progress& progress,
                      std::vector<Outline>* outlines) {
    const CameraSpec& camera = spec.scene.camera;
    const auto figure = figureOf(spec);
    if (!figure) return figure.error();
    media::WriteOptions options = spec.video;
    options.frameRate = spec.frameRate;
    auto writer = media::ClipWriter::create(path, camera.width, camera.height, options);
    if (!writer) return writer.error();
    const auto motion = motionOf(spec);
    const auto times = frameTimes(spec);
    const long count = static_cast<long>(times.size());
    constexpr int kWorkers = 2;
    std::vector<FrameMaker> makers;
    for (int i = 0; i < kWorkers; ++i) makers.emplace_back(spec, motion, *figure);
    struct Drawn {
        Picture picture;
        Outline outline;
    };
    auto render = [&](int worker, long frame) {
        Drawn out;
        FrameMaker& maker = makers[static_cast<std::size_t>(worker)];
        const double t = times[static_cast<std::size_t>(frame)];
        maker.draw(t, frame, out.picture);
        if (outlines) out.outline = maker.outline(t);
        return out;
    };
    // One frame ahead per renderer: the next is drawn while this one is encoded.
    std::array<std::future<Drawn>, kWorkers> drawn;
    auto start = [&](long frame) {
        if (frame < count)
            drawn[frame % kWorkers] = std::async(std::launch::async, render, static_cast<int>(frame % kWorkers), frame);
    };
    for (int w = 0; w < kWorkers; ++w) start(w);
    for (long frame = 0; frame < count; ++frame) {
        const Drawn now = drawn[frame % kWorkers].get();
        start(frame + kWorkers);
        if (auto wrote = writer->write(now.picture.view(), times[frame]); !wrote) return wrote;
        if (outlines) outlines->push_back(now.outline);
        if (progress && !progress(frame + 1, count)) return Error{"Stopped.", path};
    }
    return writer->finish();
}

Result<std::vector<Outline>> trueOutlines(const ClipSpec& spec) {
    const auto figure = figureOf(spec);
    if (!figure) return figure.error();
    const auto motion = motionOf(spec);
    const auto times = frameTimes(spec);
    ClipSpec still = spec;
    still.scene.noise = 0;  // moves no outline
    std::vector<Outline> out(times.size());
    constexpr std::size_t kWorkers = 2;
    std::array<std::future<void>, kWorkers> parts;
    for (std::size_t w = 0; w < kWorkers; ++w)
        parts[w] = std::async(std::launch::async, [&, w] {
            FrameMaker maker(still, motion, *figure);
            Picture picture;
            for (std::size_t i = w; i < times.size(); i += kWorkers) {
                maker.draw(times[i], static_cast<long>(i), picture);
                out[i] = maker.outline(times[i]);
            }
        });
    for (auto& part : parts) part.get();
    return out;
}

namespace {

class LiveClient final : public media::FrameSource {
  public:
    LiveClient(const ClipSpec& spec, std::shared_ptr<const Motion> motion, std::shared_ptr<const Figure> figure)
        : m_times(frameTimes(spec)), m_maker(spec, std::move(motion), std::move(figure)) {
        m_facts.width = spec.scene.camera.width;
        m_facts.height = spec.scene.camera.height;
        m_facts.frameRate = spec.frameRate;
        m_facts.frames = static_cast<long>(m_times.size());
        m_facts.durationS = static_cast<double>(m_times.size()) / spec.frameRate;
        m_facts.live = true;
    }
    const media::SourceFacts& facts() const override { return m_facts; }
    Result<bool> next(media::VideoFrame& frame) override {
        if (m_next >= m_times.size()) return false;
        frame.index = static_cast<long>(m_next);
        frame.timeS = m_times[m_next];
        m_maker.draw(frame.timeS, frame.index, frame.picture);
        ++m_next;
        return true;
    }
    bool canSeek() const override { return true; }
    Result<void> seek(double timeS) override {
        m_next = static_cast<std::size_t>(std::lower_bound(m_times.begin(), m_times.end(), timeS) - m_times.begin());
        return {};
    }

  private:
    std::vector<double> m_times;
    std::size_t m_next = 0;
    FrameMaker m_maker;
    media::SourceFacts m_facts;
};

}  // namespace

Result<std::unique_ptr<media::FrameSource>> liveClient(const ClipSpec& spec) {
    const auto figure = figureOf(spec);
    if (!figure) return figure.error();
    return std::unique_ptr<media::FrameSource>(std::make_unique<LiveClient>(spec, motionOf(spec), *figure));
}

Result<std::map<MarkKind, std::vector<MarkStep>>> trueMarks(const ClipSpec& spec) {
    const auto figure = figureOf(spec);
    if (!figure) return figure.error();
    const auto motion = motionOf(spec);
    const Camera camera(spec.scene.camera);
    std::optional<Tapes> tapes;
    if (spec.scene.looks.tapes) tapes = tapesOf(spec, **figure, *motion);
    std::map<MarkKind, std::vector<MarkStep>> out;
    Mesh body;
    for (double t : frameTimes(spec)) {
        const Skeleton s = motion->at(t);
        auto places = thingsMarked(s, Vec3(-camera.forward().x(), 0, -camera.forward().z()));
        if (tapes) {
            buildBody(spec, **figure, s, body);
            places.merge(tapes->places(body, s));
        }
        for (const auto& [kind, p] : places) {
            MarkStep step{t, 0, 0};
            camera.project(p, step.x, step.y);
            out[kind].push_back(step);
        }
    }
    return out;
}

std::string truthJson(const ClipSpec& spec, const std::vector<Outline>& outlines) {
    const auto motion = motionOf(spec);
    const Camera camera(spec.scene.camera);
    const int near = nearSide(spec);
    auto rounded = [](double v) { return std::round(v * 1e4) / 1e4; };
    json out{{"schema", "zevo-truth-1"},
             {"movement", spec.motion.movement},
             {"variation", spec.motion.variation},
             {"stature_cm", spec.motion.body.statureCm},
             {"figure", spec.motion.body.figure},
             {"near_side", near ? "right" : "left"},
             {"planted", spec.planted},
             {"reps", json::array()},
             {"frames", json::array()}};
    const RepSpec clean;
    for (std::size_t i = 0; i < motion->reps().size(); ++i) {
        const RepTruth& r = motion->reps()[i];
        json rep{{"start_s", r.startS}, {"bottom_s", r.bottomS}, {"end_s", r.endS}, {"dials", json::object()}};
        if (!spec.capture)
            for (const Dial& d : dials())
                if (const double v = spec.motion.reps[i].*d.value; v != clean.*d.value) rep["dials"][d.name] = v;
        out["reps"].push_back(rep);
    }
    const auto times = frameTimes(spec);
    for (std::size_t i = 0; i < times.size(); ++i) {
        const Skeleton s = motion->at(times[i]);
        auto place = [&](const Vec3& p) {
            double x = 0, y = 0;
            camera.project(p, x, y);
            return json{rounded(p.x()), rounded(p.y()), rounded(p.z()), rounded(x), rounded(y)};
        };
        static const char* const kPhase[] = {"top", "lowering", "bottom", "lifting"};
        json frame{{"t_s", times[i]},
                   {"phase", kPhase[static_cast<int>(s.phase)]},
                   {"rep", s.rep},
                   {"mid_hip", place(s.midHip)},
                   {"lumbar_low", place(s.lumbarLow)},
                   {"lumbar_high", place(s.lumbarHigh)},
                   {"mid_shoulder", place(s.midShoulder)},
                   {"head", place(s.headCentre)},
                   {"nose", place(s.nose)},
                   {"mass_centre", place(s.massCentre)}};
        for (int side = 0; side < 2; ++side) {
            const TrueAngles a = trueAngles(s, side);
            json& leg = frame[side == 0 ? "left" : "right"];
            leg = {{"knee_flexion", rounded(a.kneeFlexion)}, {"hip_flexion", rounded(a.hipFlexion)},
                   {"trunk_lean", rounded(a.trunkLean)},     {"shin_angle", rounded(a.shinAngle)},
                   {"thigh_angle", rounded(a.thighAngle)},   {"heel_rise", rounded(a.heelRiseCm)}};
            const std::pair<const char*, const std::array<Vec3, 2>*> joints[] = {
                {"hip", &s.hip}, {"knee", &s.knee},         {"ankle", &s.ankle}, {"heel", &s.heel},   {"ball", &s.ball},
                {"toe", &s.toe}, {"shoulder", &s.shoulder}, {"elbow", &s.elbow}, {"wrist", &s.wrist}, {"ear", &s.ear}};
            for (const auto& [name, pair] : joints) leg[name] = place((*pair)[side]);
        }
        for (const auto& [key, value] : frame[near ? "right" : "left"].items()) frame[key] = value;
        const TrueFront front = trueFront(s);
        frame["knee_separation"] = rounded(front.kneeSeparation);
        frame["stance_over_shoulders"] = rounded(front.stanceOverShoulders);
        frame["hip_tilt"] = rounded(front.hipTiltDeg);
        if (i < outlines.size()) {
            json line = json::array();
            for (const auto& [x, y] : outlines[i].points) line.push_back({x, y});
            frame["outline"] = line;
        }
        out["frames"].push_back(frame);
    }
    return out.dump();
}

}  // namespace zevo::sim

// bench_between: what happens between two sets. How soon a dragged point is measured and how long the window pauses,
// how soon the page to compare is there, how soon a client is found among many; and how often the ledger is right on
// virtual clients whose sets scatter by a known share (alone: --scatter [CLIENTS [RATIO]]), and who listen by a known
// share: on true landmarks with jitter, and (with --drawn) on drawn pictures read by the network. Absolute figures are
// of the machine at hand.
#include <QApplication>
#include <QElapsedTimer>
#include <QKeyEvent>
#include <QLineEdit>
#include <QMouseEvent>
#include <QTemporaryDir>
#include <QTimer>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <random>

#include "app/shell/main_window.h"
#include "bench/common.h"
#include "catalog/data_files.h"
#include "core/base/number_text.h"
#include "core/session/cue_ledger.h"
#include "pipeline/analyse_clip.h"
#include "sim/simulated_camera.h"

using namespace zevo;

namespace {

using Reps = std::vector<MeasuredRep>;

template <typename Ready>
void wait(Ready ready) {
    QTimer wakes;
    wakes.start(2);
    while (!ready()) QApplication::processEvents(QEventLoop::WaitForMoreEvents);
}

/// A client with two sets of a clip, measured.
void twoSets(const QString& folder, const std::shared_ptr<const Catalogue>& catalogue) {
    auto library = store::Library::open(folder);
    const auto client = library->addClient({{}, "Bench", 175, "", {}});
    for (int reps : {4, 5}) {
        record::ImportRequest request;
        request.libraryFolder = folder, request.clipPath = QString::fromStdString(bench::sideClip(reps));
        request.client = *client, request.catalogue = catalogue;
        request.facts.movement = "squat";
        if (auto done = record::importClip(request, false, {}); !done) std::exit(1);
    }
}

void dragging(app::MainWindow& window) {
    auto* review = window.review();
    window.actions().get("correct")->trigger();
    review->chooseRep(1);
    review->chooseMeasure("knee_flexion");
    wait([&] { return review->stage()->shownFrame() == review->stage()->frame() && review->stage()->hasPicture(); });
    auto* stage = review->stage();
    const QPointF from = stage->toWidget(stage->handles()[1].at);
    auto send = [&](QEvent::Type type, const QPointF& at, Qt::MouseButtons down) {
        QMouseEvent e(type, at, stage->mapToGlobal(at), Qt::LeftButton, down, Qt::NoModifier);
        QApplication::sendEvent(stage, &e);
    };
    send(QEvent::MouseButtonPress, from, Qt::LeftButton);
    std::vector<double> measured, drawn;
    QElapsedTimer beat;
    for (int i = 0; i < 120; ++i) {
        const QPointF at = from + QPointF(12 * std::sin(i * 0.2), 9 * std::cos(i * 0.2) - 9);
        beat.start();
        send(QEvent::MouseMove, at, Qt::LeftButton);
        drawn.push_back(static_cast<double>(beat.nsecsElapsed()) / 1e6);
        QApplication::processEvents();  // measures, and draws everything that follows
        measured.push_back(static_cast<double>(beat.nsecsElapsed()) / 1e6);
    }
    send(QEvent::MouseButtonRelease, from + QPointF(4, 4), Qt::NoButton);
    wait([&] { return !window.isWorking(); });
    std::sort(measured.begin(), measured.end()), std::sort(drawn.begin(), drawn.end());
    std::printf(
        "| a point dragged over a set of %zu frames, 120 moves | median ms | 95 %% | longest | wanted "
        "|\n|---|---|---|---|---|\n",
        stage->frameCount());
    std::printf("| the point is where the hand is | %.2f | %.2f | %.2f | |\n", drawn[60], drawn[114], drawn.back());
    std::printf("| measured, judged and everything drawn | %.1f | %.1f | %.1f | ≤ 40 (a frame), ≤ 50 (measured) |\n\n",
                measured[60], measured[114], measured.back());
    window.actions().get("correct")->trigger();
}

void comparing(app::MainWindow& window) {
    std::vector<double> took;
    for (int i = 0; i < 7; ++i) {
        const bench::Watch watch;
        window.actions().get("compare")->trigger();
        wait([&] {
            auto* page = window.compare();
            return window.currentView() == page && page->stage(false)->hasPicture() && page->stage(true)->hasPicture();
        });
        (void)window.grab();
        took.push_back(1000 * watch.seconds());
        window.backToSet();
    }
    std::sort(took.begin(), took.end());
    std::printf(
        "| the page to compare, with both pictures | median ms | longest | wanted |\n|---|---|---|---|\n| | %.0f | "
        "%.0f | ≤ 400 |\n\n",
        took[took.size() / 2], took.back());
}

void window(const std::shared_ptr<const Catalogue>& catalogue) {
    QTemporaryDir dir;
    twoSets(dir.path(), catalogue);
    auto library = store::Library::open(dir.path());
    const auto id = library->sets(library->clients()->front().id)->front().id;
    app::MainWindow window(std::move(*library));
    window.show();
    window.openSet(id);
    wait([&] { return !window.isWorking() && window.currentView() == window.review(); });
    dragging(window);
    comparing(window);
}

void manyClients() {
    QTemporaryDir dir;
    auto library = store::Library::open(dir.path());
    store::NewSet set;
    Observation o;
    o.poses.resize(3);
    o.clip = {3, 0.1, 640, 360, 0};
    set.seen = {{{{}, "h", "/videos/a.mp4", 1}, std::make_shared<const Observation>(o)}};
    set.edits = {FactsSet{}};
    set.outcome.movement = "squat", set.outcome.standard = "whole-foot", set.outcome.engine = kEngine,
    set.outcome.reps = 5;
    const char* found[] = {"Clean", "Heels leave the floor", "Knees drift in", "Stops short"};
    std::vector<store::ClientId> clients;
    for (int i = 0; i < 300; ++i) {
        store::Client c{{}, QString("Client %1 of Larkmoor").arg(i), 160.0 + i % 30, "", {}};
        c.goals = i % 7 ? "stairs" : "carry a sill alone";
        clients.push_back(*library->addClient(c));
    }
    for (int i = 0; i < 5000; ++i) {
        set.client = clients[static_cast<std::size_t>(i * 7 % 300)];
        set.heldOn = QDate(2025, 1, 1).addDays(i / 12);
        set.seen[0].clip.sha256 = QByteArray::number(i);
        set.outcome.headline = found[i % 4];
        (void)*library->addSet(set);
    }
    auto best = [](auto work) {
        std::vector<double> ms;
        for (int i = 0; i < 9; ++i) {
            const bench::Watch watch;
            work();
            ms.push_back(1000 * watch.seconds());
        }
        return bench::middle(ms);
    };
    const double all = best([&] { (void)library->findClients(""); });
    const double some = best([&] { (void)library->findClients("sill knees"); });
    const double none = best([&] { (void)library->findClients("nobody of that name"); });
    app::MainWindow window(std::move(*library));
    window.show();
    const double drawn = best([&] {
        window.home()->refresh();
        (void)window.grab();
    });
    const double typed = best([&] {
        window.home()->searchBox()->setText("sill");
        (void)window.grab();
        window.home()->searchBox()->clear();
    });
    std::printf("| 300 clients, 5,000 sets | median ms | wanted |\n|---|---|---|\n");
    std::printf("| all clients, whom one saw last first | %.1f | ≤ 100 |\n| found by two words | %.1f | ≤ 100 |\n", all,
                some);
    std::printf(
        "| nobody found | %.1f | ≤ 100 |\n| the list read and drawn | %.0f | ≤ 100 |\n| a word typed, and taken out "
        "again | %.0f | ≤ 100 |\n\n",
        none, drawn, typed);
}

/// What one fault, dialled up and taken back by a share, is measured by, and how a set of it comes about.
struct Trial {
    const char* fault;
    const char* measure;
    bool front;
};
constexpr Trial kTrials[] = {{"heels_rise", "heel_rise", false},
                             {"depth_short", "thigh_angle", false},
                             {"knees_cave", "knee_inside_left", true}};

/// Nobody does the same repetition twice: sizes scatter by a tenth of the dial's way, whatever is left of the fault.
sim::ClipSpec specOf(const Trial& t, double size, unsigned seed, int reps) {
    sim::ClientDials d;
    d.fault = t.fault, d.front = t.front, d.size = size, d.reps = reps, d.look = seed;
    d.width = 960, d.height = 540;
    sim::ClipSpec spec = sim::setOf(d);
    std::mt19937 random(seed);
    std::normal_distribution<double> own(0, 1);
    for (auto& r : spec.motion.reps) {
        r.thighBottomDeg += 1.2 * own(random);
        if (r.heelRiseCm > 0) r.heelRiseCm = std::max(0.0, r.heelRiseCm + 0.4 * own(random));
        if (r.kneeInLeftCm > 0) r.kneeInLeftCm += 0.5 * own(random);
        if (r.kneeInRightCm > 0) r.kneeInRightCm += 0.5 * own(random);
    }
    return spec;
}

struct Counts {
    int large = 0, right = 0, wrong = 0, unchanged = 0, quiet = 0, small = 0, smallRight = 0, smallWrong = 0, open = 0;
};

double scatter(const Reps& reps, MeasureId m) {
    double mean = 0, sum = 0;
    int n = 0;
    for (const auto& r : reps)
        if (const auto* v = r.find(m)) mean += v->value, ++n;
    if (n < 2) return 0;
    mean /= n;
    for (const auto& r : reps)
        if (const auto* v = r.find(m)) sum += (v->value - mean) * (v->value - mean);
    return std::sqrt(sum / (n - 1));
}

constexpr double kSize = 0.8;  ///< of the fault before the cue

Reps measuredFrom(const sim::ClipSpec& spec, const PoseFrames& poses) {
    SetContext context;
    context.context.statureCm = spec.motion.body.statureCm;
    context.movement = *catalog::loadMovement("squat");
    ClipFacts facts;
    facts.width = spec.scene.camera.width, facts.height = spec.scene.camera.height;
    const auto set = measureSet(poses, facts, context);
    return set ? set->result.reps : Reps();
}

double truth(const Trial& t, double size, MeasureId measure) {
    sim::ClientDials d;
    d.fault = t.fault, d.front = t.front, d.size = size, d.reps = 3;
    d.width = 960, d.height = 540;
    const sim::ClipSpec spec = sim::setOf(d);
    std::vector<double> values;
    for (const auto& r : measuredFrom(spec, sim::truePoses(spec)))
        if (const auto* m = r.find(measure)) values.push_back(m->value);
    return values.empty() ? 0 : bench::middle(values);
}

/// Goes through clients and shares. `measure`: from a spec to repetitions; `truth`: the same without any noise.
template <typename Measured>
void verdicts(const char* title, const Catalogue& catalogue, int clients, Measured measured) {
    std::printf(
        "| %s | true change over six times the noise | right side | wrong side | nothing changed | said so | smaller "
        "changes | right side | wrong side | cannot say |\n|---|---|---|---|---|---|---|---|---|---|\n",
        title);
    const Standard standard = *standardFor(fold({FactsSet{}, StandardChosen{"whole-foot"}}), catalogue);
    Counts all;
    for (const Trial& t : kTrials) {
        Counts c;
        for (int client = 0; client < clients; ++client) {
            const unsigned seed = 77U + 13U * static_cast<unsigned>(client);
            const auto before = measured(specOf(t, kSize, seed, 5), seed);
            for (double listens : {0.0, 0.3, 0.6, 1.0}) {
                const unsigned later = seed + 1000U + static_cast<unsigned>(100 * listens);
                const auto after = measured(specOf(t, sim::afterCue(kSize, listens), later, 5), later);
                const CueAnswer a = answerTo({t.fault, "as it stands on the card"}, {before}, after, {}, standard);
                if (a.effect == CueEffect::CannotSay) {
                    ++c.open;
                    continue;
                }
                // What the dial's share comes to in the measure, without scatter and jitter.
                const double noise = std::max(scatter(before, a.measure), scatter(after, a.measure));
                const bool worked = a.effect == CueEffect::Worked, worse = a.effect == CueEffect::Worse;
                if (listens == 0) {
                    ++c.unchanged, c.quiet += !worked && !worse;
                } else if (std::abs(truth(t, sim::afterCue(kSize, listens), a.measure) - truth(t, kSize, a.measure)) >
                           6 * noise) {
                    ++c.large, c.right += worked, c.wrong += worse;
                } else {
                    ++c.small, c.smallRight += worked, c.smallWrong += worse;
                }
            }
        }
        std::printf("| %s | %d | %d | %d | %d | %d | %d | %d | %d | %d |\n", t.fault, c.large, c.right, c.wrong,
                    c.unchanged, c.quiet, c.small, c.smallRight, c.smallWrong, c.open);
        std::fflush(stdout);
        all.large += c.large, all.right += c.right, all.wrong += c.wrong, all.unchanged += c.unchanged,
            all.quiet += c.quiet;
        all.small += c.small, all.smallRight += c.smallRight, all.smallWrong += c.smallWrong, all.open += c.open;
    }
    std::printf("| all | %d | %d (%.0f %%) | %d | %d | %d (%.0f %%) | %d | %d | %d | %d |\n\n", all.large, all.right,
                100.0 * all.right / std::max(1, all.large), all.wrong, all.unchanged, all.quiet,
                100.0 * all.quiet / std::max(1, all.unchanged), all.small, all.smallRight, all.smallWrong, all.open);
}

Reps onLandmarks(const sim::ClipSpec& spec, unsigned seed) {
    auto poses = sim::truePoses(spec);
    std::mt19937 random(seed);
    std::normal_distribution<float> jitter(0, 1.2F);
    for (auto& f : poses)
        for (auto& p : f.points) p.x += jitter(random), p.y += jitter(random);
    return measuredFrom(spec, poses);
}

Reps onPictures(const sim::ClipSpec& spec, unsigned seed) {
    const auto path =
        (std::filesystem::temp_directory_path() / ("zevo-bench-cue-" + std::to_string(seed) + ".mkv")).string();
    if (!sim::drawLiveClip(spec, path)) return {};
    SetContext context;
    context.context.statureCm = spec.motion.body.statureCm;
    context.movement = *catalog::loadMovement("squat");
    pipeline::AnalyseOptions options;
    options.modelDir = catalog::modelDir();
    const auto clip = pipeline::analyseClip(path, context, options, false);
    std::filesystem::remove(path);
    return clip ? clip->set.result.reps : Reps();
}

/// Sets that differ by a planted share of what their repetitions differ by: how often a change is seen where there is
/// none (also when the coach speaks up after the first set that went badly), and how often where there is one.
void plantedScatter(const Catalogue& catalogue, int clients, std::optional<double> only = {}) {
    const Standard standard = *standardFor(fold({FactsSet{}, StandardChosen{"whole-foot"}}), catalogue);
    struct Planted {
        const char* fault;
        const char* measure;
        void (*add)(sim::RepSpec&, double);
    };
    const Planted planted[] = {
        {"depth_short", "thigh_angle", [](sim::RepSpec& r, double by) { r.thighBottomDeg += by; }},
        {"heels_rise", "heel_rise",
         [](sim::RepSpec& r, double by) { r.heelRiseCm = std::max(0.0, r.heelRiseCm + by); }}};
    std::printf(
        "| sets scatter by, of their reps | sets before | seen where nothing changed | after a bad set | a change of 2 "
        "| "
        "4 | 8 scatters of a rep |\n|---|---|---|---|---|---|---|\n");
    for (double ratio : {0.0, 0.3, 0.5, 1.0})
        for (int earlier : {1, 4}) {
            if (only && *only != ratio) continue;
            constexpr int kForPower = 40;  // clients; the rare false ones need more
            int trials = 0, larger = 0, seen[5] = {};
            for (const Planted& p : planted) {
                const MeasureId measure = MeasureId::named(p.measure);
                const Trial t{p.fault, p.measure, false};
                unsigned seed = 900000;
                auto set = [&](double by) {
                    ++seed;
                    auto spec = specOf(t, kSize, seed, 5);
                    for (auto& r : spec.motion.reps) p.add(r, by);
                    return onLandmarks(spec, seed);
                };
                // What repetitions differ by, as measured.
                double variance = 0;
                constexpr int kProbes = 20;
                for (int i = 0; i < kProbes; ++i) variance += std::pow(scatter(set(0), measure), 2) / kProbes;
                const double within = std::sqrt(variance);
                std::mt19937 random(5U + static_cast<unsigned>(100 * ratio));
                std::normal_distribution<double> own(0, 1);
                auto drawn = [&](double change) { return set(change * within + ratio * within * own(random)); };
                auto mean = [&](const Reps& reps) {
                    double sum = 0;
                    for (const auto& r : reps)
                        if (const auto* m = r.find(measure)) sum += m->value;
                    return sum / static_cast<double>(std::max<std::size_t>(1, reps.size()));
                };
                double usual = 0;
                for (int i = 0; i < kProbes; ++i) usual += mean(set(0)) / kProbes;
                for (int client = 0; client < clients; ++client) {
                    std::vector<RepsOfSet> before;
                    for (int i = 0; i < earlier; ++i) before.push_back(drawn(0));
                    auto isSeen = [&](const std::vector<RepsOfSet>& sets, double change) {
                        const auto a = answerTo({p.fault, ""}, sets, drawn(change), {sets}, standard);
                        return a.effect == CueEffect::Worked || a.effect == CueEffect::Worse;
                    };
                    ++trials;
                    seen[0] += isSeen(before, 0);
                    std::vector<RepsOfSet> bad = before;
                    for (int i = 0; i < 8 && mean(bad.back()) < usual + within * std::sqrt(ratio * ratio + 0.2); ++i)
                        bad.push_back(drawn(0));
                    if (bad.size() > 6) bad.erase(bad.begin(), bad.end() - 6);
                    seen[1] += isSeen(bad, 0);
                    if (client >= kForPower) continue;
                    ++larger;
                    int at = 2;
                    for (double change : {2.0, 4.0, 8.0}) seen[at++] += isSeen(before, -change);
                }
            }
            auto share = [&](int at) { return 100.0 * seen[at] / (at < 2 ? trials : larger); };
            std::printf("| %.1f | %d | %.1f %% of %d | %.1f %% | %.0f %% | %.0f %% | %.0f %% |\n", ratio, earlier,
                        share(0), trials, share(1), share(2), share(3), share(4));
            std::fflush(stdout);
        }
    std::printf("\n");
}

}  // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    app::installFonts();
    const auto read = catalog::loadCatalogue();
    if (!read) return 1;
    const auto catalogue = std::make_shared<const Catalogue>(*read);
    const bool drawn = argc > 1 && std::strcmp(argv[1], "--drawn") == 0;
    if (drawn) {
        verdicts("virtual clients, drawn and read by the network", *catalogue, argc > 2 ? std::atoi(argv[2]) : 4,
                 onPictures);
        return 0;
    }
    if (argc > 1 && std::strcmp(argv[1], "--verdicts") == 0) {
        verdicts("virtual clients, true landmarks with jitter", *catalogue, 25, onLandmarks);
        return 0;
    }
    const bool scatterOnly = argc > 1 && std::strcmp(argv[1], "--scatter") == 0;
    if (scatterOnly) {
        plantedScatter(*catalogue, argc > 2 ? std::atoi(argv[2]) : 60,
                       argc > 3 ? numberFrom(argv[3]) : std::optional<double>());
        return 0;
    }
    window(catalogue);
    manyClients();
    plantedScatter(*catalogue, 60);
    verdicts("virtual clients, true landmarks with jitter", *catalogue, 25, onLandmarks);
    return 0;
}

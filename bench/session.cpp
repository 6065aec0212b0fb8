// bench_session: what an edit, another judgement, opening a set, long lists and two jobs at once cost. Ratios come from
// one run; absolute figures are of the machine at hand.
#include <QApplication>
#include <QElapsedTimer>
#include <QTemporaryDir>
#include <QTimer>
#include <cstdio>
#include <cstring>

#include "app/shell/main_window.h"
#include "bench/common.h"
#include "catalog/data_files.h"
#include "core/reps/alignment.h"
#include "store/library.h"

using namespace zevo;

namespace {

template <typename Work>
double best(int times, Work work) {
    std::vector<double> ms;
    for (int i = 0; i < times; ++i) {
        const bench::Watch watch;
        work();
        ms.push_back(1000 * watch.seconds());
    }
    return bench::middle(ms);
}

/// A minute of squats at 30 frames a second, as perfect poses.
sim::ClipSpec minute() {
    sim::ClipSpec spec;
    spec.motion.reps.resize(11);
    return spec;
}

std::shared_ptr<const Observation> observed(const sim::ClipSpec& spec) {
    Observation o;
    o.poses = sim::truePoses(spec);
    o.clip = {static_cast<long>(o.poses.size()), o.poses.back().timeS, spec.scene.camera.width,
              spec.scene.camera.height, 0};
    return std::make_shared<const Observation>(std::move(o));
}

void edits(const Catalogue& catalogue) {
    const auto spec = minute();
    const Observations seen{observed(spec)};
    SetFacts facts;
    facts.statureCm = spec.motion.body.statureCm;
    const Edits plain{FactsSet{facts}, StandardChosen{"whole-foot"}};
    const auto before = recompute(seen, plain, catalogue);
    if (!before) std::exit(1);
    const double at = before->set.result.reps[3].bottomS;
    const Edits moved = with(plain, PointPlaced{false, {at, Landmark::RightKnee, 640, 400, 0.3}});
    const double whole = best(9, [&] { (void)recompute(seen, plain, catalogue); });
    const double point = best(9, [&] { (void)recompute(seen, moved, catalogue, &*before); });
    const Edits judged = with(plain, StandardChosen{"upright"});
    const double standard = best(25, [&] { (void)recompute(seen, judged, catalogue, &*before); });
    std::printf("| %.0f s, %zu frames, %zu reps | ms | wanted |\n|---|---|---|\n", seen[0]->clip.durationS,
                seen[0]->poses.size(), before->set.result.reps.size());
    std::printf("| measuring the set whole, from its poses | %.1f | |\n", whole);
    std::printf("| after one moved landmark | %.1f | ≤ 50 |\n", point);
    std::printf("| by another standard | %.2f | ≤ 5 |\n", standard);
    std::printf("\none moved landmark ÷ whole = %.2f (wanted: at most 0.2)\n\n", point / whole);
}

void theRecord(const std::shared_ptr<const Catalogue>& catalogue) {
    QTemporaryDir dir;
    auto library = store::Library::open(dir.path());
    const auto client = library->addClient({{}, "Bench", 175, "", {}});
    auto spec = minute();
    Observation o = *observed(spec);
    for (int i = 0; i < 11; ++i) {
        Outline line{static_cast<double>(i), {}};
        for (int k = 0; k < 300; ++k) line.points.emplace_back(static_cast<float>(k), static_cast<float>(k));
        o.outlines.push_back(line);
    }
    store::NewSet set;
    set.client = *client;
    set.seen = {{{{}, "h", "/videos/a.mp4", 1}, std::make_shared<const Observation>(o)}};
    SetFacts facts;
    facts.statureCm = 175;
    set.edits = {FactsSet{facts}, StandardChosen{"whole-foot"}};
    const auto state = recompute({set.seen[0].observation}, set.edits, *catalogue);
    set.outcome = record::outcomeOf(*state, kEngine, catalogue);
    store::SetId first{};
    for (int i = 0; i < 5000; ++i) {
        set.heldOn = QDate(2026, 1, 1).addDays(i / 3);
        set.seen[0].clip.sha256 = QByteArray::number(i);
        first = *library->addSet(set);
    }
    const double open = best(7, [&] { (void)record::openSet(dir.path(), first, catalogue); });
    // An edit of a set of a minute: what the window does of it, and all of it.
    const auto stored = library->loadSet(first);
    Edits edits = stored->edits;
    record::KnownSet known = record::KnownSet::of(*stored);
    record::SetWriter writer(dir.path());
    writer.know(known);
    int word = 0;
    auto change = [&] {
        record::SetChange made{edits, with(edits, NotePinned{false, 0.1 * ++word, "word"}), stored->seen};
        made.outcome = record::outcomeOf(*state, kEngine, catalogue);
        edits = made.to;
        return made;
    };
    const double handed = best(7, [&] { writer.commit(first, change(), catalogue, "bench", {}); });
    writer.flush();
    known = record::KnownSet::of(*library->loadSet(first));
    const double committed = best(7, [&] {
        auto kept = record::SetKeeper(*library, catalogue, "bench").commit(known, change());
        if (!kept) std::exit(1);
        known = kept->known;
    });
    const double list = best(7, [&] { (void)library->sets(*client); });
    app::MainWindow window(std::move(*library));
    window.show();
    const double shown = best(5, [&] {
        window.home()->refresh();
        (void)window.grab();
    });
    const double history = best(7, [&] {
        auto again = store::Library::open(dir.path());
        (void)again->history(*client, "thigh_angle");
    });
    std::printf("| record of 5,000 sets of a minute | ms | wanted |\n|---|---|---|\n");
    std::printf("| opening a stored set, measured again in memory | %.0f | ≤ 300 |\n", open);
    std::printf("| commit of an edit: in the window's thread | %.1f | ≤ 20 |\n", handed);
    std::printf("| commit of an edit: all of it, on the writer's | %.1f | |\n", committed);
    std::printf("| list of 5,000 sets, read | %.1f | |\n", list);
    std::printf("| list of 5,000 sets, read and drawn in the window | %.0f | ≤ 100 |\n", shown);
    std::printf("| one measure over all of them | %.0f | |\n\n", history);
}

void alignment() {
    auto course = [](double seconds, double laterS, std::vector<double>& times) {
        std::vector<double> out;
        for (double t = 0; t < seconds; t += 1 / 30.0) {
            times.push_back(t);
            out.push_back(std::sin(1.7 * (t + laterS)) * std::sin(0.11 * (t + laterS)));
        }
        return out;
    };
    auto took = [&](double seconds) {
        std::vector<double> ta, tb;
        const auto a = course(seconds, 0, ta), b = course(seconds, 2.5, tb);
        return best(3, [&] { (void)alignCourses({ta, a}, {tb, b}); });
    };
    const double brief = took(60), length = took(600);
    std::printf("two clips lined up: 1 minute %.0f ms, 10 minutes %.0f ms, ratio %.1f (quadratic would be 100)\n\n",
                brief, length, length / brief);
}

void awake() {
    QTemporaryDir dir;
    const QString a = QString::fromStdString(bench::sideClip(4)), b = dir.filePath("b.mp4");
    QFile::copy(a, b);
    auto library = store::Library::open(dir.path());
    (void)library->addClient({{}, "Bench", 175, "", {}});
    app::MainWindow window(std::move(*library));
    window.show();
    QElapsedTimer beat;
    qint64 longest = 0;
    QTimer clock;
    QObject::connect(&clock, &QTimer::timeout, &window, [&] { longest = std::max(longest, beat.restart()); });
    window.openClip(a);
    window.openClip(b);
    beat.start();
    clock.start(2);
    bool shown = false;
    while (window.isWorking()) {
        QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        // The first one that is ready is opened while the other is still being measured.
        if (!shown && window.strip()->hasReady()) window.showReady(), shown = true;
    }
    std::printf(
        "longest pause of the window while two clips are measured and one is opened: %lld ms (wanted: at most "
        "50)\n",
        longest);
}

/// A first start of the demo, beside nothing: the window is up, then its first set, then all of the crew.
void theDemo() {
    QTemporaryDir dir;
    auto library = store::Library::open(dir.path());
    app::MainWindow window(std::move(*library));
    window.show();
    const bench::Watch watch;
    QElapsedTimer beat;
    qint64 longest = 0;
    QTimer clock;
    QObject::connect(&clock, &QTimer::timeout, &window, [&] { longest = std::max(longest, beat.restart()); });
    window.openDemo();
    beat.start();
    clock.start(2);
    double first = 0;
    while (window.isWorking()) {
        QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        const bool shown = window.currentView() == window.review() && window.review()->stage()->hasPicture();
        if (first == 0 && shown) first = watch.seconds();
    }
    std::printf("| the demo, started for the first time | s | wanted |\n|---|---|---|\n");
    std::printf("| its first set on the screen, with its picture | %.1f | ≤ 3 |\n", first);
    std::printf("| all of the crew | %.1f | ≤ 10 |\n", watch.seconds());
    std::printf("| longest pause of the window meanwhile, ms | %lld | ≤ 50 |\n\n", longest);
}

}  // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    app::installFonts();
    const auto read = catalog::loadCatalogue();
    if (!read) return 1;
    const auto catalogue = std::make_shared<const Catalogue>(*read);
    theDemo();
    if (argc > 1 && std::strcmp(argv[1], "--pause") == 0) {  // only what the window's pauses need
        awake();
        return 0;
    }
    edits(*catalogue);
    theRecord(catalogue);
    alignment();
    awake();
    return 0;
}

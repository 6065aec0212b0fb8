// Commands that make clips, and the one that lists what they may show.
#include <QDir>
#include <QFileInfo>
#include <cstdio>
#include <filesystem>

#include "catalog/data_files.h"
#include "cli/command.h"
#include "pipeline/demo_maker.h"
#include "record/demo_sets.h"
#include "sim/clip_maker.h"

namespace zevo::cli {
namespace {

int simulate(const QCommandLineParser& call, const QStringList& plain, const std::atomic<bool>& cancel) {
    if (!plain.isEmpty() || !call.isSet("spec") || !call.isSet("out"))
        return usage("simulate needs --spec and --out.", "simulate");
    const auto text = catalog::readTextFile(call.value("spec").toStdString());
    if (!text) return usage(text.error(), "simulate");
    const auto spec = sim::clipSpecFromJson(*text);
    if (!spec) return usage(spec.error(), "simulate");
    const std::filesystem::path dir = call.value("out").toStdString();
    std::error_code problem;
    std::filesystem::create_directories(dir, problem);
    if (problem) return usage("The folder cannot be made: " + QString::fromStdString(problem.message()), "simulate");
    std::vector<Outline> outlines;
    const auto goOn = [&](long, long) { return !cancel; };
    if (auto made = sim::makeClip(*spec, (dir / "clip.mp4").string(), goOn, &outlines); !made)
        return refuse(made.error());
    if (auto wrote = catalog::writeTextFile((dir / "truth.json").string(), sim::truthJson(*spec, outlines)); !wrote)
        return refuse(wrote.error());
    return kDone;
}

int movements(const QCommandLineParser&, const QStringList&, const std::atomic<bool>&) {
    for (const auto& id : catalog::movementIds()) {
        const auto m = catalog::loadMovement(id);
        if (!m) return refuse(m.error());
        std::printf("%-18s %s\n  standards: ", id.c_str(), m->title.c_str());
        for (const auto& s : m->standards) std::printf(" %s", s.c_str());
        std::printf("\n  variations:");
        for (const auto& v : m->variations) std::printf(" %s", v.id.c_str());
        std::printf("\n");
    }
    return kDone;
}

/// Clips named with the sum of their spec, as the window looks for them, and what is seen in them; those there already,
/// measured by this engine, are left.
int demoClips(const QCommandLineParser& call, const QStringList& plain, const std::atomic<bool>& cancel) {
    if (!plain.isEmpty() || !call.isSet("out")) return usage("demo-clips needs --out.", "demo-clips");
    const auto demo = pipeline::loadDemo();
    if (!demo) return refuse(demo.error());
    const QString folder = call.value("out");
    const std::filesystem::path dir = folder.toStdString();
    for (const auto& set : *demo)
        for (const auto& [name, spec] : {std::pair(set.clipName, set.specJson), {set.frontName, set.frontSpecJson}}) {
            if (name.empty()) continue;
            const auto path = dir / pipeline::shippedName(name, spec);
            if (std::filesystem::exists(path)) continue;
            if (auto made = pipeline::makeDemoClip(spec, path.string(), cancel); !made) return refuse(made.error());
            std::filesystem::remove(path.string() + ".truth.json");
            std::printf("%s\n", path.filename().c_str());
        }
    const auto catalogue = catalog::loadCatalogue();
    if (!catalogue) return refuse(catalogue.error());
    const auto shared = std::make_shared<const Catalogue>(*catalogue);
    for (const auto& set : *demo) {
        if (record::readShippedSet(QDir(folder).filePath(record::shippedSetName(set)))) continue;
        const auto file = record::shipDemoSet(folder, set, shared, cancel);
        if (!file) return refuse(file.error());
        std::printf("%s\n", qPrintable(QFileInfo(*file).fileName()));
        std::fflush(stdout);
    }
    return kDone;
}

}  // namespace

Command simulateCommand() {
    return {"simulate",
            "--spec FILE --out DIR",
            "Makes a clip of a virtual client (clip.mp4) and its truth (truth.json).",
            {{"spec", "What the clip shows (docs/formats.md).", "file"}, {"out", "Where to.", "folder"}},
            &simulate};
}

Command movementsCommand() {
    return {"movements", "", "Lists movements, their standards and variations.", {}, &movements};
}

Command demoClipsCommand() {
    return {"demo-clips",
            "--out DIR",
            "Draws the clips of the demo that are not in a folder, and measures them there.",
            {{"out", "Where to.", "folder"}},
            &demoClips};
}

}  // namespace zevo::cli

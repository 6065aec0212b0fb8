// zevo-cli: the same analysis without a window. Exit codes: 0 result, 2 bad usage, 3 the clip cannot be judged.
#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <algorithm>
#include <atomic>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include "catalog/data_files.h"
#include "cli/library_command.h"
#include "core/base/number_text.h"
#include "core/serial/result_json.h"
#include "pipeline/analyse_clip.h"
#include "pipeline/demo_maker.h"
#include "present/words.h"
#include "record/demo_sets.h"
#include "sim/clip_maker.h"

namespace {

using namespace zevo;

constexpr int kUsage = 2, kCannotJudge = 3;
std::atomic<bool> g_cancel{false};  // set by Ctrl-C

const char* const kHelp =
    "zevo-cli analyse CLIP [--movement squat] [--variation NAME] [--standard NAME|FILE.json] [--stature CM]\n"
    "                 [--front CLIP [--apart yes] [--nudge SECONDS]] [--view auto|side|front|rear|oblique|foot-end]\n"
    "                 [--load KG --weight KG] [--ankle DEGREES] [--wedge DEGREES] [--tempo DOWN-PAUSE-UP]\n"
    "                 [--shirt tight|loose]\n"
    "                 [--mark POINT@SECONDS,X,Y[;…]] [--nearer CM]\n"
    "                 [--stood-straight yes]\n"
    "                 [--pain 0-10] [--red-flag NAME] [--model lite|full|heavy] [--out FILE]\n"
    "zevo-cli simulate --spec FILE --out DIR\n"
    "zevo-cli movements\n"
    "zevo-cli demo-clips --out DIR\n"
    "\n"
    "analyse measures a set and writes the result (docs/formats.md) to FILE or standard output. --front adds a second\n"
    "view of the same set, filmed at the same time, or with --apart yes one after the other.\n"
    "--mark follows a point from where it is clicked (picture pixels of the first clip): bar_end bell stick_top "
    "stick_low\n"
    "back_high back_low from the side, hip_left hip_right knee_left knee_right from the front; --nearer: how much "
    "nearer to\n"
    "the camera than the client's middle a bar's end is.\n"
    "simulate makes a clip of a virtual client (clip.mp4) and its truth (truth.json) in DIR.\n"
    "movements lists movements, variations and standards. demo-clips draws the clips of the demo that are not in DIR,\n"
    "and measures them there.\n"
    "Exit code 0: done; 2: bad usage; 3: the clip cannot be judged (one sentence says why).\n";

int usage(const std::string& problem) {
    std::fprintf(stderr, "%s\n%s%s", problem.c_str(), kHelp, cli::kLibraryHelp);
    return kUsage;
}

struct Arguments {
    std::vector<std::string> plain;
    std::map<std::string, std::string> options;
    std::string problem;
};

Arguments parse(int argc, char** argv, const std::vector<std::string>& known) {
    Arguments out;
    for (int i = 2; i < argc; ++i) {
        const std::string a = argv[i];
        if (a.rfind("--", 0) != 0) {
            out.plain.push_back(a);
            continue;
        }
        if (std::find(known.begin(), known.end(), a) == known.end())
            out.problem = "There is no option " + a + ".";
        else if (i + 1 >= argc)
            out.problem = "The option " + a + " needs a value.";
        else
            out.options[a] = argv[++i];
        if (!out.problem.empty()) break;
    }
    return out;
}

std::string words(const Error& error) {
    return present::sentence(error).toStdString();
}

int cannotJudge(const Error& error) {
    std::fprintf(stderr, "%s\n", qPrintable(present::sentence(error)));
    return kCannotJudge;
}

/// The options of analyse, read and checked.
class AnalyseCall {
  public:
    explicit AnalyseCall(std::map<std::string, std::string> options) : m_options(std::move(options)) {}

    std::string text(const char* option, const std::string& fallback = {}) const {
        const auto found = m_options.find(option);
        return found == m_options.end() ? fallback : found->second;
    }
    bool has(const char* option) const { return m_options.count(option) > 0; }

    /// A number between two bounds; 0 when it is not given.
    Result<double> number(const char* option, double from, double to, const std::string& what) const {
        if (!has(option)) return 0.0;
        const std::string value = text(option);
        const auto v = numberFrom(value);
        if (!v || !(*v >= from && *v <= to))
            return Error{what + " between " + std::to_string(static_cast<int>(from)) + " and " +
                             std::to_string(static_cast<int>(to)) + ".",
                         option};
        return *v;
    }

    Result<std::vector<Mark>> marks() const {
        const auto nearer =
            number("--nearer", 0, 150, "How much nearer the bar's end is must be a number of centimetres");
        if (!nearer) return nearer.error();
        return marksFromText(text("--mark"), has("--nearer") ? std::optional(*nearer) : std::nullopt);
    }

    Result<SetContext> context() const {
        SetContext c;
        auto movement = catalog::loadMovement(text("--movement", "squat"));
        if (!movement) return movement.error();
        c.movement = std::move(*movement);
        c.variation = text("--variation");
        if (!c.variation.empty() && !c.movement.variation(c.variation)) {
            std::string known;
            for (const auto& v : c.movement.variations) known += (known.empty() ? "" : ", ") + v.id;
            return Error{
                "The movement “" + c.movement.id + "” has no variation “" + c.variation + "”. Known: " + known + ".",
                c.variation};
        }
        const auto stature = text("--stature") == "0"
                                 ? Result<double>(0.0)
                                 : number("--stature", 80, 250, "The stature must be a number of centimetres");
        const auto load = number("--load", 0, 500, "The load must be a number of kilograms");
        const auto weight = number("--weight", 20, 300, "The weight must be a number of kilograms");
        const auto ankle = number("--ankle", 0, 70, "The ankle bend must be a number of degrees");
        const auto wedge = number("--wedge", 0, 30, "The wedge must be a number of degrees");
        const auto pain = number("--pain", 0, 10, "The pain must be a number");
        for (const auto* n : {&stature, &load, &weight, &ankle, &wedge, &pain})
            if (!*n) return n->error();
        c.context.statureCm = *stature;
        if (has("--load") && !has("--weight"))
            return Error{"The load is weighed against the client: give --weight as well.", "--weight"};
        if (*weight > 0) c.loadShare = *load / *weight;
        if (has("--ankle")) c.ankleLimitDeg = *ankle;
        c.wedgeDeg = *wedge;
        const std::string stood = text("--stood-straight", "no");
        if (stood != "yes" && stood != "no") return Error{"Whether the client stood straight is yes or no.", stood};
        c.stoodStraight = stood == "yes";
        const std::string shirt = text("--shirt");
        if (!shirt.empty() && shirt != "tight" && shirt != "loose")
            return Error{"The shirt is “tight” (or tucked in) or “loose”.", shirt};
        if (!shirt.empty()) c.shirt = shirt == "tight" ? Shirt::Tight : Shirt::Loose;
        if (has("--tempo")) {
            const auto tempo = parseTempo(text("--tempo"));
            if (!tempo) return tempo.error();
            c.tempo = *tempo;
        }
        if (has("--pain")) c.pain.after = static_cast<int>(*pain);
        if (has("--red-flag")) {
            std::string known;
            bool found = false;
            for (const auto& f : redFlags()) {
                found |= text("--red-flag") == f.id;
                known += (known.empty() ? "" : ", ") + std::string(f.id);
            }
            if (!found) return Error{"The red flag must be one of " + known + ".", "--red-flag"};
            c.pain.redFlags.push_back(text("--red-flag"));
        }
        c.context.view = text("--view", "auto");
        static const std::vector<std::string> views{"auto", "side", "front", "rear", "oblique", "foot-end"};
        if (std::find(views.begin(), views.end(), c.context.view) == views.end())
            return Error{"The view must be auto, side, front, rear, oblique or foot-end.", c.context.view};
        return c;
    }

  private:
    std::map<std::string, std::string> m_options;
};

int analyse(int argc, char** argv) {
    auto args = parse(argc, argv, {"--movement", "--variation", "--standard",       "--stature", "--view",  "--model",
                                   "--out",      "--front",     "--apart",          "--nudge",   "--load",  "--weight",
                                   "--ankle",    "--wedge",     "--stood-straight", "--tempo",   "--shirt", "--mark",
                                   "--nearer",   "--pain",      "--red-flag"});
    if (!args.problem.empty()) return usage(args.problem);
    if (args.plain.size() != 1) return usage("Name one clip.");
    const AnalyseCall call(args.options);
    const auto context = call.context();
    if (!context) return usage(words(context.error()));
    const auto standard = catalog::loadStandard(call.text("--standard", context->movement.standards.front()));
    if (!standard) return usage(words(standard.error()));
    if (!judges(*standard, context->movement))
        return usage("The standard “" + standard->id + "” is for " + standard->movement + ", not for " +
                     context->movement.id + ".");
    const auto model = pose::modelSizeFromName(call.text("--model", "full"));
    if (!model) return usage(words(model.error()));
    const auto nudge = call.number("--nudge", -60, 60, "The nudge must be a number of seconds");
    if (!nudge) return usage(words(nudge.error()));
    const auto advice = catalog::loadAdvice();
    if (!advice) return usage(words(advice.error()));

    pipeline::AnalyseOptions options;
    options.modelDir = catalog::modelDir();
    options.model = *model;
    options.back = context->shirt != Shirt::NotSaid;
    const auto marks = call.marks();
    if (!marks) return usage(words(marks.error()));
    options.marks = *marks;
    auto analysed = pipeline::analyseClip(args.plain[0], *context, options, g_cancel);
    if (!analysed) return cannotJudge(analysed.error());
    if (call.has("--front")) {
        const bool sameTake = call.text("--apart", "no") != "yes";
        const auto joined =
            pipeline::analyseSecondClip(*analysed, call.text("--front"), sameTake, *nudge, options, g_cancel);
        if (!joined) return cannotJudge(joined.error());
    }
    judgeSet(analysed->set.result, *standard);
    const std::string json = toJson(analysed->set, present::resultWords(), &*advice);
    const std::string out = call.text("--out");
    if (out.empty())
        std::printf("%s\n", json.c_str());
    else if (auto wrote = catalog::writeTextFile(out, json); !wrote)
        return usage(words(wrote.error()));
    return 0;
}

int movements() {
    for (const auto& id : catalog::movementIds()) {
        const auto m = catalog::loadMovement(id);
        if (!m) return cannotJudge(m.error());
        std::printf("%-18s %s\n  standards: ", id.c_str(), m->title.c_str());
        for (const auto& s : m->standards) std::printf(" %s", s.c_str());
        std::printf("\n  variations:");
        for (const auto& v : m->variations) std::printf(" %s", v.id.c_str());
        std::printf("\n");
    }
    return 0;
}

int simulate(int argc, char** argv) {
    auto args = parse(argc, argv, {"--spec", "--out"});
    if (!args.problem.empty()) return usage(args.problem);
    if (!args.plain.empty() || !args.options.count("--spec") || !args.options.count("--out"))
        return usage("simulate needs --spec and --out.");
    auto text = catalog::readTextFile(args.options["--spec"]);
    if (!text) return usage(words(text.error()));
    auto spec = sim::clipSpecFromJson(*text);
    if (!spec) return usage(words(spec.error()));
    const std::filesystem::path dir = args.options["--out"];
    std::error_code problem;
    std::filesystem::create_directories(dir, problem);
    if (problem) return usage("The folder cannot be made: " + problem.message());
    std::vector<Outline> outlines;
    auto goOn = [](long, long) { return !g_cancel; };
    if (auto made = sim::makeClip(*spec, (dir / "clip.mp4").string(), goOn, &outlines); !made)
        return cannotJudge(made.error());
    if (auto wrote = catalog::writeTextFile((dir / "truth.json").string(), sim::truthJson(*spec, outlines)); !wrote)
        return cannotJudge(wrote.error());
    return 0;
}

/// Clips named with the sum of their spec, as the window looks for them, and what is seen in them; those there already,
/// measured by this engine, are left.
int demoClips(int argc, char** argv) {
    auto args = parse(argc, argv, {"--out"});
    if (!args.problem.empty()) return usage(args.problem);
    if (!args.plain.empty() || !args.options.count("--out")) return usage("demo-clips needs --out.");
    const auto demo = pipeline::loadDemo();
    if (!demo) return cannotJudge(demo.error());
    const std::filesystem::path dir = args.options["--out"];
    for (const auto& set : *demo)
        for (const auto& [name, spec] : {std::pair(set.clipName, set.specJson), {set.frontName, set.frontSpecJson}}) {
            if (name.empty()) continue;
            const auto path = dir / pipeline::shippedName(name, spec);
            if (std::filesystem::exists(path)) continue;
            if (auto made = pipeline::makeDemoClip(spec, path.string(), g_cancel); !made)
                return cannotJudge(made.error());
            std::filesystem::remove(path.string() + ".truth.json");
            std::printf("%s\n", path.filename().c_str());
        }
    const auto catalogue = catalog::loadCatalogue();
    if (!catalogue) return cannotJudge(catalogue.error());
    const auto shared = std::make_shared<const Catalogue>(*catalogue);
    const QString folder = QString::fromStdString(dir.string());
    for (const auto& set : *demo) {
        if (record::readShippedSet(QDir(folder).filePath(record::shippedSetName(set)))) continue;
        const auto file = record::shipDemoSet(folder, set, shared, g_cancel);
        if (!file) return cannotJudge(file.error());
        std::printf("%s\n", qPrintable(QFileInfo(*file).fileName()));
        std::fflush(stdout);
    }
    return 0;
}

}  // namespace

int main(int argc, char** argv) {
    std::signal(SIGINT, [](int) { g_cancel = true; });
    const QCoreApplication application(argc, argv);  // databases and their drivers need one
    const std::string command = argc > 1 ? argv[1] : "";
    if (command == "analyse") return analyse(argc, argv);
    if (command == "simulate") return simulate(argc, argv);
    if (command == "movements") return movements();
    if (command == "demo-clips") return demoClips(argc, argv);
    if (command == "library") return cli::library(QCoreApplication::arguments().mid(2), g_cancel);
    if (command == "--help" || command == "help") {
        std::fputs(kHelp, stdout);
        std::fputs(cli::kLibraryHelp, stdout);
        return 0;
    }
    return usage(command.empty() ? "Name a command." : "There is no command " + command + ".");
}

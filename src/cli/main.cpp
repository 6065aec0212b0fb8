// zevo-cli: the same analysis without a window. Exit codes: 0 result, 2 bad usage, 3 the clip cannot be judged.
#include <algorithm>
#include <atomic>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include "analysis/analyse_clip.h"
#include "analysis/data_files.h"
#include "sim/clip_maker.h"

namespace {

using namespace zevo;

constexpr int kUsage = 2, kCannotJudge = 3;
std::atomic<bool> g_cancel{false};  // set by Ctrl-C

const char* const kHelp =
    "zevo-cli analyse CLIP [--movement squat] [--standard whole-foot] [--stature CM]\n"
    "                 [--view auto|side|front|rear|oblique] [--model lite|full|heavy] [--out FILE]\n"
    "zevo-cli simulate --spec FILE --out DIR\n"
    "\n"
    "analyse measures a set and writes the result (docs/formats.md) to FILE or standard output.\n"
    "simulate makes a clip of a virtual client (clip.mp4) and its truth (truth.json) in DIR.\n"
    "Exit code 0: done; 2: bad usage; 3: the clip cannot be judged (one sentence says why).\n";

int usage(const std::string& problem) {
    std::fprintf(stderr, "%s\n%s", problem.c_str(), kHelp);
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

int cannotJudge(const Error& error) {
    std::fprintf(stderr, "%s\n", error.message.c_str());
    return kCannotJudge;
}

int analyse(int argc, char** argv) {
    auto args = parse(argc, argv, {"--movement", "--standard", "--stature", "--view", "--model", "--out"});
    if (!args.problem.empty()) return usage(args.problem);
    if (args.plain.size() != 1) return usage("Name one clip.");
    auto option = [&](const char* name, const char* fallback) {
        const auto found = args.options.find(name);
        return found == args.options.end() ? std::string(fallback) : found->second;
    };
    SetContext context;
    context.movement = option("--movement", "squat");
    const auto standards = analysis::loadStandards(context.movement);
    if (!standards) return usage(standards.error().message);
    const std::string wanted = option("--standard", standards->front().id.c_str());
    const auto standard = analysis::loadStandard(wanted);
    if (!standard) return usage(standard.error().message);
    const std::string stature = option("--stature", "0");
    char* end = nullptr;
    context.context.statureCm = std::strtod(stature.c_str(), &end);
    if (end == stature.c_str() || *end ||
        (context.context.statureCm != 0 && (context.context.statureCm < 80 || context.context.statureCm > 250)))
        return usage("The stature must be a number of centimetres between 80 and 250.");
    context.context.view = option("--view", "auto");
    static const std::vector<std::string> views{"auto", "side", "front", "rear", "oblique"};
    if (std::find(views.begin(), views.end(), context.context.view) == views.end())
        return usage("The view must be auto, side, front, rear or oblique.");
    const auto model = pose::modelSizeFromName(option("--model", "full"));
    if (!model) return usage(model.error().message);

    analysis::AnalyseOptions options;
    options.modelDir = analysis::modelDir();
    options.model = *model;
    auto analysed = analysis::analyseClip(args.plain[0], context, options, g_cancel);
    if (!analysed) return cannotJudge(analysed.error());
    judgeSet(analysed->set.result, *standard);
    const std::string json = toJson(analysed->set.result);
    const std::string out = option("--out", "");
    if (out.empty())
        std::printf("%s\n", json.c_str());
    else if (auto wrote = analysis::writeTextFile(out, json); !wrote)
        return usage(wrote.error().message);
    return 0;
}

int simulate(int argc, char** argv) {
    auto args = parse(argc, argv, {"--spec", "--out"});
    if (!args.problem.empty()) return usage(args.problem);
    if (!args.plain.empty() || !args.options.count("--spec") || !args.options.count("--out"))
        return usage("simulate needs --spec and --out.");
    auto text = analysis::readTextFile(args.options["--spec"]);
    if (!text) return usage(text.error().message);
    auto spec = sim::clipSpecFromJson(*text);
    if (!spec) return usage(spec.error().message);
    const std::filesystem::path dir = args.options["--out"];
    std::error_code problem;
    std::filesystem::create_directories(dir, problem);
    if (problem) return usage("The folder cannot be made: " + problem.message());
    std::vector<Outline> outlines;
    auto goOn = [](long, long) { return !g_cancel; };
    if (auto made = sim::makeClip(*spec, (dir / "clip.mp4").string(), goOn, &outlines); !made)
        return cannotJudge(made.error());
    if (auto wrote = analysis::writeTextFile((dir / "truth.json").string(), sim::truthJson(*spec, outlines)); !wrote)
        return cannotJudge(wrote.error());
    return 0;
}

}  // namespace

int main(int argc, char** argv) {
    std::signal(SIGINT, [](int) { g_cancel = true; });
    const std::string command = argc > 1 ? argv[1] : "";
    if (command == "analyse") return analyse(argc, argv);
    if (command == "simulate") return simulate(argc, argv);
    if (command == "--help" || command == "help") {
        std::fputs(kHelp, stdout);
        return 0;
    }
    return usage(command.empty() ? "Name a command." : "There is no command " + command + ".");
}

#include <algorithm>
#include <cstdio>

#include "catalog/data_files.h"
#include "cli/command.h"
#include "core/serial/result_json.h"
#include "pipeline/analyse_clip.h"
#include "present/words.h"

namespace zevo::cli {
namespace {

constexpr const char* kName = "analyse";

std::string text(const QCommandLineParser& call, const char* option) {
    return call.value(option).toStdString();
}

std::string listOf(const auto& rows) {
    std::string out;
    for (const auto& row : rows) out += (out.empty() ? "" : ", ") + std::string(row.id);
    return out;
}

Result<std::vector<Mark>> marksOf(const QCommandLineParser& call) {
    const auto nearer =
        numberOf(call, "nearer", 0, 150, "How much nearer the bar's end is must be a number of centimetres");
    if (!nearer) return nearer.error();
    return marksFromText(text(call, "mark"), call.isSet("nearer") ? std::optional(*nearer) : std::nullopt);
}

/// Stature, load, ankle, wedge and pain.
Result<void> readNumbers(const QCommandLineParser& call, SetContext& c) {
    const auto stature = statureOf(call);
    const auto load = numberOf(call, "load", 0, 500, "The load must be a number of kilograms");
    const auto weight = numberOf(call, "weight", 20, 300, "The weight must be a number of kilograms");
    const auto ankle = numberOf(call, "ankle", 0, 70, "The ankle bend must be a number of degrees");
    const auto wedge = numberOf(call, "wedge", 0, 30, "The wedge must be a number of degrees");
    const auto pain = numberOf(call, "pain", 0, 10, "The pain must be a number");
    for (const auto* n : {&stature, &load, &weight, &ankle, &wedge, &pain})
        if (!*n) return n->error();
    if (call.isSet("load") && !call.isSet("weight"))
        return Error{"The load is weighed against the client: give --weight as well.", "--weight"};
    c.context.statureCm = *stature;
    if (*weight > 0) c.loadShare = *load / *weight;
    if (call.isSet("ankle")) c.ankleLimitDeg = *ankle;
    c.wedgeDeg = *wedge;
    if (call.isSet("pain")) c.pain.after = static_cast<int>(*pain);
    return {};
}

/// What is one of a few words.
Result<void> readWords(const QCommandLineParser& call, SetContext& c) {
    const std::string stood = text(call, "stood-straight");
    if (stood != "yes" && stood != "no") return Error{"Whether the client stood straight is yes or no.", stood};
    c.stoodStraight = stood == "yes";
    const std::string shirt = text(call, "shirt");
    if (!shirt.empty() && shirt != "tight" && shirt != "loose")
        return Error{"The shirt is “tight” (or tucked in) or “loose”.", shirt};
    if (!shirt.empty()) c.shirt = shirt == "tight" ? Shirt::Tight : Shirt::Loose;
    if (call.isSet("tempo")) {
        const auto tempo = parseTempo(text(call, "tempo"));
        if (!tempo) return tempo.error();
        c.tempo = *tempo;
    }
    if (call.isSet("red-flag")) {
        const auto& flags = redFlags();
        const std::string flag = text(call, "red-flag");
        if (std::none_of(flags.begin(), flags.end(), [&](const auto& f) { return f.id == flag; }))
            return Error{"The red flag must be one of " + listOf(flags) + ".", "--red-flag"};
        c.pain.redFlags.push_back(flag);
    }
    c.context.view = text(call, "view");
    static const std::vector<std::string> views{"auto", "side", "front", "rear", "oblique", "foot-end"};
    if (std::find(views.begin(), views.end(), c.context.view) == views.end())
        return Error{"The view must be auto, side, front, rear, oblique or foot-end.", c.context.view};
    return {};
}

Result<SetContext> contextOf(const QCommandLineParser& call) {
    SetContext c;
    auto movement = catalog::loadMovement(text(call, "movement"));
    if (!movement) return movement.error();
    c.movement = std::move(*movement);
    c.variation = text(call, "variation");
    if (!c.variation.empty() && !c.movement.variation(c.variation))
        return Error{"The movement “" + c.movement.id + "” has no variation “" + c.variation +
                         "”. Known: " + listOf(c.movement.variations) + ".",
                     c.variation};
    if (auto read = readNumbers(call, c); !read) return read.error();
    if (auto read = readWords(call, c); !read) return read.error();
    return c;
}

int analyse(const QCommandLineParser& call, const QStringList& plain, const std::atomic<bool>& cancel) {
    if (plain.size() != 1) return usage("Name one clip.", kName);
    const auto context = contextOf(call);
    if (!context) return usage(context.error(), kName);
    const auto standard =
        catalog::loadStandard(call.isSet("standard") ? text(call, "standard") : context->movement.standards.front());
    if (!standard) return usage(standard.error(), kName);
    if (!judges(*standard, context->movement))
        return usage(QString::fromStdString("The standard “" + standard->id + "” is for " + standard->movement +
                                            ", not for " + context->movement.id + "."),
                     kName);
    const auto model = pose::modelSizeFromName(text(call, "model"));
    if (!model) return usage(model.error(), kName);
    const auto nudge = numberOf(call, "nudge", -60, 60, "The nudge must be a number of seconds");
    if (!nudge) return usage(nudge.error(), kName);
    const auto advice = catalog::loadAdvice();
    if (!advice) return usage(advice.error(), kName);
    const auto marks = marksOf(call);
    if (!marks) return usage(marks.error(), kName);

    pipeline::AnalyseOptions options;
    options.modelDir = catalog::modelDir();
    options.model = *model;
    options.back = context->shirt != Shirt::NotSaid;
    options.marks = *marks;
    auto analysed = pipeline::analyseClip(plain.front().toStdString(), *context, options, cancel);
    if (!analysed) return refuse(analysed.error());
    if (call.isSet("front")) {
        const bool sameTake = text(call, "apart") != "yes";
        const auto joined =
            pipeline::analyseSecondClip(*analysed, text(call, "front"), sameTake, *nudge, options, cancel);
        if (!joined) return refuse(joined.error());
    }
    judgeSet(analysed->set.result, *standard);
    const std::string json = toJson(analysed->set, present::resultWords(), &*advice);
    if (!call.isSet("out"))
        std::printf("%s\n", json.c_str());
    else if (auto wrote = catalog::writeTextFile(text(call, "out"), json); !wrote)
        return usage(wrote.error(), kName);
    return kDone;
}

}  // namespace

Command analyseCommand() {
    return {kName,
            "CLIP [options]",
            "Measures a set and writes the result (docs/formats.md) to a file or standard output.",
            {{"movement", "Which movement it is (zevo-cli movements lists them).", "id", "squat"},
             {"variation", "Which variation of it.", "id"},
             {"standard", "A school's standard, or a file with one of your own.", "id or file"},
             {"view", "auto, side, front, rear, oblique or foot-end.", "view", "auto"},
             {"front", "A second view of the same set, filmed at the same time.", "clip"},
             {"apart", "The second view was filmed after the first, not with it.", "yes or no", "no"},
             {"nudge", "Moves the second view against the first.", "seconds"},
             {"stature", "How tall the client is; without it there are no centimetres.", "cm"},
             {"load", "What they carry; needs --weight.", "kg"},
             {"weight", "What they weigh.", "kg"},
             {"ankle", "How far the shin comes over the foot, as measured.", "degrees"},
             {"wedge", "What they stand on.", "degrees"},
             {"tempo", "Down, pause and up, as asked for.", "S-S-S"},
             {"shirt", "tight or loose; the back is read only when it is said.", "tight or loose"},
             {"stood-straight", "They began with straight knees, as they were asked to.", "yes or no", "no"},
             {"mark",
              "Follows points from where they are clicked (pixels of the first clip): bar_end bell stick_top stick_low "
              "back_high back_low from the side, hip_left hip_right knee_left knee_right from the front.",
              "POINT@SECONDS,X,Y[;…]"},
             {"nearer", "How much nearer to the camera than the client's middle a bar's end is.", "cm"},
             {"pain", "What hurts after the set, 0 to 10.", "number"},
             {"red-flag", "What has to be looked at by somebody licensed first.", "id"},
             {"model", "Which network: lite, full or heavy.", "size", "full"},
             {"out", "Writes the result there.", "file"}},
            &analyse};
}

}  // namespace zevo::cli

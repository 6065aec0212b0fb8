#include "analysis/demo_maker.h"

#include <chrono>
#include <nlohmann/json.hpp>

#include "analysis/data_files.h"
#include "sim/clip_maker.h"

namespace zevo::analysis {

Result<std::vector<DemoSet>> loadDemo(const std::string& file) {
    const std::string path = file.empty() ? dataDir() + "/demo/larkmoor.json" : file;
    const auto text = readTextFile(path);
    if (!text) return text.error();
    const auto root = nlohmann::json::parse(*text, nullptr, false);
    std::vector<DemoSet> out;
    try {
        for (const auto& o : root.at("sets")) {
            DemoSet s;
            const auto& spec = o.at("spec");
            s.client = o.at("client").get<std::string>();
            s.note = o.value("note", "");
            s.story = o.at("story").get<std::string>();
            s.statureCm = spec.at("body").at("stature_cm").get<double>();
            s.movement = spec.value("movement", "squat");
            s.variation = spec.value("variation", "");
            s.loadShare = spec.value("load", 0.0);
            s.standard = o.at("standard").get<std::string>();
            s.clipName = o.at("clip").get<std::string>();
            s.specJson = spec.dump();
            s.planted = spec.at("planted").get<std::vector<std::string>>();
            s.reps = static_cast<int>(spec.at("reps").size());
            if (o.contains("front")) {
                s.frontName = o.at("front").at("clip").get<std::string>();
                // The same motion, seen by another camera that was switched on a little later.
                nlohmann::json front = spec;
                front.merge_patch(o.at("front").at("spec"));
                s.frontSpecJson = front.dump();
            }
            out.push_back(std::move(s));
        }
    } catch (const nlohmann::json::exception& e) {
        return Error{"The demo scenario is damaged or no such file.", path + ": " + e.what()};
    }
    return out;
}

Result<void> makeDemoClip(const std::string& specJson, const std::string& path, const std::atomic<bool>& cancel,
                          const OnProgress& progress) {
    const auto spec = sim::clipSpecFromJson(specJson);
    if (!spec) return spec.error();
    const auto begin = std::chrono::steady_clock::now();
    auto tell = [&](long done, long all) {
        const double spent = std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
        if (progress && done % 5 == 0)
            progress({done, all, spent / static_cast<double>(done) * static_cast<double>(all - done),
                      "Drawing the demo clip"});
        return !cancel;
    };
    if (auto made = sim::makeClip(*spec, path, tell); !made)
        return cancel ? Error{"Stopped. Nothing was kept.", "cancelled"} : made.error();
    return writeTextFile(path + ".truth.json", sim::truthJson(*spec));
}

}  // namespace zevo::analysis

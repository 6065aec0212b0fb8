#include "pipeline/demo_maker.h"

#include <chrono>
#include <cstdint>
#include <filesystem>
#include <nlohmann/json.hpp>

#include "catalog/data_files.h"
#include "sim/clip_maker.h"

namespace zevo::pipeline {

Result<std::vector<DemoSet>> loadDemo(const std::string& file) {
    const std::string path = file.empty() ? catalog::dataDir() + "/demo/larkmoor.json" : file;
    const auto text = catalog::readTextFile(path);
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
            s.wedgeDeg = o.value("wedge_deg", 0.0);
            s.looseShirt = spec.at("body").value("loose_shirt_cm", 0.0) > 0;
            for (const auto& ask : o.value("asks", nlohmann::json::array())) s.asks.push_back(readAsk(ask));
            const double nearer = o.value("nearer_cm", usuallyNearerCm(MarkKind::BarEnd));
            auto marks = marksFromText(o.value("marks", ""), nearer);
            if (!marks) return marks.error();
            s.marks = std::move(*marks);
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
            progress({done, all, spent / static_cast<double>(done) * static_cast<double>(all - done), Doing::Drawing});
        return !cancel;
    };
    if (auto made = sim::makeClip(*spec, path, tell); !made)
        return cancel ? refusal(NoticeKind::Stopped) : made.error();
    return catalog::writeTextFile(path + ".truth.json", sim::truthJson(*spec));
}

std::string shippedName(const std::string& name, const std::string& specJson) {
    std::uint64_t h = 1469598103934665603ULL;  // FNV-1a, 64 bits
    for (unsigned char c : specJson) h = (h ^ c) * 1099511628211ULL;
    static const char* const kHex = "0123456789abcdef";
    std::string mark;
    for (int shift = 60; shift >= 28; shift -= 4) mark.push_back(kHex[(h >> shift) & 15]);
    const std::filesystem::path path(name);
    return path.stem().string() + "." + mark + path.extension().string();
}

Result<std::string> demoClip(const std::string& name, const std::string& specJson, const std::string& folder,
                             const std::atomic<bool>& cancel, const OnProgress& progress) {
    namespace fs = std::filesystem;
    std::error_code problem;
    const fs::path own = fs::path(folder) / name;
    if (fs::exists(own, problem)) return own.string();
    const fs::path shipped = fs::path(catalog::dataDir()) / "demo" / "clips" / shippedName(name, specJson);
    if (fs::exists(shipped, problem)) return shipped.string();
    fs::create_directories(folder, problem);
    if (auto made = makeDemoClip(specJson, own.string(), cancel, progress); !made) return made.error();
    return own.string();
}

}  // namespace zevo::pipeline

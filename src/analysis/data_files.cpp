#include "analysis/data_files.h"

#include <algorithm>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>
#include <sstream>

namespace zevo::analysis {
namespace fs = std::filesystem;
namespace {

std::string locate(const char* variable, const char* installed, const char* built) {
    if (const char* set = std::getenv(variable); set && *set) return set;
    std::error_code ignored;
    const fs::path beside = fs::read_symlink("/proc/self/exe", ignored).parent_path() / installed;
    return fs::exists(beside, ignored) ? beside.lexically_normal().string() : built;
}

}  // namespace

std::string dataDir() {
    return locate("ZEVO_DATA", "../share/zevo", ZEVO_DATA_DIR);
}
std::string modelDir() {
    return locate("ZEVO_MODELS", "../share/zevo/models", ZEVO_MODEL_DIR);
}

Result<std::string> readTextFile(const std::string& path) {
    std::ifstream in(path, std::ios::binary);
    if (!in) return Error{"The file “" + fs::path(path).filename().string() + "” cannot be read.", path};
    std::ostringstream text;
    text << in.rdbuf();
    return text.str();
}

Result<Standard> loadStandard(const std::string& id) {
    if (id.empty() || id.find('/') != std::string::npos) return Error{"There is no standard “" + id + "”.", id};
    auto text = readTextFile(dataDir() + "/standards/" + id + ".json");
    if (!text)
        return Error{"There is no standard “" + id + "”. Known for the squat: whole-foot, hips-back, upright.", id};
    return parseStandard(*text, id + ".json");
}

Result<std::vector<Standard>> loadStandards(const std::string& movement) {
    auto text = readTextFile(dataDir() + "/movements/" + movement + ".json");
    if (!text) return Error{"Zevo does not know the movement “" + movement + "” yet. Known: squat.", movement};
    const auto json = nlohmann::json::parse(*text, nullptr, false);
    if (!json.is_object() || !json.contains("standards") || !json["standards"].is_array())
        return Error{"The movement file “" + movement + ".json” is damaged.", movement};
    std::vector<Standard> out;
    for (const auto& id : json["standards"]) {
        auto standard = loadStandard(id.is_string() ? id.get<std::string>() : "");
        if (!standard) return standard.error();
        out.push_back(std::move(*standard));
    }
    return out;
}

Result<AdviceBook> loadAdvice(const std::string& movement) {
    auto text = readTextFile(dataDir() + "/advice/" + movement + ".json");
    if (!text) return text.error();
    return parseAdvice(*text, movement + ".json");
}

Result<void> writeTextFile(const std::string& path, const std::string& text) {
    const std::string part = path + ".part";
    {
        std::ofstream out(part, std::ios::binary | std::ios::trunc);
        out << text;
        out.flush();
        if (!out)
            return Error{"The file “" + fs::path(path).filename().string() +
                             "” could not be written. Is the folder there and the disk not full?",
                         path};
    }
    std::error_code problem;
    fs::rename(part, path, problem);
    if (problem)
        return Error{"The file “" + fs::path(path).filename().string() + "” could not be written.", problem.message()};
    return {};
}

}  // namespace zevo::analysis

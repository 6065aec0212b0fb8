#include "catalog/data_files.h"

#include <algorithm>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <map>
#include <sstream>

namespace zevo::catalog {
namespace fs = std::filesystem;
namespace {

std::string locate(const char* variable, const char* installed, const char* built) {
    if (const char* set = std::getenv(variable); set && *set) return set;
    std::error_code ignored;
    const fs::path beside = fs::read_symlink("/proc/self/exe", ignored).parent_path() / installed;
    return fs::exists(beside, ignored) ? beside.lexically_normal().string() : built;
}

/// The JSON files of a folder, by name; none where there is no folder.
std::vector<fs::path> jsonFiles(const std::string& folder) {
    std::vector<fs::path> out;
    std::error_code ignored;
    if (!folder.empty())
        for (const auto& entry : fs::directory_iterator(folder, ignored))
            if (entry.path().extension() == ".json") out.push_back(entry.path());
    std::sort(out.begin(), out.end());
    return out;
}

std::string listed(const std::vector<std::string>& names) {
    std::string out;
    for (const auto& n : names) out += (out.empty() ? "" : ", ") + n;
    return out;
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

std::vector<std::string> movementIds() {
    std::vector<std::string> out;
    for (const auto& path : jsonFiles(dataDir() + "/movements")) out.push_back(path.stem().string());
    std::stable_partition(out.begin(), out.end(), [](const auto& id) { return id == "squat"; });
    return out;
}

Result<Movement> loadMovement(const std::string& id) {
    const auto known = movementIds();
    if (std::find(known.begin(), known.end(), id) == known.end())
        return Error{"Zevo does not know the movement “" + id + "”. Known: " + listed(known) + ".", id};
    auto text = readTextFile(dataDir() + "/movements/" + id + ".json");
    if (!text) return text.error();
    return parseMovement(*text, id + ".json");
}

Result<Standard> loadStandard(const std::string& id, const std::string& ownFolder) {
    if (id.ends_with(".json")) {
        auto text = readTextFile(id);
        if (!text) return text.error();
        return parseStandard(*text, fs::path(id).filename().string());
    }
    if (!id.empty() && id.find('/') == std::string::npos)
        for (const std::string& folder : {dataDir() + "/standards", ownFolder}) {
            const std::string path = folder + "/" + id + ".json";
            if (folder.empty() || !fs::exists(path)) continue;
            auto text = readTextFile(path);
            if (!text) return text.error();
            return parseStandard(*text, id + ".json");
        }
    std::vector<std::string> known;
    for (const auto& path : jsonFiles(dataDir() + "/standards")) known.push_back(path.stem().string());
    return Error{"There is no standard “" + id + "”. Known: " + listed(known) + ".", id};
}

Result<Catalogue> loadCatalogue(const std::string& ownFolder) {
    Catalogue out;
    auto add = [&](const Standard& s) {
        const auto known =
            std::find_if(out.standards.begin(), out.standards.end(), [&](const Standard& o) { return o.id == s.id; });
        if (known == out.standards.end()) out.standards.push_back(s);
    };
    std::map<std::string, AdviceBook> files;
    auto adviceFile = [&](const std::string& name) -> Result<AdviceBook> {
        if (const auto read = files.find(name); read != files.end()) return read->second;
        auto text = readTextFile(dataDir() + "/advice/" + name + ".json");
        if (!text) return text.error();
        auto part = parseAdvice(*text, name + ".json");
        if (part) files[name] = *part;
        return part;
    };
    for (const auto& id : movementIds()) {
        auto movement = loadMovement(id);
        if (!movement) return movement.error();
        AdviceBook book;
        for (const std::string& name : {movement->advice, std::string("common")}) {
            auto part = adviceFile(name);
            if (!part) return part.error();
            book.merge(*part);
        }
        out.advice.emplace_back(id, std::move(book));
        for (const auto& standardId : movement->standards) {
            if (std::any_of(out.standards.begin(), out.standards.end(),
                            [&](const Standard& s) { return s.id == standardId; }))
                continue;
            auto standard = loadStandard(standardId);
            if (!standard) return standard.error();
            add(*standard);
        }
        out.movements.push_back(std::move(*movement));
    }
    for (const auto& path : jsonFiles(ownFolder)) {
        auto standard = loadStandard(path.string());
        if (!standard) {
            out.refused.push_back(standard.error());
            continue;
        }
        standard->own = true;
        add(*standard);
    }
    return out;
}

Result<std::vector<Standard>> loadStandards(const Movement& movement, const std::string& ownFolder,
                                            std::vector<Error>* refused) {
    std::vector<Standard> out;
    for (const auto& id : movement.standards) {
        auto standard = loadStandard(id);
        if (!standard) return standard.error();
        out.push_back(std::move(*standard));
    }
    for (const auto& path : jsonFiles(ownFolder)) {
        auto standard = loadStandard(path.string());
        if (standard && judges(*standard, movement)) out.push_back(std::move(*standard));
        if (!standard && refused) refused->push_back(standard.error());
    }
    return out;
}

Result<AdviceBook> loadAdvice(const Movement& movement) {
    AdviceBook book;
    for (const std::string& name : {movement.advice, std::string("common")}) {  // the first one to name a fault has it
        auto text = readTextFile(dataDir() + "/advice/" + name + ".json");
        if (!text) return text.error();
        auto part = parseAdvice(*text, name + ".json");
        if (!part) return part.error();
        book.merge(*part);
    }
    return book;
}

Result<Standard> importStandard(const std::string& path, const std::string& ownFolder) {
    auto text = readTextFile(path);
    if (!text) return text.error();
    const std::string name = fs::path(path).filename().string();
    auto standard = parseStandard(*text, name);
    if (!standard) return standard.error();
    auto refuse = [&](const std::string& problem) {
        return Error{"The standard “" + name + "” cannot be used: /id “" + standard->id + "” " + problem + ".", name};
    };
    const bool plain = !standard->id.empty() && std::all_of(standard->id.begin(), standard->id.end(), [](char c) {
        return (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '-';
    });
    if (!plain) return refuse("must be made of small letters, digits and hyphens");
    if (fs::exists(dataDir() + "/standards/" + standard->id + ".json"))
        return refuse("is the name of a standard that comes with Zevo; give yours another one");
    const auto ids = movementIds();
    const bool known = std::any_of(ids.begin(), ids.end(), [&](const std::string& id) {
        const auto movement = loadMovement(id);
        return movement && judges(*standard, *movement);
    });
    if (!known)
        return Error{"The standard “" + name + "” cannot be used: /movement “" + standard->movement +
                         "” is not a movement Zevo knows. Known: " + listed(ids) + ".",
                     name};
    std::error_code problem;
    fs::create_directories(ownFolder, problem);
    if (auto wrote = writeTextFile(ownFolder + "/" + standard->id + ".json", standardJson(*standard)); !wrote)
        return wrote.error();
    return standard;
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

}  // namespace zevo::catalog

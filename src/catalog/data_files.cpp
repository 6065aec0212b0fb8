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

/// An id is a file's name, and a title a line on the screen.
constexpr std::size_t kLongestId = 64, kLongestTitle = 120;

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

namespace {

/// Reads one of the shipped files.
template <typename Parse>
auto readShipped(const std::string& file, Parse parse) -> decltype(parse(std::string(), std::string())) {
    auto text = readTextFile(dataDir() + "/" + file);
    if (!text) return text.error();
    return parse(*text, fs::path(file).filename().string());
}

/// What a standard's file refers to.
struct SchoolParts {
    CommonBands common;
    ChoiceBook choices;
};

Result<SchoolParts> loadParts() {
    SchoolParts parts;
    for (const auto& path : jsonFiles(dataDir() + "/standards/common")) {
        auto bands = readShipped("standards/common/" + path.filename().string(), parseBands);
        if (!bands) return bands.error();
        parts.common[path.stem().string()] = std::move(*bands);
    }
    auto choices = loadChoices();
    if (!choices) return choices.error();
    parts.choices = std::move(*choices);
    return parts;
}

/// A standard's file with the bands it shares and those of its choices.
Result<Standard> readStandard(const std::string& path, const SchoolParts& parts) {
    auto text = readTextFile(path);
    if (!text) return text.error();
    const std::string name = fs::path(path).filename().string();
    auto standard = parseStandard(*text, name, parts.common);
    if (!standard) return standard;
    if (const std::string problem = problemOf(standard->choices, parts.choices); !problem.empty())
        return Error{"The standard “" + name + "” cannot be used: " + problem + ".", name};
    return withBundle(*standard, parts.choices);
}

Result<Standard> loadStandard(const std::string& id, const std::string& ownFolder, const SchoolParts& parts) {
    if (id.ends_with(".json")) return readStandard(id, parts);
    if (!id.empty() && id.find('/') == std::string::npos)
        for (const std::string& folder : {dataDir() + "/standards", ownFolder}) {
            const std::string path = folder + "/" + id + ".json";
            if (std::error_code ignored; !folder.empty() && fs::exists(path, ignored)) return readStandard(path, parts);
        }
    std::vector<std::string> known;
    for (const auto& path : jsonFiles(dataDir() + "/standards")) known.push_back(path.stem().string());
    return Error{"There is no standard “" + id + "”. Known: " + listed(known) + ".", id};
}

}  // namespace

Result<ChoiceBook> loadChoices() {
    return readShipped("choices.json", parseChoices);
}

Result<AskBook> loadAsks() {
    return readShipped("asks.json", parseAsks);
}

Result<AdviceBook> loadAdvice() {
    AdviceBook book;
    auto faults = readShipped("advice/faults.json", parseFaults);
    if (!faults) return faults.error();
    book.faults = std::move(*faults);
    auto claims = readShipped("advice/claims.json", parseClaims);
    if (!claims) return claims.error();
    book.claims = std::move(*claims);
    for (const auto& path : jsonFiles(dataDir() + "/advice/cards")) {
        auto cards =
            readShipped("advice/cards/" + path.filename().string(),
                        [&](const std::string& text, const std::string& name) { return parseCards(text, name, book); });
        if (!cards) return cards.error();
        std::move(cards->begin(), cards->end(), std::back_inserter(book.cards));
    }
    return book;
}

Result<Standard> loadStandard(const std::string& id, const std::string& ownFolder) {
    auto parts = loadParts();
    if (!parts) return parts.error();
    return loadStandard(id, ownFolder, *parts);
}

Result<Catalogue> loadCatalogue(const std::string& ownFolder) {
    auto parts = loadParts();
    if (!parts) return parts.error();
    auto advice = loadAdvice();
    if (!advice) return advice.error();
    Catalogue out;
    out.advice = std::move(*advice);
    auto known = [&](const std::string& id) {
        return std::any_of(out.standards.begin(), out.standards.end(), [&](const Standard& s) { return s.id == id; });
    };
    for (const auto& id : movementIds()) {
        auto movement = loadMovement(id);
        if (!movement) return movement.error();
        for (const auto& standardId : movement->standards) {
            if (known(standardId)) continue;
            auto standard = loadStandard(standardId, {}, *parts);
            if (!standard) return standard.error();
            out.standards.push_back(std::move(*standard));
        }
        out.movements.push_back(std::move(*movement));
    }
    for (const auto& path : jsonFiles(ownFolder)) {
        auto standard = readStandard(path.string(), *parts);
        if (!standard) {
            out.refused.push_back(standard.error());
            continue;
        }
        standard->own = true;
        if (!known(standard->id)) out.standards.push_back(std::move(*standard));
    }
    out.choices = std::move(parts->choices);
    auto asks = loadAsks();
    if (!asks) return asks.error();
    out.asks = std::move(*asks);
    return out;
}

Result<std::vector<Standard>> loadStandards(const Movement& movement, const std::string& ownFolder,
                                            std::vector<Error>* refused) {
    auto parts = loadParts();
    if (!parts) return parts.error();
    std::vector<Standard> out;
    for (const auto& id : movement.standards) {
        auto standard = loadStandard(id, {}, *parts);
        if (!standard) return standard.error();
        out.push_back(std::move(*standard));
    }
    for (const auto& path : jsonFiles(ownFolder)) {
        auto standard = readStandard(path.string(), *parts);
        if (standard && judges(*standard, movement)) out.push_back(std::move(*standard));
        if (!standard && refused) refused->push_back(standard.error());
    }
    return out;
}

Result<Standard> importStandard(const std::string& path, const std::string& ownFolder) {
    const std::string name = fs::path(path).filename().string();
    auto parts = loadParts();
    if (!parts) return parts.error();
    auto standard = readStandard(path, *parts);
    if (!standard) return standard.error();
    auto refuse = [&](const std::string& problem) {
        return Error{"The standard “" + name + "” cannot be used: /id “" + standard->id.substr(0, kLongestId) + "” " +
                         problem + ".",
                     name};
    };
    const bool plain = !standard->id.empty() && std::all_of(standard->id.begin(), standard->id.end(), [](char c) {
        return (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '-';
    });
    if (!plain) return refuse("must be made of small letters, digits and hyphens");
    if (standard->id.size() > kLongestId)
        return refuse("must have at most " + std::to_string(kLongestId) + " signs; it is a file's name");
    if (standard->title.size() > kLongestTitle)
        return Error{"The standard “" + name + "” cannot be used: /title must have at most " +
                         std::to_string(kLongestTitle) + " signs.",
                     name};
    std::error_code ignored;
    if (fs::exists(dataDir() + "/standards/" + standard->id + ".json", ignored))
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

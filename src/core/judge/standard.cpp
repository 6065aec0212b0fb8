#include "core/judge/standard.h"

#include <algorithm>

#include "core/base/json_reader.h"
#include "core/judge/band_reader.h"
#include "core/judge/retired_faults.h"

namespace zevo {
namespace {

constexpr const char *kSchema = "zevo-standard-1", *kBandsSchema = "zevo-bands-1";

bool contains(const std::vector<std::string>& list, const std::string& item) {
    return std::find(list.begin(), list.end(), item) != list.end();
}

/// Whether two bands of one measure could both hold for a set: unless each name one is for is excluded by the other.
bool clash(const Band& a, const Band& b) {
    if (a.measure != b.measure) return false;
    auto apart = [](const Band& x, const Band& y) {
        return !x.only.empty() && std::all_of(x.only.begin(), x.only.end(), [&](const std::string& name) {
            return contains(y.except, name) || (!y.only.empty() && !contains(y.only, name));
        });
    };
    return !apart(a, b) && !apart(b, a);
}

std::vector<Band> bandsAt(const Json& root) {
    std::vector<Band> out;
    const Json& bands = listAt(root, "bands", "");
    for (std::size_t i = 0; i < bands.size(); ++i) {
        const std::string path = "/bands/" + std::to_string(i);
        out.push_back(readBand(bands[i], path));
        for (std::size_t k = 0; k < i; ++k)
            if (clash(out[k], out[i])) throw Refused{path, "judges “" + out[i].measure.name() + "” a second time"};
    }
    return out;
}

}  // namespace

bool Band::holdsFor(const std::string& movement, const std::string& variation) const {
    const std::string name = variation.empty() ? "plain" : variation;
    if (contains(except, name) || contains(except, movement)) return false;
    return only.empty() || contains(only, name) || contains(only, movement);
}

const Band* Standard::bandFor(MeasureId measure) const {
    for (const auto& b : bands)
        if (b.measure == measure) return &b;
    return nullptr;
}

Standard Standard::forSet(const std::string& setMovement, const std::string& variation) const {
    Standard out = *this;
    std::erase_if(out.bands, [&](const Band& b) { return !b.holdsFor(setMovement, variation); });
    return out;
}

Result<Standard> parseStandard(const std::string& source, const std::string& name, const CommonBands& common) {
    return readJson<Standard>("The standard", source, name, kSchema, [&](const Json& root) {
        Standard s;
        s.id = textAt(root, "id", "", true);
        s.movement = textAt(root, "movement", "", true);
        s.title = textAt(root, "title", "", true);
        s.reason = textAt(root, "reason", "", true);
        s.differs = textAt(root, "differs", "", false);
        s.minConfidence = numberAt(root, "min_confidence", "").value_or(0.5);
        for (const std::string& measure : textsAt(root, "leading", "")) {
            s.leading.push_back(MeasureId::named(measure));
            if (!s.leading.back()) throw Refused{"/leading", "“" + measure + "” is not a measure Zevo knows"};
        }
        if (root.contains("choices")) {
            if (!root["choices"].is_object()) throw Refused{"/choices", "must be an object"};
            for (const auto& [choice, option] : root["choices"].items())
                s.choices[choice] = textAt(root["choices"], choice.c_str(), "/choices", true);
        }
        if (!root.contains("bands")) throw Refused{"/bands", "is missing"};
        s.bands = bandsAt(root);
        if (const std::string shared = textAt(root, "common", "", false); !shared.empty()) {
            const auto found = common.find(shared);
            if (found == common.end()) throw Refused{"/common", "“" + shared + "” is not known"};
            const std::vector<Band> own = s.bands;
            for (const Band& b : found->second)
                if (std::none_of(own.begin(), own.end(), [&](const Band& o) { return o.measure == b.measure; }))
                    s.bands.push_back(b);
        }
        return s;
    });
}

Result<std::vector<Band>> parseBands(const std::string& source, const std::string& name) {
    return readJson<std::vector<Band>>("The file of bands", source, name, kBandsSchema,
                                       [](const Json& root) { return bandsAt(root); });
}

std::string standardJson(const Standard& s) {
    Json out{{"schema", kSchema},
             {"id", s.id},
             {"movement", s.movement},
             {"title", s.title},
             {"reason", s.reason},
             {"differs", s.differs},
             {"min_confidence", s.minConfidence},
             {"choices", s.choices},
             {"leading", Json::array()},
             {"bands", Json::array()}};
    for (const MeasureId m : s.leading) out["leading"].push_back(m.name());
    for (const Band& b : s.bands) out["bands"].push_back(bandJson(b));
    return out.dump(2) + "\n";
}

}  // namespace zevo

#include "core/judge/standard.h"

#include <algorithm>

#include "core/base/json_reader.h"

namespace zevo {
namespace {

constexpr const char* kSchema = "zevo-standard-1";

bool contains(const std::vector<std::string>& list, const std::string& item) {
    return std::find(list.begin(), list.end(), item) != list.end();
}

Band readBand(const Json& o, const std::string& path) {
    if (!o.is_object()) throw Refused{path, "must be an object, not " + o.dump()};
    Band b;
    const std::string measure = textAt(o, "measure", path, true);
    b.measure = MeasureId::named(measure);
    if (!b.measure) throw Refused{path + "/measure", "“" + measure + "” is not a measure Zevo knows"};
    b.min = numberAt(o, "min", path);
    b.max = numberAt(o, "max", path);
    if (b.min && b.max && *b.min > *b.max)
        throw Refused{path + "/min", o["min"].dump() + " is larger than max, " + o["max"].dump()};
    b.faultBelow = textAt(o, "fault_below", path, false);
    b.faultAbove = textAt(o, "fault_above", path, false);
    if (!b.faultBelow.empty() && !b.min) throw Refused{path + "/min", "is missing but fault_below is given"};
    if (!b.faultAbove.empty() && !b.max) throw Refused{path + "/max", "is missing but fault_above is given"};
    b.rank = static_cast<int>(numberAt(o, "rank", path).value_or(100));
    b.careful = flagAt(o, "careful", path);
    b.only = textsAt(o, "only", path);
    b.except = textsAt(o, "except", path);
    return b;
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

Result<Standard> parseStandard(const std::string& source, const std::string& name) {
    return readJson<Standard>("The standard", source, name, kSchema, [](const Json& root) {
        Standard s;
        s.id = textAt(root, "id", "", true);
        s.movement = textAt(root, "movement", "", true);
        s.title = textAt(root, "title", "", true);
        s.reason = textAt(root, "reason", "", true);
        s.differs = textAt(root, "differs", "", false);
        s.minConfidence = numberAt(root, "min_confidence", "").value_or(0.5);
        if (!root.contains("bands")) throw Refused{"/bands", "is missing"};
        const Json& bands = listAt(root, "bands", "");
        for (std::size_t i = 0; i < bands.size(); ++i) {
            const std::string path = "/bands/" + std::to_string(i);
            s.bands.push_back(readBand(bands[i], path));
            for (std::size_t k = 0; k < i; ++k)
                if (clash(s.bands[k], s.bands[i]))
                    throw Refused{path, "judges “" + s.bands[i].measure.name() + "” a second time"};
        }
        return s;
    });
}

std::string standardJson(const Standard& s) {
    Json out{{"schema", kSchema},
             {"id", s.id},
             {"movement", s.movement},
             {"title", s.title},
             {"reason", s.reason},
             {"differs", s.differs},
             {"min_confidence", s.minConfidence},
             {"bands", Json::array()}};
    for (const Band& b : s.bands) {
        Json o{{"measure", b.measure.name()}, {"rank", b.rank}};
        if (b.min) o["min"] = *b.min;
        if (b.max) o["max"] = *b.max;
        if (!b.faultBelow.empty()) o["fault_below"] = b.faultBelow;
        if (!b.faultAbove.empty()) o["fault_above"] = b.faultAbove;
        if (b.careful) o["careful"] = true;
        if (!b.only.empty()) o["only"] = b.only;
        if (!b.except.empty()) o["except"] = b.except;
        out["bands"].push_back(o);
    }
    return out.dump(2) + "\n";
}

}  // namespace zevo

#include "core/judge/band_reader.h"

#include "core/judge/retired_faults.h"

namespace zevo {

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
    b.faultBelow = currentFault(textAt(o, "fault_below", path, false), b.measure, false);
    b.faultAbove = currentFault(textAt(o, "fault_above", path, false), b.measure, true);
    if (!b.faultBelow.empty() && !b.min) throw Refused{path + "/min", "is missing but fault_below is given"};
    if (!b.faultAbove.empty() && !b.max) throw Refused{path + "/max", "is missing but fault_above is given"};
    b.rank = static_cast<int>(numberAt(o, "rank", path).value_or(100));
    b.careful = flagAt(o, "careful", path);
    for (const std::string& witness : textsAt(o, "witness", path)) {
        b.witness.push_back(MeasureId::named(witness));
        if (!b.witness.back()) throw Refused{path + "/witness", "“" + witness + "” is not a measure Zevo knows"};
    }
    b.only = textsAt(o, "only", path);
    b.except = textsAt(o, "except", path);
    b.source = textAt(o, "source", path, false);
    return b;
}

Json bandJson(const Band& b) {
    Json o{{"measure", b.measure.name()}, {"rank", b.rank}};
    if (b.min) o["min"] = *b.min;
    if (b.max) o["max"] = *b.max;
    if (!b.faultBelow.empty()) o["fault_below"] = b.faultBelow;
    if (!b.faultAbove.empty()) o["fault_above"] = b.faultAbove;
    if (b.careful) o["careful"] = true;
    for (const MeasureId witness : b.witness) o["witness"].push_back(witness.name());
    if (!b.only.empty()) o["only"] = b.only;
    if (!b.except.empty()) o["except"] = b.except;
    if (!b.source.empty()) o["source"] = b.source;
    return o;
}

}  // namespace zevo

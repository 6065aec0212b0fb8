#include "core/judge/asks.h"

#include <algorithm>
#include <cmath>

#include "core/base/json_reader.h"
#include "core/body/movement.h"

namespace zevo {
namespace {

AskedEdge readEdge(const Json& o, const std::string& path) {
    if (!o.is_object()) throw Refused{path, "must be an object, not " + o.dump()};
    AskedEdge e;
    const std::string measure = textAt(o, "measure", path, true), edge = textAt(o, "edge", path, true);
    e.measure = MeasureId::named(measure);
    if (!e.measure) throw Refused{path + "/measure", "“" + measure + "” is not a measure Zevo knows"};
    if (edge != "min" && edge != "max") throw Refused{path + "/edge", "“" + edge + "” is neither min nor max"};
    e.above = edge == "max";
    e.toAmount = flagAt(o, "to_amount", path);
    e.to = numberAt(o, "to", path);
    if (e.to && e.toAmount) throw Refused{path + "/to", "and to_amount cannot both be given"};
    e.times = numberAt(o, "times", path).value_or(1);
    e.plus = numberAt(o, "plus", path).value_or(0);
    e.fault = textAt(o, "fault", path, false);
    return e;
}

AskRung::Sets setsAt(const Json& o, const std::string& path) {
    const std::string sets = textAt(o, "sets", path, false);
    if (sets.empty()) return AskRung::Sets::Nothing;
    if (sets == "box_cm") return AskRung::Sets::BoxCm;
    if (sets == "wedge_deg") return AskRung::Sets::WedgeDeg;
    if (sets == "pole") return AskRung::Sets::Pole;
    throw Refused{path + "/sets", "“" + sets + "” is not one of box_cm, wedge_deg, pole"};
}

AskRung readRung(const Json& o, const std::string& path) {
    if (!o.is_object()) throw Refused{path, "must be an object, not " + o.dump()};
    AskRung r;
    r.id = textAt(o, "id", path, true);
    r.asked = textAt(o, "asked", path, true);
    r.variation = textAt(o, "variation", path, false);
    r.sets = setsAt(o, path);
    if (o.contains("amount")) {
        const Json& a = o["amount"];
        const std::string at = path + "/amount";
        if (!a.is_object()) throw Refused{at, "must be an object, not " + a.dump()};
        r.unit = textAt(a, "unit", at, true);
        auto number = [&](const char* key) {
            const auto value = numberAt(a, key, at);
            if (!value) throw Refused{at + "/" + key, "is missing"};
            return *value;
        };
        r.least = number("least"), r.most = number("most"), r.step = number("step"), r.usual = number("usual");
        r.harderDown = flagAt(a, "harder_down", at);
        if (r.step <= 0 || r.least > r.usual || r.usual > r.most)
            throw Refused{at, "must have a step, and its usual value between least and most"};
    }
    for (const Json& e : listAt(o, "edges", path)) {
        const std::string at = path + "/edges/" + std::to_string(r.edges.size());
        r.edges.push_back(readEdge(e, at));
        if (r.edges.back().toAmount && r.unit.empty()) throw Refused{at + "/to_amount", "needs an amount"};
    }
    return r;
}

/// Where an ask's edge lies.
std::optional<double> placeOf(const AskedEdge& edge, const std::optional<double>& amount) {
    if (!edge.toAmount) return edge.to;
    return amount ? std::optional(*amount * edge.times + edge.plus) : std::nullopt;
}

void takeEdge(std::vector<Band>& bands, const AskedEdge& edge, const std::optional<double>& amount) {
    const auto to = placeOf(edge, amount);
    bool there = false;
    for (Band& b : bands) {
        if (b.measure != edge.measure) continue;
        auto& value = edge.above ? b.max : b.min;
        auto& fault = edge.above ? b.faultAbove : b.faultBelow;
        auto& other = edge.above ? b.min : b.max;
        auto& otherFault = edge.above ? b.faultBelow : b.faultAbove;
        value = to;
        if (!to)
            fault.clear();
        else if (!edge.fault.empty())
            fault = edge.fault;
        // What is asked counts where the school's other edge would leave no room.
        if (to && other && (edge.above ? *other > *to : *other < *to)) other.reset(), otherFault.clear();
        there = true;
    }
    if (there || !to || edge.fault.empty()) return;
    Band b;
    b.measure = edge.measure;
    (edge.above ? b.max : b.min) = to;
    (edge.above ? b.faultAbove : b.faultBelow) = edge.fault;
    b.rank = 40;
    b.source = "as asked";
    bands.push_back(b);
}

}  // namespace

bool AskKind::isFor(const Movement& m) const {
    return names(movements, m);
}

const AskRung* AskKind::rung(const std::string& rungId) const {
    const auto found = std::find_if(rungs.begin(), rungs.end(), [&](const AskRung& r) { return r.id == rungId; });
    return found == rungs.end() ? nullptr : &*found;
}

Result<AskBook> parseAsks(const std::string& text, const std::string& name) {
    return readJson<AskBook>("The file of asks", text, name, "zevo-asks-1", [](const Json& root) {
        AskBook book;
        for (const Json& o : listAt(root, "asks", "")) {
            const std::string path = "/asks/" + std::to_string(book.size());
            if (!o.is_object()) throw Refused{path, "must be an object, not " + o.dump()};
            AskKind k{textAt(o, "id", path, true), textsAt(o, "for", path), {}};
            for (const Json& rung : listAt(o, "rungs", path)) {
                const std::string at = path + "/rungs/" + std::to_string(k.rungs.size());
                AskRung r = readRung(rung, at);
                if (k.rung(r.id)) throw Refused{at + "/id", "“" + r.id + "” stands there twice"};
                k.rungs.push_back(std::move(r));
            }
            if (k.rungs.empty()) throw Refused{path + "/rungs", "must hold at least one"};
            book.push_back(std::move(k));
        }
        return book;
    });
}

Json writeAsk(const Ask& a) {
    Json o{{"kind", a.kind}, {"rung", a.rung}, {"by", a.by}, {"on", a.on}, {"why", a.why}, {"movement", a.movement}};
    if (a.amount) o["amount"] = *a.amount;
    if (a.pain) o["pain"] = *a.pain;
    return o;
}

Ask readAsk(const Json& o) {
    Ask a;
    a.kind = o.at("kind").get<std::string>();
    a.rung = o.at("rung").get<std::string>();
    if (o.contains("amount")) a.amount = o.at("amount").get<double>();
    if (o.contains("pain")) a.pain = o.at("pain").get<int>();
    a.by = o.value("by", ""), a.on = o.value("on", ""), a.why = o.value("why", ""),
    a.movement = o.value("movement", "");
    return a;
}

const AskKind* kindOf(const Ask& ask, const AskBook& book, const Movement& movement) {
    const auto found = std::find_if(book.begin(), book.end(), [&](const AskKind& k) {
        return k.id == ask.kind && k.isFor(movement) && k.rung(ask.rung) &&
               (ask.movement.empty() || ask.movement == movement.id);
    });
    return found == book.end() ? nullptr : &*found;
}

const AskRung* rungOf(const Ask& ask, const AskBook& book, const Movement& movement) {
    const AskKind* kind = kindOf(ask, book, movement);
    return kind ? kind->rung(ask.rung) : nullptr;
}

std::optional<double> amountOf(const Ask& ask, const AskRung& rung) {
    if (rung.unit.empty()) return std::nullopt;
    const double said = ask.amount.value_or(rung.usual);
    return std::isfinite(said) ? std::clamp(said, rung.least, rung.most) : rung.usual;
}

Standard withAsks(const Standard& standard, const AskBook& book, const Asks& asks, const Movement& movement) {
    Standard out = standard;
    for (const Ask& ask : asks)
        if (const AskRung* rung = rungOf(ask, book, movement))
            for (const AskedEdge& edge : rung->edges) takeEdge(out.bands, edge, amountOf(ask, *rung));
    return out;
}

const Ask* standing(const Asks& asks, const std::string& kind, const std::string& movement) {
    const auto found = std::find_if(asks.begin(), asks.end(), [&](const Ask& a) {
        return a.kind == kind && (a.movement.empty() || a.movement == movement);
    });
    return found == asks.end() ? nullptr : &*found;
}

bool isAsked(const Ask& wanted, const Asks& asks) {
    return std::any_of(asks.begin(), asks.end(), [&](const Ask& a) {
        return a.kind == wanted.kind && a.rung == wanted.rung && (!wanted.amount || a.amount == wanted.amount);
    });
}

Asks with(Asks asks, Ask ask) {
    asks = without(std::move(asks), ask.movement, ask.kind);
    asks.push_back(std::move(ask));
    return asks;
}

Asks without(Asks asks, const std::string& movement, const std::string& kind) {
    std::erase_if(asks, [&](const Ask& a) { return a.movement == movement && a.kind == kind; });
    return asks;
}

std::optional<Ask> nextRung(const Ask& ask, const AskKind& kind, bool harder) {
    const auto here =
        std::find_if(kind.rungs.begin(), kind.rungs.end(), [&](const AskRung& r) { return r.id == ask.rung; });
    if (here == kind.rungs.end()) return std::nullopt;
    Ask out = ask;
    if (const auto amount = amountOf(ask, *here)) {
        const double moved = *amount + (harder != here->harderDown ? here->step : -here->step);
        if (moved >= here->least - 1e-9 && moved <= here->most + 1e-9) {
            out.amount = moved;
            return out;
        }
    }
    if (harder ? here + 1 == kind.rungs.end() : here == kind.rungs.begin()) return std::nullopt;
    const AskRung& next = harder ? *(here + 1) : *(here - 1);
    out.rung = next.id;
    out.amount.reset();
    if (!next.unit.empty()) out.amount = harder != next.harderDown ? next.least : next.most;
    return out;
}

}  // namespace zevo

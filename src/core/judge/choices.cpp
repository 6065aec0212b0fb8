#include "core/judge/choices.h"

#include <algorithm>

#include "core/base/json_reader.h"
#include "core/base/number_text.h"
#include "core/judge/band_reader.h"

namespace zevo {
namespace {

constexpr double kSmallestNumber = -60, kLargestNumber = 150;

std::string plainOption(const std::string& chosen) {
    return chosen.substr(0, chosen.find(':'));
}

std::vector<MeasureId> measuresOf(const ChoiceOption& option) {
    std::vector<MeasureId> out;
    for (const Band& b : option.bands)
        if (std::find(out.begin(), out.end(), b.measure) == out.end()) out.push_back(b.measure);
    std::sort(out.begin(), out.end());
    return out;
}

ChoiceOption readOption(const Json& o, const std::string& path) {
    if (!o.is_object()) throw Refused{path, "must be an object, not " + o.dump()};
    ChoiceOption out;
    out.id = textAt(o, "id", path, true);
    out.title = textAt(o, "title", path, true);
    out.with = textAt(o, "with", path, false);
    out.setUp = textAt(o, "set_up", path, false);
    out.as = textAt(o, "as", path, false);
    out.asksNumber = flagAt(o, "asks_number", path);
    for (const Json& b : listAt(o, "bands", path))
        out.bands.push_back(readBand(b, path + "/bands/" + std::to_string(out.bands.size())));
    return out;
}

/// The bands of an option as chosen, with its number in the place of the edges.
std::vector<Band> bandsOf(const ChoiceOption& option, const std::string& chosen) {
    std::vector<Band> out = option.bands;
    if (const auto number = numberOf(chosen); number && option.asksNumber)
        for (Band& b : out) {
            if (b.max) b.max = number;
            if (b.min) b.min = number;
        }
    return out;
}

bool names(const std::vector<Band>& bands, MeasureId measure) {
    return std::any_of(bands.begin(), bands.end(), [&](const Band& b) { return b.measure == measure; });
}

}  // namespace

bool Choice::isFor(const Movement& m) const {
    return names(movements, m);
}

const ChoiceOption* Choice::option(const std::string& chosen) const {
    const std::string wanted = plainOption(chosen);
    const auto found = std::find_if(options.begin(), options.end(), [&](const auto& o) { return o.id == wanted; });
    return found == options.end() ? nullptr : &*found;
}

Result<ChoiceBook> parseChoices(const std::string& text, const std::string& name) {
    return readJson<ChoiceBook>("The file of choices", text, name, "zevo-choices-1", [](const Json& root) {
        ChoiceBook book;
        for (const Json& o : listAt(root, "choices", "")) {
            const std::string path = "/choices/" + std::to_string(book.size());
            if (!o.is_object()) throw Refused{path, "must be an object, not " + o.dump()};
            Choice c{textAt(o, "id", path, true), textAt(o, "title", path, true), textsAt(o, "for", path), {}};
            for (const Json& option : listAt(o, "options", path)) {
                const std::string at = path + "/options/" + std::to_string(c.options.size());
                c.options.push_back(readOption(option, at));
                // Else a band of the option left behind would stay in force.
                if (measuresOf(c.options.back()) != measuresOf(c.options.front()))
                    throw Refused{at + "/bands", "must name the same measures as the first option"};
            }
            if (c.options.size() < 2) throw Refused{path + "/options", "must hold at least two"};
            book.push_back(std::move(c));
        }
        return book;
    });
}

std::optional<std::pair<std::string, std::string>> ownNumberFor(const ChoiceBook& book, const Movement& movement,
                                                                MeasureId measure) {
    for (const Choice& choice : book) {
        if (!choice.isFor(movement)) continue;
        for (const ChoiceOption& option : choice.options)
            if (option.asksNumber && std::any_of(option.bands.begin(), option.bands.end(), [&](const Band& b) {
                    return b.measure == measure && (b.min || b.max);
                }))
                return std::pair(choice.id, option.id);
    }
    return std::nullopt;
}

std::optional<double> numberOf(const std::string& chosen) {
    const auto colon = chosen.find(':');
    if (colon == std::string::npos) return std::nullopt;
    const auto value = numberFrom(std::string_view(chosen).substr(colon + 1));
    return value && *value >= kSmallestNumber && *value <= kLargestNumber ? value : std::nullopt;
}

std::string problemOf(const Choices& choices, const ChoiceBook& book) {
    for (const auto& [id, chosen] : choices) {
        const auto choice = std::find_if(book.begin(), book.end(), [&](const Choice& c) { return c.id == id; });
        if (choice == book.end()) return "/choices/" + id + " is not a choice Zevo knows";
        const ChoiceOption* option = choice->option(chosen);
        if (!option || (!option->asksNumber && option->id != chosen))
            return "/choices/" + id + " “" + chosen + "” is not one of its options";
        if (option->asksNumber && !numberOf(chosen))
            return "/choices/" + id + " “" + chosen + "” must carry its number, such as own:12";
    }
    return {};
}

Standard withBundle(const Standard& school, const ChoiceBook& book) {
    Standard out = school;
    for (const Choice& c : book) {
        const auto chosen = school.choices.find(c.id);
        const ChoiceOption* option = chosen == school.choices.end() ? nullptr : c.option(chosen->second);
        if (!option) continue;
        for (const Band& b : bandsOf(*option, chosen->second))
            if (!names(school.bands, b.measure)) out.bands.push_back(b);
    }
    return out;
}

Standard withChoices(const Standard& school, const ChoiceBook& book, const Choices& overrides,
                     const Movement& movement) {
    Standard out = school;
    for (const Choice& c : book) {
        const auto chosen = overrides.find(c.id), bundled = school.choices.find(c.id);
        if (!c.isFor(movement) || chosen == overrides.end()) continue;
        if (bundled != school.choices.end() && bundled->second == chosen->second) continue;
        const ChoiceOption* option = c.option(chosen->second);
        if (!option || (option->asksNumber && !numberOf(chosen->second))) continue;
        const std::vector<Band> bands = bandsOf(*option, chosen->second);
        std::erase_if(out.bands, [&](const Band& b) { return names(bands, b.measure); });
        out.bands.insert(out.bands.end(), bands.begin(), bands.end());
        out.choices[c.id] = chosen->second;
        if (!option->with.empty()) out.changed.push_back(option->with);
    }
    return out;
}

std::vector<std::string> setUpOf(const Choices& choices, const ChoiceBook& book, const Movement& movement,
                                 const std::string& variation) {
    const bool busy = movement.hands(variation) != Hands::Free;
    std::vector<std::string> out;
    for (const Choice& c : book) {
        const auto chosen = choices.find(c.id);
        const ChoiceOption* option = chosen == choices.end() || !c.isFor(movement) ? nullptr : c.option(chosen->second);
        const bool ofArms = c.id == "arms" && option && option->id != "pushed-away";  // that needs a weight
        if (option && !option->setUp.empty() && !(busy && ofArms)) out.push_back(option->setUp);
    }
    return out;
}

bool toesLight(const Choices& choices) {
    const auto foot = choices.find("foot");
    return foot != choices.end() && foot->second == "toes-light";
}

std::string judgedAs(const std::string& variation, const Choices& choices, const ChoiceBook& book,
                     const Movement& movement) {
    if (!variation.empty()) return variation;
    for (const Choice& c : book) {
        const auto chosen = choices.find(c.id);
        const ChoiceOption* option = chosen == choices.end() || !c.isFor(movement) ? nullptr : c.option(chosen->second);
        if (option && movement.variation(option->as)) return option->as;
    }
    return {};
}

Arms armsOf(const Choices& choices) {
    const auto arms = choices.find("arms");
    if (arms == choices.end()) return Arms::Reach;
    if (arms->second == "held-in") return Arms::HeldIn;
    if (arms->second == "behind-head") return Arms::BehindHead;
    return arms->second == "pushed-away" ? Arms::PushedAway : Arms::Reach;
}

}  // namespace zevo

#include "core/judge/tempo.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <charconv>

namespace zevo {
namespace {

constexpr double kLongestS = 30;

/// Three figures at most; a point whatever the country, since records and files hold it.
std::string shortNumber(double v) {
    std::array<char, 32> out{};
    const auto end = std::to_chars(out.data(), out.data() + out.size(), v, std::chars_format::general, 3);
    return {out.data(), end.ptr};
}

Band timeBand(const char* measure, double asked, const std::string& tooShort, int rank) {
    const double slack = std::max(0.5, 0.25 * asked);
    Band b;
    b.measure = MeasureId::named(measure);
    b.max = asked + slack;
    b.rank = rank;
    if (asked > slack) {
        b.min = asked - slack;
        b.faultBelow = tooShort;
    }
    return b;
}

}  // namespace

Result<Tempo> parseTempo(const std::string& text) {
    const Error refused{"A tempo is three numbers of seconds: down, pause, up, such as 4-1-1; not “" + text + "”.",
                        "tempo " + text};
    std::array<double, 3> part{};
    const char* at = text.data();
    const char* const end = at + text.size();
    for (std::size_t i = 0; i < part.size(); ++i) {
        if (i > 0 && (at == end || *at++ != '-')) return refused;
        // A comma is what half of the world writes for the point.
        std::string figures;
        while (at != end && (std::isdigit(static_cast<unsigned char>(*at)) || *at == '.' || *at == ','))
            figures += *at == ',' ? '.' : *at, ++at;
        const auto [stop, problem] = std::from_chars(figures.data(), figures.data() + figures.size(), part[i]);
        if (problem != std::errc() || stop != figures.data() + figures.size() || part[i] > kLongestS) return refused;
    }
    if (at != end || part[0] <= 0 || part[2] <= 0) return refused;
    return Tempo{part[0], part[1], part[2]};
}

std::string tempoText(const Tempo& tempo) {
    return shortNumber(tempo.lowerS) + "-" + shortNumber(tempo.pauseS) + "-" + shortNumber(tempo.liftS);
}

Standard withTempo(const Standard& standard, const Tempo& tempo, Drive drive) {
    const bool bridge = drive == Drive::HipRise;
    Standard out = standard;
    std::erase_if(out.bands, [](const Band& b) {
        const std::string id = b.measure.name();
        return id == "lowering_s" || id == "pause_s" || id == "lifting_s";
    });
    out.bands.push_back(timeBand("lowering_s", tempo.lowerS, bridge ? "dropped" : "lowering_fast", 40));
    out.bands.push_back(timeBand("pause_s", tempo.pauseS, bridge ? "hold_missing" : "pause_short", 41));
    out.bands.push_back(timeBand("lifting_s", tempo.liftS, "", 100));
    return out;
}

}  // namespace zevo

#include "core/standards/tempo.h"

#include <algorithm>
#include <array>
#include <cstdio>
#include <sstream>

namespace zevo {
namespace {

constexpr double kLongestS = 30;

std::string shortNumber(double v) {
    std::array<char, 32> out{};
    std::snprintf(out.data(), out.size(), "%.3g", v);
    return out.data();
}

Band timeBand(const char* measure, double asked, const std::string& tooShort, int rank) {
    const double slack = std::max(0.5, 0.25 * asked);
    Band b;
    b.measure = measure;
    b.max = asked + slack;
    b.rank = rank;
    b.scaleTo = std::max(5.0, 1.5 * asked);
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
    std::istringstream in(text);
    std::array<double, 3> part{};
    for (std::size_t i = 0; i < part.size(); ++i) {
        char dash = 0;
        if (i > 0 && (!in.get(dash) || dash != '-')) return refused;
        if (!(in >> part[i]) || part[i] < 0 || part[i] > kLongestS) return refused;
    }
    if (in.peek() != std::istringstream::traits_type::eof() || part[0] <= 0 || part[2] <= 0) return refused;
    return Tempo{part[0], part[1], part[2]};
}

std::string tempoText(const Tempo& tempo) {
    return shortNumber(tempo.lowerS) + "-" + shortNumber(tempo.pauseS) + "-" + shortNumber(tempo.liftS);
}

Standard withTempo(const Standard& standard, const Tempo& tempo, Drive drive) {
    const bool bridge = drive == Drive::HipRise;
    Standard out = standard;
    std::erase_if(out.bands, [](const Band& b) {
        return b.measure == "lowering_s" || b.measure == "pause_s" || b.measure == "lifting_s";
    });
    out.bands.push_back(timeBand("lowering_s", tempo.lowerS, bridge ? "dropped" : "lowering_fast", 40));
    out.bands.push_back(timeBand("pause_s", tempo.pauseS, bridge ? "hold_missing" : "bottom_bounced", 41));
    out.bands.push_back(timeBand("lifting_s", tempo.liftS, "", 100));
    return out;
}

}  // namespace zevo

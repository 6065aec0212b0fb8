#include "core/base/contour.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace zevo {

std::vector<Vec2> largestContour(std::span<const float> field, int width, int height, float level) {
    if (static_cast<std::size_t>(width) * static_cast<std::size_t>(height) != field.size()) return {};
    auto value = [&](int x, int y) {
        return x < 0 || y < 0 || x >= width || y >= height ? 0.0F : field[static_cast<std::size_t>(y) * width + x];
    };
    // Crossing points live on grid edges; an edge is named by its upper-left corner and direction.
    using Edge = std::pair<int, int>;  // (corner index · 2 + vertical, 0)
    auto edge = [&](int x, int y, bool vertical) { return Edge{((y + 1) * (width + 2) + x + 1) * 2 + vertical, 0}; };
    auto place = [&](int x, int y, bool vertical) {
        const float a = value(x, y), b = vertical ? value(x, y + 1) : value(x + 1, y);
        const double w = (level - a) / (b - a);
        return vertical ? Vec2(x + 0.5, y + 0.5 + w) : Vec2(x + 0.5 + w, y + 0.5);
    };
    std::map<Edge, std::pair<Edge, Vec2>> next;  // from edge → to edge, with the place of "from"
    for (int y = -1; y < height; ++y)
        for (int x = -1; x < width; ++x) {
            const bool a = value(x, y) >= level, b = value(x + 1, y) >= level, c = value(x + 1, y + 1) >= level,
                       d = value(x, y + 1) >= level;
            const int cell = a | b << 1 | c << 2 | d << 3;
            if (cell == 0 || cell == 15) continue;
            struct Side {
                Edge name;
                Vec2 at;
            };
            auto side = [&](int k) -> Side {
                switch (k) {
                    case 0: return {edge(x, y, false), place(x, y, false)};
                    case 1: return {edge(x + 1, y, true), place(x + 1, y, true)};
                    case 2: return {edge(x, y + 1, false), place(x, y + 1, false)};
                    default: return {edge(x, y, true), place(x, y, true)};
                }
            };
            // Inside on the right hand: walk from the side entered to the side left.
            auto link = [&](int from, int to) {
                const Side f = side(from), t = side(to);
                next[f.name] = {t.name, f.at};
            };
            switch (cell) {
                case 1: link(0, 3); break;
                case 2: link(1, 0); break;
                case 3: link(1, 3); break;
                case 4: link(2, 1); break;
                case 5: link(0, 3), link(2, 1); break;
                case 6: link(2, 0); break;
                case 7: link(2, 3); break;
                case 8: link(3, 2); break;
                case 9: link(0, 2); break;
                case 10: link(1, 0), link(3, 2); break;
                case 11: link(1, 2); break;
                case 12: link(3, 1); break;
                case 13: link(0, 1); break;
                default: link(3, 0); break;
            }
        }
    std::vector<Vec2> longest;
    while (!next.empty()) {
        std::vector<Vec2> line;
        Edge at = next.begin()->first;
        for (auto step = next.find(at); step != next.end(); step = next.find(at)) {
            line.push_back(step->second.second);
            at = step->second.first;
            next.erase(step);
        }
        if (line.size() > longest.size()) longest = std::move(line);
    }
    return longest;
}

std::vector<Vec2> simplified(const std::vector<Vec2>& line, double tolerance) {
    if (line.size() < 4) return line;
    // A closed line has no ends: it is cut at its first point and at the one furthest from that.
    std::size_t opposite = 0;
    for (std::size_t i = 1; i < line.size(); ++i)
        if ((line[i] - line[0]).squaredNorm() > (line[opposite] - line[0]).squaredNorm()) opposite = i;
    std::vector<bool> kept(line.size() + 1, false);
    kept[0] = kept[opposite] = kept[line.size()] = true;
    auto at = [&](std::size_t i) -> const Vec2& { return line[i % line.size()]; };
    std::vector<std::pair<std::size_t, std::size_t>> open{{0, opposite}, {opposite, line.size()}};
    while (!open.empty()) {
        const auto [from, to] = open.back();
        open.pop_back();
        const Vec2 along = at(to) - at(from);
        const double length = along.norm();
        double most = 0;
        std::size_t furthest = from;
        for (std::size_t i = from + 1; i < to; ++i) {
            const Vec2 d = at(i) - at(from);
            const double w = length > 0 ? std::clamp(d.dot(along) / (length * length), 0.0, 1.0) : 0;
            const double off = (d - w * along).norm();
            if (off > most) most = off, furthest = i;
        }
        if (most <= tolerance) continue;
        kept[furthest] = true;
        open.emplace_back(from, furthest), open.emplace_back(furthest, to);
    }
    std::vector<Vec2> out;
    for (std::size_t i = 0; i < line.size(); ++i)
        if (kept[i]) out.push_back(line[i]);
    return out;
}

}  // namespace zevo

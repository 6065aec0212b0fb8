#include "core/base/contour.h"

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

}  // namespace zevo

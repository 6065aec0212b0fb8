#include "pose/detector.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace zevo::pose {
namespace {

constexpr int kSide = 224;
constexpr int kAnchors = 2254;
constexpr float kMinScore = 0.5F;
constexpr double kSameIoU = 0.3;

struct Candidate {
    float score = 0;
    std::array<double, 12> v{};  // centre x, y, width, height, four key points; all 0..1 in the square
};

double overlap(const Candidate& a, const Candidate& b) {
    auto span = [](double ca, double sa, double cb, double sb) {
        return std::max(0.0, std::min(ca + sa / 2, cb + sb / 2) - std::max(ca - sa / 2, cb - sb / 2));
    };
    const double both = span(a.v[0], a.v[2], b.v[0], b.v[2]) * span(a.v[1], a.v[3], b.v[1], b.v[3]);
    const double either = a.v[2] * a.v[3] + b.v[2] * b.v[3] - both;
    return either > 0 ? both / either : 0;
}

/// Candidates of one person are averaged with their scores as weights.
std::vector<Candidate> mergeOverlapping(std::vector<Candidate> all) {
    std::sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.score > b.score; });
    std::vector<Candidate> out;
    while (!all.empty()) {
        const Candidate best = all.front();
        Candidate mean{best.score, {}};
        double total = 0;
        std::vector<Candidate> rest;
        for (const auto& c : all) {
            if (overlap(best, c) <= kSameIoU && &c != &all.front()) {
                rest.push_back(c);
                continue;
            }
            total += c.score;
            for (std::size_t i = 0; i < c.v.size(); ++i) mean.v[i] += c.score * c.v[i];
        }
        for (auto& x : mean.v) x /= total;
        out.push_back(mean);
        all = std::move(rest);
    }
    return out;
}

}  // namespace

Detector::Detector(Network network) : m_network(std::move(network)) {
    for (const auto& [grid, perCell] : {std::pair{28, 2}, {14, 2}, {7, 6}})
        for (int y = 0; y < grid; ++y)
            for (int x = 0; x < grid; ++x)
                for (int k = 0; k < perCell; ++k) m_anchors.emplace_back((x + 0.5F) / grid, (y + 0.5F) / grid);
}

Result<Detector> Detector::create(const Graph& graph) {
    auto network = Network::create(graph);
    if (!network) return network.error();
    if (network->input().size() != kSide * kSide * 3)
        return Error{"The person detector's file is not the one Zevo ships. Install Zevo again.", "input size"};
    return Detector(std::move(*network));
}

Result<std::vector<Detection>> Detector::detect(const PictureView& picture) {
    const double square = std::max(picture.width, picture.height);
    const Region whole{picture.width / 2.0, picture.height / 2.0, square, 0};
    sampleRegion(picture, whole, kSide, Border::Black, 1.0F / 127.5F, -1.0F, m_network.input());
    if (auto ran = m_network.run(); !ran) return ran.error();
    const auto boxes = m_network.output("Identity");
    const auto scores = m_network.output("Identity_1");
    if (boxes.size() != kAnchors * 12 || scores.size() != kAnchors)
        return Error{"The person detector's file is not the one Zevo ships. Install Zevo again.", "output size"};

    std::vector<Candidate> found;
    for (int a = 0; a < kAnchors; ++a) {
        const float score = 1.0F / (1.0F + std::exp(-std::clamp(scores[a], -100.0F, 100.0F)));
        if (score < kMinScore) continue;
        Candidate c{score, {}};
        for (int i = 0; i < 12; ++i) {
            const double anchor = (i == 2 || i == 3) ? 0 : (i % 2 ? m_anchors[a].second : m_anchors[a].first);
            c.v[i] = boxes[a * 12 + i] / kSide + anchor;
        }
        found.push_back(c);
    }
    std::vector<Detection> out;
    const double x0 = whole.centreX - square / 2, y0 = whole.centreY - square / 2;
    for (const auto& c : mergeOverlapping(std::move(found))) {
        Detection d;
        d.score = c.score;
        d.width = c.v[2] * square;
        d.height = c.v[3] * square;
        d.left = x0 + c.v[0] * square - d.width / 2;
        d.top = y0 + c.v[1] * square - d.height / 2;
        d.region =
            Region::fromPoints(x0 + c.v[4] * square, y0 + c.v[5] * square, x0 + c.v[6] * square, y0 + c.v[7] * square);
        out.push_back(d);
    }
    return out;
}

}  // namespace zevo::pose

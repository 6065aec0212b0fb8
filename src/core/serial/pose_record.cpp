#include "core/serial/pose_record.h"

#include <bit>
#include <cstring>
#include <nlohmann/json.hpp>

namespace zevo {
namespace {

using nlohmann::json;
using Bytes = std::vector<std::uint8_t>;

static_assert(std::endian::native == std::endian::little, "records are little endian");

const Error kDamaged{"The record of this set is damaged. Open its clip again to measure it anew.", "bad block"};

template <typename T>
class Column {
  public:
    void put(T v) {
        const auto* raw = reinterpret_cast<const std::uint8_t*>(&v);
        m_bytes.insert(m_bytes.end(), raw, raw + sizeof(T));
    }
    json take() { return json::binary(std::move(m_bytes)); }

  private:
    Bytes m_bytes;
};

/// A byte string of a map, read value by value; wrong length or no such key leaves it not good.
template <typename T>
class Reader {
  public:
    Reader(const json& map, const char* key, std::size_t count) {
        const auto found = map.find(key);
        if (found == map.end() || !found->is_binary()) return;
        m_bytes = &found->get_binary();
        m_good = m_bytes->size() == count * sizeof(T);
    }
    bool good() const { return m_good; }
    T next() {
        T v;
        std::memcpy(&v, m_bytes->data() + m_at, sizeof(T));
        m_at += sizeof(T);
        return v;
    }

  private:
    const std::vector<std::uint8_t>* m_bytes = nullptr;
    std::size_t m_at = 0;
    bool m_good = false;
};

/// The map of a block, if it is one of this schema, and how many items it holds.
std::optional<json> open(std::span<const std::uint8_t> block, const char* schema, std::size_t& count) {
    json map = json::from_cbor(block.begin(), block.end(), true, false);
    if (!map.is_object() || map.value("schema", json()) != schema) return std::nullopt;
    const auto found = map.find("time_s");
    if (found == map.end() || !found->is_binary()) return std::nullopt;
    count = found->get_binary().size() / sizeof(double);
    return map;
}

LandmarkPoint pointFrom(Reader<float>& values) {
    LandmarkPoint p;
    for (float* v : {&p.x, &p.y, &p.visibility, &p.presence}) *v = values.next();
    return p;
}

}  // namespace

std::vector<std::uint8_t> writePoses(const PoseFrames& poses) {
    Column<double> time;
    Column<std::uint8_t> found;
    Column<float> score, points, world, feet, shoes, heads;
    Column<std::uint8_t> shoeStates, headsRead;
    Column<std::int32_t> stretch;
    for (const auto& f : poses) {
        time.put(f.timeS);
        found.put(f.found);
        score.put(f.score);
        for (const auto& p : f.points)
            for (float v : {p.x, p.y, p.visibility, p.presence}) points.put(v);
        for (const auto& w : f.world)
            for (float v : w) world.put(v);
        for (const auto& p : f.feet) {
            for (float v : {p.x, p.y, p.score}) feet.put(v);
            stretch.put(p.stretch);
        }
        for (const auto& s : f.shoes) {
            shoeStates.put(static_cast<std::uint8_t>(s.state));
            for (float v : {s.rise, s.half, s.apart, s.likeness}) shoes.put(v);
        }
        headsRead.put(f.head.read);
        for (float v : {f.head.turnDeg, f.head.likeness, f.head.apartDeg}) heads.put(v);
    }
    return json::to_cbor(json{{"schema", "zevo-poses-2"},
                              {"frames", poses.size()},
                              {"time_s", time.take()},
                              {"found", found.take()},
                              {"score", score.take()},
                              {"points", points.take()},
                              {"world", world.take()},
                              {"feet", feet.take()},
                              {"stretch", stretch.take()},
                              {"shoe_states", shoeStates.take()},
                              {"shoes", shoes.take()},
                              {"heads_read", headsRead.take()},
                              {"heads", heads.take()}});
}

Result<PoseFrames> readPoses(std::span<const std::uint8_t> block) {
    std::size_t n = 0;
    const auto map = open(block, "zevo-poses-2", n);
    if (!map) return kDamaged;
    Reader<double> time(*map, "time_s", n);
    Reader<std::uint8_t> found(*map, "found", n);
    Reader<float> score(*map, "score", n), points(*map, "points", n * kLandmarkCount * 4),
        world(*map, "world", n * kLandmarkCount * 3), feet(*map, "feet", n * kFootPointCount * 3);
    Reader<std::int32_t> stretch(*map, "stretch", n * kFootPointCount);
    if (!time.good() || !found.good() || !score.good() || !points.good() || !world.good() || !feet.good() ||
        !stretch.good())
        return kDamaged;
    // Records of before shoes and heads were read this way have none.
    const bool hasShoes = map->contains("shoes");
    Reader<float> shoes(*map, "shoes", n * kFootPointCount * 4);
    Reader<std::uint8_t> shoeStates(*map, "shoe_states", n * kFootPointCount);
    if (hasShoes && (!shoes.good() || !shoeStates.good())) return kDamaged;
    const bool hasHeads = map->contains("heads");
    Reader<float> heads(*map, "heads", n * 3);
    Reader<std::uint8_t> headsRead(*map, "heads_read", n);
    if (hasHeads && (!heads.good() || !headsRead.good())) return kDamaged;
    PoseFrames out(n);
    for (auto& f : out) {
        f.timeS = time.next();
        f.found = found.next() != 0;
        f.score = score.next();
        for (auto& p : f.points) p = pointFrom(points);
        for (auto& w : f.world)
            for (float& v : w) v = world.next();
        for (auto& p : f.feet) {
            p.x = feet.next();
            p.y = feet.next();
            p.score = feet.next();
            p.stretch = stretch.next();
        }
        if (hasHeads) {
            f.head.read = headsRead.next() != 0;
            f.head.turnDeg = heads.next(), f.head.likeness = heads.next(), f.head.apartDeg = heads.next();
        }
        if (!hasShoes) continue;
        for (auto& s : f.shoes) {
            const auto state = shoeStates.next();
            if (state > static_cast<std::uint8_t>(ShoeReading::State::Read)) return kDamaged;
            s.state = static_cast<ShoeReading::State>(state);
            s.rise = shoes.next(), s.half = shoes.next(), s.apart = shoes.next(), s.likeness = shoes.next();
        }
    }
    return out;
}

std::vector<std::uint8_t> writeSecondEstimates(const std::vector<SecondEstimate>& secondEstimates) {
    Column<double> time;
    Column<std::uint8_t> network;
    Column<float> points;
    for (const auto& o : secondEstimates) {
        time.put(o.timeS);
        network.put(o.network == "second");
        for (const auto& p : o.points)
            for (float v : {p.x, p.y, p.visibility, p.presence}) points.put(v);
    }
    return json::to_cbor(json{{"schema", "zevo-opinions-1"},
                              {"time_s", time.take()},
                              {"network", network.take()},
                              {"points", points.take()}});
}

Result<std::vector<SecondEstimate>> readSecondEstimates(std::span<const std::uint8_t> block) {
    std::size_t n = 0;
    const auto map = open(block, "zevo-opinions-1", n);
    if (!map) return kDamaged;
    Reader<double> time(*map, "time_s", n);
    Reader<std::uint8_t> network(*map, "network", n);
    Reader<float> points(*map, "points", n * kLandmarkCount * 4);
    if (!time.good() || !network.good() || !points.good()) return kDamaged;
    std::vector<SecondEstimate> out(n);
    for (auto& o : out) {
        o.timeS = time.next();
        o.network = network.next() ? "second" : "heavy";
        for (auto& p : o.points) p = pointFrom(points);
    }
    return out;
}

std::vector<std::uint8_t> writeOutlines(const std::vector<Outline>& outlines) {
    Column<double> time;
    Column<std::uint32_t> counts;
    Column<float> xy;
    Column<std::uint8_t> edges;
    for (const auto& o : outlines) {
        time.put(o.timeS);
        counts.put(static_cast<std::uint32_t>(o.points.size()));
        for (const auto& [x, y] : o.points) xy.put(x), xy.put(y);
        for (std::size_t i = 0; i < o.points.size(); ++i) {
            const auto edge = i < o.edges.size() ? o.edges[i] : Outline::Edge{};
            edges.put(edge.contrast), edges.put(edge.rival);
        }
    }
    json map{{"schema", "zevo-outlines-2"}, {"time_s", time.take()}, {"points", counts.take()}, {"xy", xy.take()}};
    if (std::any_of(outlines.begin(), outlines.end(), [](const Outline& o) { return !o.edges.empty(); }))
        map["edges"] = edges.take();
    return json::to_cbor(map);
}

Result<std::vector<Outline>> readOutlines(std::span<const std::uint8_t> block) {
    std::size_t n = 0;
    const auto map = open(block, "zevo-outlines-2", n);
    if (!map) return kDamaged;
    Reader<double> time(*map, "time_s", n);
    Reader<std::uint32_t> counts(*map, "points", n);
    if (!time.good() || !counts.good()) return kDamaged;
    std::vector<Outline> out(n);
    std::vector<std::uint32_t> sizes;
    std::size_t all = 0;
    for (std::size_t i = 0; i < n; ++i) sizes.push_back(counts.next()), all += sizes.back();
    Reader<float> xy(*map, "xy", 2 * all);
    if (!xy.good()) return kDamaged;
    const bool looked = map->contains("edges");
    Reader<std::uint8_t> edges(*map, looked ? "edges" : "xy", looked ? 2 * all : 8 * all);
    if (!edges.good()) return kDamaged;
    for (std::size_t i = 0; i < n; ++i) {
        out[i].timeS = time.next();
        for (std::uint32_t k = 0; k < sizes[i]; ++k) {
            const float x = xy.next(), y = xy.next();
            out[i].points.emplace_back(x, y);
            if (!looked) continue;
            const std::uint8_t contrast = edges.next(), rival = edges.next();
            out[i].edges.push_back({contrast, rival});
        }
    }
    return out;
}

}  // namespace zevo

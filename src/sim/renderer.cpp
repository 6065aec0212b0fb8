// Deferred software rendering: the room once, the figure rasterised at twice the resolution into a depth +
// normal buffer, normals smoothed inside each piece, then one shadow-mapped key light and a soft sky light.
#include "sim/renderer.h"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "core/base/degrees.h"
#include "sim/room.h"
#include "sim/shadow_map.h"
#include "sim/surface.h"

namespace zevo::sim {
namespace {

using V3 = Eigen::Vector3f;
constexpr int kSuper = 2;

struct Sample {
    float depth = 1e9F;
    std::uint32_t triangle = 0;
    float w0 = 0, w1 = 0;  // perspective-correct weights of the triangle's first two corners
    V3 normal = V3::Zero();
    std::uint8_t group = 0;
};

}  // namespace

struct Renderer::Impl {
    SceneSpec scene;
    V3 eye, right, up, forward;  // camera frame
    float focal = 0;
    V3 toLight;
    ShadowMap shadow;
    V3 across;  // level, to the picture's right
    double timeS = 0;
    float exposure = 1;
    struct Room {
        V3 ambient, key;
        float facesLight = 0;
        V3 inShadowMap;
        float vignette = 1;
        float across = 0;                    // along the picture's right, metres
        std::array<std::uint8_t, 3> open{};  // display value where no shadow falls
    };
    std::vector<Room> room;
    std::vector<Sample> samples;
    int left = 0, top = 0, wide = 0, tall = 0;  // figure's part of the picture, supersampled pixels

    explicit Impl(const SceneSpec& s) : scene(s) {
        const Camera camera(s.camera);
        eye = camera.eye().cast<float>();
        forward = camera.forward().cast<float>();
        right = camera.right().cast<float>();
        up = camera.up().cast<float>();
        focal = static_cast<float>(camera.focalPx());
        // Key light from the upper left behind the camera, whichever side it stands on.
        const V3 level = V3(-forward.x(), 0, -forward.z()).normalized();
        const auto turn = static_cast<float>(scene.looks.lightTurnDeg * kRadiansPerDegree);
        const V3 flat = level * 0.62F - right * 0.55F;
        toLight = V3(std::cos(turn) * flat.x() + std::sin(turn) * flat.z(), 1.0F,
                     std::cos(turn) * flat.z() - std::sin(turn) * flat.x())
                      .normalized();
        across = V3(forward.x(), 0, forward.z()).normalized().cross(V3(0, 1, 0));
        shadow = ShadowMap(toLight);
        drawRoom();
    }

    V3 ray(float x, float y) const {
        const float w = static_cast<float>(scene.camera.width), h = static_cast<float>(scene.camera.height);
        return (forward + right * ((x - w / 2) / focal) - up * ((y - h / 2) / focal)).normalized();
    }

    void drawRoom() {
        const int w = scene.camera.width, h = scene.camera.height;
        room.resize(static_cast<std::size_t>(w) * h);
        const RoomPainter painter(scene, eye, forward);
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x) {
                Room r;
                const Surface seen =
                    painter.meet(ray(x + 0.5F, y + 0.5F), unit(static_cast<std::uint32_t>(x * 7919 + y)));
                const V3 &world = seen.place, &normal = seen.normal, &colour = seen.colour;
                const float u = seen.across, v = seen.away;
                // Room light falls off into the corners; a faint pool of daylight comes from the window side.
                const float corner =
                    0.72F +
                    0.28F * std::min(1.0F, std::min(kBackWallM - v + 0.1F, kSideWallM - std::abs(u) + 0.1F) / 0.9F);
                const float pool =
                    1.0F +
                    0.22F * std::exp(-((u + 1.1F) * (u + 1.1F) + (world.y() - 1.5F) * (world.y() - 1.5F)) / 1.2F);
                const float light = static_cast<float>(scene.light);
                r.ambient = colour.cwiseProduct(V3(0.50F, 0.52F, 0.55F)) * corner * light + seen.glow;
                r.facesLight = std::max(0.0F, normal.dot(toLight));
                r.key = colour.cwiseProduct(V3(0.86F, 0.81F, 0.72F)) * (r.facesLight * pool * light);
                r.across = u;
                r.inShadowMap = shadow.place(world);
                const float dx = 2.0F * x / w - 1, dy = 2.0F * y / h - 1;
                r.vignette = 1 - 0.10F * (dx * dx + dy * dy);
                const V3 open = (r.ambient + r.key) * r.vignette;
                for (int c = 0; c < 3; ++c) r.open[c] = display(open[c]);
                room[static_cast<std::size_t>(y) * w + x] = r;
            }
    }

    void rasterise(const Mesh& mesh) {
        const int w = scene.camera.width * kSuper, h = scene.camera.height * kSuper;
        struct Screen {
            float x, y, z;
        };
        std::vector<Screen> p(mesh.vertices.size());
        std::vector<char> away(mesh.vertices.size());  // looks the other way: its front hides it
        float minX = 1e9F, maxX = -1e9F, minY = 1e9F, maxY = -1e9F;
        for (std::size_t i = 0; i < p.size(); ++i) {
            const V3 q = mesh.vertices[i].position - eye;
            const float z = q.dot(forward);
            away[i] = mesh.vertices[i].normal.dot(q) > -kFacingAway * z;
            p[i] = {w / 2.0F + kSuper * focal * q.dot(right) / z, h / 2.0F - kSuper * focal * q.dot(up) / z, z};
            minX = std::min(minX, p[i].x), maxX = std::max(maxX, p[i].x);
            minY = std::min(minY, p[i].y), maxY = std::max(maxY, p[i].y);
        }
        auto even = [](float v) { return static_cast<int>(std::floor(v / kSuper)) * kSuper; };
        left = std::clamp(even(minX) - kSuper, 0, w);
        top = std::clamp(even(minY) - kSuper, 0, h);
        wide = std::clamp(even(maxX) + 2 * kSuper, 0, w) - left;
        tall = std::clamp(even(maxY) + 2 * kSuper, 0, h) - top;
        samples.assign(static_cast<std::size_t>(std::max(0, wide)) * std::max(0, tall), Sample{});
        for (std::size_t n = 0; n < mesh.triangles.size(); ++n) {
            const auto& t = mesh.triangles[n];
            const bool sheet = mesh.texture(n) && mesh.texture(n)->seeThrough;  // seen from both sides
            if (!sheet && away[t[0]] && away[t[1]] && away[t[2]]) continue;
            const Screen &a = p[t[0]], &b = p[t[1]], &c = p[t[2]];
            const float area = (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
            if (std::abs(area) < 1e-6F || a.z < 0.1F || b.z < 0.1F || c.z < 0.1F) continue;
            const int x0 = std::max(left, static_cast<int>(std::min({a.x, b.x, c.x}))),
                      x1 = std::min(left + wide - 1, static_cast<int>(std::max({a.x, b.x, c.x})) + 1);
            const int y0 = std::max(top, static_cast<int>(std::min({a.y, b.y, c.y}))),
                      y1 = std::min(top + tall - 1, static_cast<int>(std::max({a.y, b.y, c.y})) + 1);
            // Edge functions are linear in x: step them along the row instead of computing them at each pixel.
            const float inverse = 1 / area, za = 1 / a.z, zb = 1 / b.z, zc = 1 / c.z;
            const float step0 = (b.y - c.y) * inverse, step1 = (c.y - a.y) * inverse;
            const Texture* sheer = mesh.texture(n);
            if (sheer && !sheer->seeThrough) sheer = nullptr;
            for (int y = y0; y <= y1; ++y) {
                const float px = x0 + 0.5F, py = y + 0.5F;
                float w0 = ((b.x - px) * (c.y - py) - (b.y - py) * (c.x - px)) * inverse;
                float w1 = ((c.x - px) * (a.y - py) - (c.y - py) * (a.x - px)) * inverse;
                Sample* row = samples.data() + static_cast<std::size_t>(y - top) * wide - left;
                for (int x = x0; x <= x1; ++x, w0 += step0, w1 += step1) {
                    const float w2 = 1 - w0 - w1;
                    if (w0 < 0 || w1 < 0 || w2 < 0) continue;
                    const float z = 1 / (w0 * za + w1 * zb + w2 * zc);
                    Sample& s = row[x];
                    if (z >= s.depth) continue;
                    if (sheer && !hides(mesh, *sheer, n, w0 * za * z, w1 * zb * z)) continue;
                    s.depth = z;
                    s.triangle = static_cast<std::uint32_t>(n);
                    s.w0 = w0 * za * z;
                    s.w1 = w1 * zb * z;
                    s.group = mesh.groups[n];
                }
            }
        }
        for (Sample& s : samples) {
            if (s.group == 0) continue;
            const auto& t = mesh.triangles[s.triangle];
            const auto &va = mesh.vertices[t[0]], &vb = mesh.vertices[t[1]], &vc = mesh.vertices[t[2]];
            const float w2 = 1 - s.w0 - s.w1;
            s.normal = va.normal * s.w0 + vb.normal * s.w1 + vc.normal * w2;
        }
    }

    static Eigen::Vector2f placeIn(const Mesh& mesh, std::size_t triangle, float w0, float w1) {
        const auto& t = mesh.triangles[triangle];
        return mesh.vertices[t[0]].uv * w0 + mesh.vertices[t[1]].uv * w1 + mesh.vertices[t[2]].uv * (1 - w0 - w1);
    }

    static bool hides(const Mesh& mesh, const Texture& texture, std::size_t triangle, float w0, float w1) {
        const auto uv = placeIn(mesh, triangle, w0, w1);
        return texture.rgba[texture.at(uv.x(), uv.y()) + 3] >= 110;
    }

    static V3 ownColour(const Mesh& mesh, const Sample& s, const V3& corner) {
        const Texture* texture = mesh.texture(s.triangle);
        if (!texture) return corner;
        const auto uv = placeIn(mesh, s.triangle, s.w0, s.w1);
        const std::uint8_t* p = texture->rgba.data() + texture->at(uv.x(), uv.y());
        return corner.cwiseProduct(linear({p[0], p[1], p[2]}));
    }

    /// Tubes that meet inside one piece of cloth or skin would show a crease: average their normals.
    void smoothNormals(const Mesh& mesh) {
        const int reach = std::max(2, scene.camera.height * kSuper / 240);
        for (int pass = 0; pass < 2; ++pass) {
            const bool across = pass == 0;
            std::vector<V3> line;
            const int outer = across ? tall : wide, inner = across ? wide : tall;
            line.resize(inner);
            for (int o = 0; o < outer; ++o) {
                auto at = [&](int i) -> Sample& {
                    return across ? samples[static_cast<std::size_t>(o) * wide + i]
                                  : samples[static_cast<std::size_t>(i) * wide + o];
                };
                for (int i = 0; i < inner; ++i) {
                    const Sample& s = at(i);
                    line[i] = s.normal;
                    if (const int piece = s.group % kBystanderGroups; piece == 0 || piece >= 14 || piece == 5) continue;
                    if (mesh.texture(s.triangle)) continue;  // made as one
                    V3 sum = V3::Zero();
                    for (int k = -reach; k <= reach; k += 2) {
                        const int j = i + k;
                        if (j < 0 || j >= inner) continue;
                        const Sample& n = at(j);
                        if (n.group == s.group && std::abs(n.depth - s.depth) < 0.035F) sum += n.normal;
                    }
                    line[i] = sum;
                }
                for (int i = 0; i < inner; ++i)
                    if (at(i).group != 0) at(i).normal = line[i];
            }
        }
    }

    V3 shade(const Mesh& mesh, const Sample& s) const {
        const auto& t = mesh.triangles[s.triangle];
        const auto &va = mesh.vertices[t[0]], &vb = mesh.vertices[t[1]], &vc = mesh.vertices[t[2]];
        const V3 world = va.position * s.w0 + vb.position * s.w1 + vc.position * (1 - s.w0 - s.w1);
        V3 n = s.normal.normalized();
        if (va.fold > 0) {
            const V3 e(0.012F, 0, 0);
            const float here = wave(world), strength = 0.16F * va.fold;
            n += strength * V3(wave(world + e) - here, wave(world + V3(0, 0.012F, 0)) - here,
                               wave(world + V3(0, 0, 0.012F)) - here);
            n.normalize();
        }
        const V3 toEye = (eye - world).normalized();
        const float key = std::max(0.0F, n.dot(toLight)) *
                          shadow.lit(shadow.place(world + n * 0.012F), 0.012F, scene.looks.shadowSpread) *
                          scene.looks.keyLight(world.dot(across), timeS);
        const float sky = 0.5F + 0.5F * n.y();
        const float bounce = 0.5F - 0.5F * n.y();
        const float ground = 0.55F + 0.45F * std::min(1.0F, world.y() / 0.5F);
        const float rim = std::pow(1 - std::max(0.0F, n.dot(toEye)), 3.0F) * 0.10F;
        const float fill = 0.12F * std::max(0.0F, n.dot(toEye));
        const V3 light = V3(0.86F, 0.81F, 0.72F) * key + V3(0.36F, 0.39F, 0.44F) * (sky * ground) +
                         V3(0.20F, 0.16F, 0.12F) * bounce + V3(1, 1, 1) * (fill + rim);
        return ownColour(mesh, s, va.colour).cwiseProduct(light) * static_cast<float>(scene.light);
    }

    void furnish(const Mesh& things) {
        if (things.triangles.empty()) return;
        shadow.fill(things);
        rasterise(things);
        for (int y = 0; y < tall; y += kSuper)
            for (int x = 0; x < wide; x += kSuper) {
                Room& r = room[static_cast<std::size_t>((top + y) / kSuper) * scene.camera.width + (left + x) / kSuper];
                V3 light = V3::Zero();
                int covered = 0;
                for (int k = 0; k < kSuper * kSuper; ++k) {
                    const Sample& s = samples[static_cast<std::size_t>(y + k / kSuper) * wide + (x + k % kSuper)];
                    if (s.group == 0) continue;
                    light += shade(things, s);
                    ++covered;
                }
                const float share = static_cast<float>(covered) / (kSuper * kSuper);
                if (covered == 0) continue;
                r.ambient = (1 - share) * (r.ambient + r.key) + light / (kSuper * kSuper);
                r.key = V3::Zero();
                r.facesLight = 0;
                for (int c = 0; c < 3; ++c) r.open[c] = display(r.ambient[c] * r.vignette);
            }
        samples.clear();
        samples.shrink_to_fit();
        wide = tall = 0;
    }

    void draw(const Mesh& mesh, long frame, Picture& out, double atS) {
        timeS = atS;
        exposure = scene.looks.exposureAt(atS);
        const int w = scene.camera.width, h = scene.camera.height;
        if (out.width != w || out.height != h) out = Picture(w, h);
        wide = tall = 0;
        if (scene.showClient && !mesh.triangles.empty()) {
            shadow.fill(mesh);
            rasterise(mesh);
            smoothNormals(mesh);
        }
        std::vector<std::array<std::uint8_t, 3>> row(w);
        for (int y = 0; y < h; ++y) {
            const Room* rooms = room.data() + static_cast<std::size_t>(y) * w;
            auto shadowed = [&](const Room& r) {
                const int spread = 2 + scene.looks.shadowSpread;
                const float open =
                    scene.showClient && r.facesLight > 0 ? shadow.lit(r.inShadowMap, 0.02F, spread) : 1.0F;
                return r.facesLight > 0 ? open * scene.looks.keyLight(r.across, timeS) : open;
            };
            auto roomLight = [&](const Room& r, float open) -> V3 {
                return r.ambient * (0.80F + 0.20F * std::min(1.0F, open)) + r.key * open;
            };
            auto show = [this](const V3& lightHere, float vignette) {
                const V3 light = lightHere * exposure;
                return std::array<std::uint8_t, 3>{display(light.x() * vignette), display(light.y() * vignette),
                                                   display(light.z() * vignette)};
            };
            for (int x = 0; x < w; ++x) {
                const float open = shadowed(rooms[x]);
                row[x] =
                    open == 1 && exposure == 1 ? rooms[x].open : show(roomLight(rooms[x], open), rooms[x].vignette);
            }
            const int sy = y * kSuper - top;
            if (sy >= 0 && sy + kSuper <= tall)
                for (int x = left / kSuper; x < (left + wide) / kSuper; ++x) {
                    V3 sum = V3::Zero();
                    int covered = 0;
                    constexpr int kAll = kSuper * kSuper;
                    std::array<const Sample*, kAll> part{};
                    for (int k = 0; k < kAll; ++k)
                        part[k] = &samples[static_cast<std::size_t>(sy + k / kSuper) * wide +
                                           (x * kSuper - left + k % kSuper)];
                    // Inside a piece one shading does for the pixel; its edges get one each.
                    const bool even =
                        part[0]->group != 0 && std::all_of(part.begin(), part.end(), [&](const Sample* s) {
                            return s->group == part[0]->group && std::abs(s->depth - part[0]->depth) < 0.01F;
                        });
                    if (even) {
                        covered = kAll;
                        sum = shade(mesh, *part[0]) * static_cast<float>(kAll);
                    } else {
                        for (const Sample* s : part) {
                            if (s->group == 0) continue;
                            sum += shade(mesh, *s);
                            ++covered;
                        }
                    }
                    if (!covered) continue;
                    if (covered < kAll)
                        sum += roomLight(rooms[x], shadowed(rooms[x])) * static_cast<float>(kAll - covered);
                    row[x] = show(sum / static_cast<float>(kAll), rooms[x].vignette);
                }
            const auto seed =
                hash(static_cast<std::uint32_t>(scene.seed * 977 + static_cast<std::uint64_t>(frame) * 131071 + y));
            // Sum of four bytes: close to Gaussian, σ = 1 after scaling.
            const float grainScale = static_cast<float>(scene.noise) / 148.0F;
            std::uint8_t* to = out.at(0, y);
            for (int x = 0; x < w; ++x) {
                const std::uint32_t noise = hash(seed + static_cast<std::uint32_t>(x));
                const int sum =
                    static_cast<int>((noise & 255) + (noise >> 8 & 255) + (noise >> 16 & 255) + (noise >> 24)) - 510;
                const float dark = 1 + scene.looks.darkNoise * (1 - static_cast<float>(row[x][1]) / 255);
                const int grain = static_cast<int>(std::lrint(static_cast<float>(sum) * grainScale * dark));
                for (int c = 0; c < 3; ++c, ++to)
                    *to = static_cast<std::uint8_t>(std::clamp(row[x][c] + grain, 0, 255));
            }
        }
    }
};

Renderer::Renderer(const SceneSpec& scene) : m_impl(std::make_unique<Impl>(scene)) {}
Renderer::~Renderer() = default;
Renderer::Renderer(Renderer&&) noexcept = default;

void Renderer::mask(std::vector<float>& inside, int& width, int& height) const {
    const Impl& i = *m_impl;
    width = i.scene.camera.width / kMaskStep;
    height = i.scene.camera.height / kMaskStep;
    inside.assign(static_cast<std::size_t>(width) * height, 0);
    constexpr int step = kMaskStep * kSuper;
    for (int y = 0; y < i.tall; y += step)
        for (int x = 0; x < i.wide; x += step) {
            const auto group = i.samples[static_cast<std::size_t>(y) * i.wide + x].group;
            const int my = (i.top + y) / step, mx = (i.left + x) / step;
            if (group != 0 && group < 15 && my < height && mx < width)
                inside[static_cast<std::size_t>(my) * width + mx] = 1;
        }
}

void Renderer::furnish(const Mesh& things) {
    m_impl->furnish(things);
}

void Renderer::draw(const Mesh& mesh, long frame, Picture& out, double timeS) {
    m_impl->draw(mesh, frame, out, timeS);
}

}  // namespace zevo::sim

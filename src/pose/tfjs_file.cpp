#include "pose/tfjs_file.h"

#include <cstring>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <sstream>

#include "pose/half_float.h"

namespace zevo::pose {
namespace {

using nlohmann::json;

constexpr const char* kDamagedWords =
    "The files of the second pose network are missing or damaged. Install Zevo again.";

struct Damaged {
    std::string what;
};

std::string wholeFile(const std::string& path) {
    std::ifstream in(path, std::ios::binary);
    if (!in) throw Damaged{path};
    std::ostringstream text;
    text << in.rdbuf();
    return text.str();
}

struct Constant {
    std::vector<std::size_t> shape;
    std::vector<float> floats;
    std::vector<std::int32_t> ints;
};

/// The constants of the manifest by name.
std::map<std::string, Constant> constantsOf(const json& root, const std::string& weights) {
    std::map<std::string, Constant> out;
    std::size_t at = 0;
    for (const json& group : root.at("weightsManifest"))
        for (const json& w : group.at("weights")) {
            Constant c;
            std::size_t count = 1;
            for (const json& d : w.at("shape")) {
                c.shape.push_back(d.get<std::size_t>());
                count *= c.shape.back();
            }
            const bool isInt = w.at("dtype") == "int32", isHalf = w.contains("quantization");
            const std::size_t bytes = count * (isHalf ? 2 : 4);
            if (count > (1U << 26) || at + bytes > weights.size()) throw Damaged{"weights are cut short"};
            const char* from = weights.data() + at;
            if (isInt) {
                c.ints.resize(count);
                std::memcpy(c.ints.data(), from, bytes);
            } else if (isHalf) {
                if (w["quantization"].at("dtype") != "float16") throw Damaged{"weights of an unknown kind"};
                std::vector<std::uint16_t> half(count);
                std::memcpy(half.data(), from, bytes);
                for (const std::uint16_t h : half) c.floats.push_back(fromHalf(h));
            } else {
                c.floats.resize(count);
                std::memcpy(c.floats.data(), from, bytes);
            }
            at += bytes;
            out[w.at("name").get<std::string>()] = std::move(c);
        }
    return out;
}

std::string decoded(const std::string& base64) {
    static const std::string kAlphabet = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
    std::string out;
    unsigned bits = 0, held = 0;
    for (char c : base64) {
        const auto value = kAlphabet.find(c);
        if (value == std::string::npos) break;
        bits = bits << 6 | static_cast<unsigned>(value), held += 6;
        if (held >= 8) out += static_cast<char>(bits >> (held -= 8) & 255U);
    }
    return out;
}

class Reader {
  public:
    Reader(const json& root, std::map<std::string, Constant> constants) : m_constants(std::move(constants)) {
        for (const json& node : root.at("modelTopology").at("node"))
            m_nodes[node.at("name").get<std::string>()] = &node;
    }

    Graph read(const std::string& input, const std::vector<std::size_t>& shape,
               const std::vector<std::string>& outputs) {
        m_tensors[input] = add(input, shape);
        m_graph.inputs = {m_tensors[input]};
        for (const auto& name : outputs) m_graph.outputs.push_back(tensor(name, 0));
        return std::move(m_graph);
    }

  private:
    int add(const std::string& name, const std::vector<std::size_t>& shape) {
        Tensor t;
        t.name = name;
        t.shape = shape;
        m_graph.tensors.push_back(std::move(t));
        return static_cast<int>(m_graph.tensors.size()) - 1;
    }

    const Constant& constant(const json& node, std::size_t input) const {
        const auto found = m_constants.find(node.at("input").at(input).get<std::string>());
        if (found == m_constants.end()) throw Damaged{"a weight that is not constant"};
        return found->second;
    }

    /// A kernel [h, w, a, b] as [b, h, w, a] (convolution) or [1, h, w, a·b] (depthwise).
    int kernel(const json& node, bool depthwise) {
        const Constant& c = constant(node, 1);
        if (c.shape.size() != 4 || c.floats.empty()) throw Damaged{"a kernel of an unexpected rank"};
        const std::size_t h = c.shape[0], w = c.shape[1], a = c.shape[2], b = c.shape[3];
        const int id = add(node.at("name").get<std::string>() + "/kernel",
                           depthwise ? std::vector<std::size_t>{1, h, w, a * b} : std::vector<std::size_t>{b, h, w, a});
        auto& out = m_graph.tensors[static_cast<std::size_t>(id)].floats;
        if (depthwise) {
            out = c.floats;
            return id;
        }
        out.resize(c.floats.size());
        for (std::size_t place = 0; place < h * w * a; ++place)
            for (std::size_t o = 0; o < b; ++o) out[o * h * w * a + place] = c.floats[place * b + o];
        return id;
    }

    void convolution(const json& node, Op& op, bool depthwise, int depth) {
        op.kind = depthwise ? OpKind::DepthwiseConv2D : OpKind::Conv2D;
        const json& attributes = node.at("attr");
        const int in = tensor(node.at("input").at(0).get<std::string>(), depth);
        const int k = kernel(node, depthwise);
        op.inputs = {in, k};
        if (attributes.contains("fused_ops"))
            for (const json& fused : attributes["fused_ops"].at("list").at("s")) {
                const std::string what = decoded(fused.get<std::string>());
                if (what == "Relu") op.activation = Activation::Relu;
                if (what == "Relu6") op.activation = Activation::Relu6;
                if (what != "BiasAdd") continue;
                const Constant& c = constant(node, 2);
                const int bias = add(node.at("name").get<std::string>() + "/bias", c.shape);
                m_graph.tensors[static_cast<std::size_t>(bias)].floats = c.floats;
                op.inputs.push_back(bias);
            }
        const json& strides = attributes.at("strides").at("list").at("i");
        op.strideH = std::stoi(strides.at(1).get<std::string>()),
        op.strideW = std::stoi(strides.at(2).get<std::string>());
        op.samePadding = decoded(attributes.at("padding").at("s").get<std::string>()) == "SAME";
        const auto& from = m_graph.tensors[static_cast<std::size_t>(in)].shape;
        const auto& size = m_graph.tensors[static_cast<std::size_t>(k)].shape;
        if (from.size() != 4 || op.strideH < 1 || op.strideW < 1) throw Damaged{"a convolution of something flat"};
        auto along = [&](std::size_t axis, int stride) {
            const auto s = static_cast<std::size_t>(stride);
            return op.samePadding ? (from[axis] + s - 1) / s : (from[axis] - size[axis]) / s + 1;
        };
        op.outputs = {add(node.at("name").get<std::string>(),
                          {1, along(1, op.strideH), along(2, op.strideW), depthwise ? size[3] : size[0]})};
    }

    /// The tensor a node gives; what leads to it is read first.
    int tensor(const std::string& name, int depth) {
        constexpr int kDeepest = 1000;
        if (const auto known = m_tensors.find(name); known != m_tensors.end()) return known->second;
        const auto found = m_nodes.find(name);
        if (found == m_nodes.end() || depth > kDeepest) throw Damaged{"no node " + name};
        const json& node = *found->second;
        const std::string kind = node.at("op").get<std::string>();
        Op op;
        auto input = [&](std::size_t i) { return tensor(node.at("input").at(i).get<std::string>(), depth + 1); };
        if (kind == "_FusedConv2D" || kind == "Conv2D") {
            convolution(node, op, false, depth + 1);
        } else if (kind == "FusedDepthwiseConv2dNative" || kind == "DepthwiseConv2dNative") {
            convolution(node, op, true, depth + 1);
        } else if (kind == "AddV2") {
            op.kind = OpKind::Add;
            op.inputs = {input(0), input(1)};
            op.outputs = {add(name, m_graph.tensors[static_cast<std::size_t>(op.inputs[0])].shape)};
        } else if (kind == "ResizeBilinear") {
            op.kind = OpKind::ResizeBilinear;
            op.halfPixelCentres = node.at("attr").at("half_pixel_centers").at("b").get<bool>();
            op.inputs = {input(0)};
            const Constant& size = constant(node, 1);
            if (size.ints.size() != 2 || size.ints[0] < 1 || size.ints[1] < 1) throw Damaged{"a resize to nowhere"};
            auto shape = m_graph.tensors[static_cast<std::size_t>(op.inputs[0])].shape;
            shape.at(1) = static_cast<std::size_t>(size.ints[0]), shape.at(2) = static_cast<std::size_t>(size.ints[1]);
            op.outputs = {add(name, shape)};
        } else {
            throw Damaged{"an operator “" + kind + "” that is not known"};
        }
        const int out = op.outputs[0];
        m_graph.ops.push_back(std::move(op));
        return m_tensors[name] = out;
    }

    std::map<std::string, Constant> m_constants;
    std::map<std::string, const json*> m_nodes;
    std::map<std::string, int> m_tensors;
    Graph m_graph;
};

template <typename Work>
auto guardedRead(const std::string& jsonPath, const std::string& weightsPath, Work work)
    -> Result<decltype(work(json(), std::map<std::string, Constant>()))> {
    try {
        const json root = json::parse(wholeFile(jsonPath));
        return work(root, constantsOf(root, wholeFile(weightsPath)));
    } catch (const Damaged& d) {
        return Error{kDamagedWords, d.what};
    } catch (const std::exception& e) {
        return Error{kDamagedWords, e.what()};
    }
}

}  // namespace

Result<Graph> loadTfjsGraph(const std::string& jsonPath, const std::string& weightsPath, const std::string& input,
                            const std::vector<std::size_t>& inputShape, const std::vector<std::string>& outputs) {
    return guardedRead(jsonPath, weightsPath, [&](const json& root, std::map<std::string, Constant> constants) {
        return Reader(root, std::move(constants)).read(input, inputShape, outputs);
    });
}

Result<std::vector<float>> loadTfjsConstant(const std::string& jsonPath, const std::string& weightsPath,
                                            const std::string& name) {
    return guardedRead(jsonPath, weightsPath, [&](const json&, std::map<std::string, Constant> constants) {
        return std::move(constants[name].floats);
    });
}

}  // namespace zevo::pose

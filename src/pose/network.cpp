#include "pose/network.h"

#include <xnnpack.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <set>

namespace zevo::pose {
namespace {

struct SubgraphDeleter {
    void operator()(xnn_subgraph_t s) const { xnn_delete_subgraph(s); }
};
struct RuntimeDeleter {
    void operator()(xnn_runtime_t r) const { xnn_delete_runtime(r); }
};
using Subgraph = std::unique_ptr<xnn_subgraph, SubgraphDeleter>;
using Runtime = std::unique_ptr<xnn_runtime, RuntimeDeleter>;

struct Padding {
    std::uint32_t top = 0, right = 0, bottom = 0, left = 0;
    bool any() const { return top + right + bottom + left > 0; }
};

struct Unsupported {
    std::string what;
};

std::pair<float, float> range(Activation a) {
    if (a == Activation::Relu) return {0.0F, INFINITY};
    if (a == Activation::Relu6) return {0.0F, 6.0F};
    return {-INFINITY, INFINITY};
}

/// The padding TensorFlow calls SAME: as even as possible, the odd pixel after.
void addSamePadding(Padding& pad, const std::vector<std::size_t>& shape, int kernelH, int kernelW, const Op& op) {
    auto total = [](std::size_t in, int kernel, int stride, int dilation) {
        const int out = (static_cast<int>(in) + stride - 1) / stride;
        return std::max(0, (out - 1) * stride + (kernel - 1) * dilation + 1 - static_cast<int>(in));
    };
    const int h = total(shape[1], kernelH, op.strideH, op.dilationH);
    const int w = total(shape[2], kernelW, op.strideW, op.dilationW);
    pad.top += h / 2;
    pad.bottom += h - h / 2;
    pad.left += w / 2;
    pad.right += w - w / 2;
}

class Builder {
  public:
    Builder(const Graph& graph, xnn_subgraph_t subgraph, const std::set<int>& externals)
        : m_graph(graph), m_subgraph(subgraph), m_externals(externals) {
        for (const auto& op : graph.ops)
            for (int input : op.inputs)
                if (input >= 0) m_users[input].push_back(&op);
    }

    void add(const Op& op) {
        if (op.kind == OpKind::Pad && foldsIntoConvolution(op)) return;
        switch (op.kind) {
            case OpKind::Conv2D: return convolution(op);
            case OpKind::DepthwiseConv2D: return depthwise(op);
            case OpKind::Add: {
                const auto [lo, hi] = range(op.activation);
                return check(xnn_define_add2(m_subgraph, lo, hi, id(in(op, 0)), id(in(op, 1)), id(op.outputs[0]), 0),
                             "ADD");
            }
            case OpKind::Pad: return pad(op);
            case OpKind::ResizeBilinear: {
                if (op.alignCorners || !op.halfPixelCentres) throw Unsupported{"resize without half-pixel centres"};
                const auto& shape = shapeOf(op.outputs[0], 4);
                return check(xnn_define_static_resize_bilinear_2d(m_subgraph, shape[1], shape[2], id(in(op, 0)),
                                                                  id(op.outputs[0]), 0),
                             "RESIZE_BILINEAR");
            }
            case OpKind::MaxPool2D: return maxPool(op);
            case OpKind::Logistic:
                return check(xnn_define_sigmoid(m_subgraph, id(in(op, 0)), id(op.outputs[0]), 0), "LOGISTIC");
            case OpKind::Reshape: {
                const auto& shape = m_graph.tensors[op.outputs[0]].shape;
                if (m_graph.tensors[in(op, 0)].elementCount() != m_graph.tensors[op.outputs[0]].elementCount())
                    throw Unsupported{"reshape to another size"};
                return check(xnn_define_static_reshape(m_subgraph, shape.size(), shape.data(), id(in(op, 0)),
                                                       id(op.outputs[0]), 0),
                             "RESHAPE");
            }
            case OpKind::DepthToSpace:
                return check(xnn_define_depth_to_space(m_subgraph, id(in(op, 0)), id(op.outputs[0]),
                                                       static_cast<std::uint32_t>(op.blockSize), 0),
                             "DEPTH_TO_SPACE");
            case OpKind::Concatenation: return;  // joined by hand after the run
        }
    }

    std::uint32_t id(int tensor) {
        if (const auto known = m_ids.find(tensor); known != m_ids.end()) return known->second;
        const auto& t = m_graph.tensors[tensor];
        if (!t.ints.empty()) throw Unsupported{"integer tensor as an operand"};
        std::uint32_t external = XNN_INVALID_VALUE_ID, flags = 0;
        if (m_externals.contains(tensor)) {
            external = static_cast<std::uint32_t>(std::distance(m_externals.begin(), m_externals.find(tensor)));
            const bool isInput =
                std::find(m_graph.inputs.begin(), m_graph.inputs.end(), tensor) != m_graph.inputs.end();
            flags = isInput ? XNN_VALUE_FLAG_EXTERNAL_INPUT : XNN_VALUE_FLAG_EXTERNAL_OUTPUT;
        }
        std::uint32_t made = XNN_INVALID_VALUE_ID;
        check(xnn_define_tensor_value(m_subgraph, xnn_datatype_fp32, t.shape.size(), t.shape.data(),
                                      t.floats.empty() ? nullptr : t.floats.data(), external, flags, &made),
              "tensor");
        return m_ids[tensor] = made;
    }

  private:
    static void check(xnn_status status, const char* what) {
        if (status != xnn_status_success) throw Unsupported{std::string("XNNPACK refused ") + what};
    }

    static int in(const Op& op, std::size_t i) {
        if (i >= op.inputs.size() || op.inputs[i] < 0) throw Unsupported{"operator with a missing operand"};
        return op.inputs[i];
    }

    const std::vector<std::size_t>& shapeOf(int tensor, std::size_t dims) const {
        const auto& shape = m_graph.tensors[tensor].shape;
        if (shape.size() != dims) throw Unsupported{"tensor of an unexpected rank"};
        return shape;
    }

    /// [dimension][before, after]
    std::vector<std::array<std::size_t, 2>> paddings(const Op& op) const {
        const auto& list = m_graph.tensors[in(op, 1)].ints;
        if (list.size() != 8) throw Unsupported{"padding of an unexpected rank"};
        std::vector<std::array<std::size_t, 2>> out;
        for (std::size_t i = 0; i < 4; ++i) {
            if (list[2 * i] < 0 || list[2 * i + 1] < 0 || list[2 * i] > 4096 || list[2 * i + 1] > 4096)
                throw Unsupported{"absurd padding"};
            out.push_back({static_cast<std::size_t>(list[2 * i]), static_cast<std::size_t>(list[2 * i + 1])});
        }
        return out;
    }

    bool foldsIntoConvolution(const Op& op) {
        const auto p = paddings(op);
        if (p[0][0] + p[0][1] + p[3][0] + p[3][1] > 0) return false;
        const auto users = m_users.find(op.outputs[0]);
        if (users == m_users.end() || m_externals.contains(op.outputs[0])) return false;
        for (const Op* user : users->second)
            if ((user->kind != OpKind::Conv2D && user->kind != OpKind::DepthwiseConv2D) || user->samePadding)
                return false;
        m_folded[op.outputs[0]] = {in(op, 0),
                                   {static_cast<std::uint32_t>(p[1][0]), static_cast<std::uint32_t>(p[2][1]),
                                    static_cast<std::uint32_t>(p[1][1]), static_cast<std::uint32_t>(p[2][0])}};
        return true;
    }

    /// The operand of a convolution, with padding that was folded into it.
    std::pair<int, Padding> operand(const Op& op) {
        const auto folded = m_folded.find(in(op, 0));
        return folded == m_folded.end() ? std::pair{in(op, 0), Padding{}} : folded->second;
    }

    std::uint32_t bias(const Op& op) {
        return op.inputs.size() > 2 && op.inputs[2] >= 0 ? id(op.inputs[2]) : XNN_INVALID_VALUE_ID;
    }

    void convolution(const Op& op) {
        auto [input, p] = operand(op);
        const auto& shape = shapeOf(input, 4);
        const auto& k = shapeOf(in(op, 1), 4);  // out, h, w, in
        if (op.samePadding) addSamePadding(p, shape, static_cast<int>(k[1]), static_cast<int>(k[2]), op);
        const auto [lo, hi] = range(op.activation);
        check(xnn_define_convolution_2d(m_subgraph, p.top, p.right, p.bottom, p.left, k[1], k[2], op.strideH,
                                        op.strideW, op.dilationH, op.dilationW, 1, k[3], k[0], lo, hi, id(input),
                                        id(in(op, 1)), bias(op), id(op.outputs[0]), 0),
              "CONV_2D");
    }

    void depthwise(const Op& op) {
        auto [input, p] = operand(op);
        const auto& shape = shapeOf(input, 4);
        const auto& k = shapeOf(in(op, 1), 4);  // 1, h, w, channels · multiplier
        if (op.samePadding) addSamePadding(p, shape, static_cast<int>(k[1]), static_cast<int>(k[2]), op);
        if (k[3] % shape[3] != 0) throw Unsupported{"depthwise multiplier"};
        const auto [lo, hi] = range(op.activation);
        check(xnn_define_depthwise_convolution_2d(m_subgraph, p.top, p.right, p.bottom, p.left, k[1], k[2], op.strideH,
                                                  op.strideW, op.dilationH, op.dilationW, k[3] / shape[3], shape[3], lo,
                                                  hi, id(input), id(in(op, 1)), bias(op), id(op.outputs[0]), 0),
              "DEPTHWISE_CONV_2D");
    }

    void pad(const Op& op) {
        const auto p = paddings(op);
        std::array<std::size_t, 4> before{}, after{};
        for (std::size_t i = 0; i < 4; ++i) before[i] = p[i][0], after[i] = p[i][1];
        check(xnn_define_static_constant_pad(m_subgraph, before.data(), after.data(), 0.0F, id(in(op, 0)),
                                             id(op.outputs[0]), 0),
              "PAD");
    }

    void maxPool(const Op& op) {
        Padding p;
        if (op.samePadding) addSamePadding(p, shapeOf(in(op, 0), 4), op.filterH, op.filterW, op);
        const auto [lo, hi] = range(op.activation);
        check(xnn_define_max_pooling_2d(m_subgraph, p.top, p.right, p.bottom, p.left, op.filterH, op.filterW,
                                        op.strideH, op.strideW, 1, 1, lo, hi, id(in(op, 0)), id(op.outputs[0]), 0),
              "MAX_POOL_2D");
    }

    const Graph& m_graph;
    xnn_subgraph_t m_subgraph;
    const std::set<int>& m_externals;
    std::map<int, std::uint32_t> m_ids;
    std::map<int, std::vector<const Op*>> m_users;
    std::map<int, std::pair<int, Padding>> m_folded;
};

/// XNNPACK reads a few floats past the end of its operands.
constexpr std::size_t kSlack = XNN_EXTRA_BYTES / sizeof(float) + 1;

}  // namespace

struct Network::Impl {
    Graph graph;  // the runtime keeps pointers to the constants until it is built
    Runtime runtime;
    int input = 0;
    std::map<int, std::vector<float>> values;       // external tensors
    std::map<std::string, std::vector<int>> parts;  // output name → tensors, joined in this order
    std::map<std::string, std::vector<float>> joined;
};

Network::Network(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
Network::Network(Network&&) noexcept = default;
Network& Network::operator=(Network&&) noexcept = default;
Network::~Network() = default;

Result<Network> Network::create(const Graph& graph, const std::vector<std::string>& wanted) {
    const Error damaged{"The pose network could not be started. Install Zevo again.", ""};
    auto fail = [&](const std::string& detail) { return Error{damaged.message, detail}; };
    if (xnn_initialize(nullptr) != xnn_status_success) return fail("XNNPACK does not run on this processor");
    if (graph.inputs.size() != 1) return fail("expected one input");

    auto impl = std::make_unique<Impl>();
    impl->graph = graph;
    impl->input = graph.inputs[0];
    std::map<int, const Op*> maker;
    for (const auto& op : impl->graph.ops)
        for (int out : op.outputs) maker[out] = &op;

    // Which tensors must leave the runtime: outputs, or the parts of an output that is a concatenation.
    std::set<int> externals{impl->input};
    for (int out : graph.outputs) {
        const auto& name = graph.tensors[out].name;
        if (!wanted.empty() && std::find(wanted.begin(), wanted.end(), name) == wanted.end()) continue;
        const auto made = maker.find(out);
        if (made == maker.end()) return fail("an output is never computed");
        auto& parts = impl->parts[name];
        parts = made->second->kind == OpKind::Concatenation ? made->second->inputs : std::vector<int>{out};
        for (int part : parts) {
            if (!maker.contains(part)) return fail("part of an output is never computed");
            externals.insert(part);
        }
    }

    // Only what the wanted outputs need.
    std::set<const Op*> needed;
    auto need = [&](auto&& self, int tensor) -> void {
        const auto made = maker.find(tensor);
        if (made == maker.end() || !needed.insert(made->second).second) return;
        for (int in : made->second->inputs)
            if (in >= 0) self(self, in);
    };
    for (int tensor : externals) need(need, tensor);

    try {
        xnn_subgraph_t raw = nullptr;
        if (xnn_create_subgraph(static_cast<std::uint32_t>(externals.size()), 0, &raw) != xnn_status_success)
            return fail("no subgraph");
        const Subgraph subgraph(raw);
        Builder builder(impl->graph, raw, externals);
        for (int tensor : externals) builder.id(tensor);
        for (const auto& op : impl->graph.ops) {
            if (!needed.contains(&op)) continue;
            if (op.kind == OpKind::Concatenation && !externals.contains(op.inputs[0]))
                return fail("a concatenation inside the graph");
            builder.add(op);
        }
        xnn_runtime_t runtime = nullptr;
        if (xnn_create_runtime_v2(raw, nullptr, 0, &runtime) != xnn_status_success) return fail("no runtime");
        impl->runtime.reset(runtime);
    } catch (const Unsupported& problem) {
        return fail(problem.what);
    }
    std::vector<xnn_external_value> bindings;
    for (int tensor : externals) {
        auto& buffer = impl->values[tensor];
        buffer.assign(impl->graph.tensors[tensor].elementCount() + kSlack, 0.0F);
        bindings.push_back(
            {static_cast<std::uint32_t>(std::distance(externals.begin(), externals.find(tensor))), buffer.data()});
    }
    if (xnn_setup_runtime(impl->runtime.get(), bindings.size(), bindings.data()) != xnn_status_success)
        return fail("runtime set-up");
    for (const auto& op : impl->graph.ops)  // convolutions keep packed copies of their own
        if (op.kind == OpKind::Conv2D || op.kind == OpKind::DepthwiseConv2D)
            for (std::size_t i = 1; i < op.inputs.size(); ++i)
                if (op.inputs[i] >= 0) impl->graph.tensors[op.inputs[i]].floats = {};
    return Network(std::move(impl));
}

std::span<float> Network::input() {
    return std::span(m_impl->values[m_impl->input]).first(m_impl->graph.tensors[m_impl->input].elementCount());
}

Result<void> Network::run() {
    if (xnn_invoke_runtime(m_impl->runtime.get()) != xnn_status_success)
        return Error{"The pose network stopped working. Start Zevo again.", "xnn_invoke_runtime"};
    for (const auto& [name, parts] : m_impl->parts) {
        auto& out = m_impl->joined[name];
        out.clear();
        for (int part : parts) {
            const auto& from = m_impl->values[part];
            out.insert(out.end(), from.begin(), from.end() - kSlack);
        }
    }
    return {};
}

std::span<const float> Network::output(const std::string& name) const {
    const auto found = m_impl->joined.find(name);
    return found == m_impl->joined.end() ? std::span<const float>{} : std::span<const float>(found->second);
}

}  // namespace zevo::pose

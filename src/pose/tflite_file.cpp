#include "pose/tflite_file.h"

#include <bit>
#include <cmath>
#include <fstream>
#include <iterator>
#include <map>
#include <numeric>
#include <set>

#include "pose/flat_table.h"
#include "pose/half_float.h"

namespace zevo::pose {
namespace {

// Built-in operator and element codes of the public schema.
constexpr int kDequantize = 6, kDensify = 124;
const std::map<int, OpKind> kOps = {
    {0, OpKind::Add},
    {2, OpKind::Concatenation},
    {3, OpKind::Conv2D},
    {4, OpKind::DepthwiseConv2D},
    {5, OpKind::DepthToSpace},
    {14, OpKind::Logistic},
    {17, OpKind::MaxPool2D},
    {22, OpKind::Reshape},
    {23, OpKind::ResizeBilinear},
    {34, OpKind::Pad},
};
enum ElementType { Float32 = 0, Float16 = 1, Int32 = 2 };
constexpr std::size_t kMaxElements = std::size_t{1} << 28;  // a gigabyte of floats: no network of ours is near

std::vector<float> toFloats(const std::vector<std::uint8_t>& bytes, int type) {
    std::vector<float> out;
    if (type == Float32) {
        out.resize(bytes.size() / 4);
        if (!out.empty()) std::memcpy(out.data(), bytes.data(), out.size() * 4);
    } else {
        out.resize(bytes.size() / 2);
        for (std::size_t i = 0; i < out.size(); ++i) {
            std::uint16_t half = 0;
            std::memcpy(&half, bytes.data() + 2 * i, 2);
            out[i] = fromHalf(half);
        }
    }
    return out;
}

std::vector<std::int64_t> sparseIndices(const FlatTable& dimension, int typeField, int valueField) {
    const auto type = dimension.scalar<std::uint8_t>(typeField, 0);
    const auto table = dimension.table(valueField);
    auto widen = [](const auto& v) { return std::vector<std::int64_t>(v.begin(), v.end()); };
    if (type == 1) return widen(table.vector<std::int32_t>(0));
    if (type == 2) return widen(table.vector<std::uint16_t>(0));
    if (type == 3) return widen(table.vector<std::uint8_t>(0));
    throw MalformedFile("unknown index type in a sparse tensor");
}

/// Expands block-sparse constants. A tensor of n dimensions has its traversal listed as n + b dimensions,
/// the last b being places inside a block; each is dense or compressed (row segments + column indices).
std::vector<float> densify(const FlatTable& sparsity, const std::vector<std::size_t>& shape,
                           const std::vector<float>& values) {
    const auto order = sparsity.vector<std::int32_t>(0);
    const auto blockMap = sparsity.vector<std::int32_t>(1);
    const auto dims = sparsity.tables(2);
    const std::size_t n = shape.size();
    if (order.size() != dims.size() || order.size() != n + blockMap.size())
        throw MalformedFile("sparse tensor with inconsistent dimensions");

    std::vector<std::size_t> blockSize(n, 1);
    struct Dim {
        bool compressed;
        std::int64_t size;
        std::vector<std::int64_t> segments, indices;
    };
    std::vector<Dim> level;
    for (const auto& d : dims) {
        Dim dim{d.scalar<std::int8_t>(0, 0) == 1, d.scalar<std::int32_t>(1, 0), {}, {}};
        if (dim.compressed) {
            dim.segments = sparseIndices(d, 2, 3);
            dim.indices = sparseIndices(d, 4, 5);
        }
        level.push_back(std::move(dim));
    }
    for (std::size_t b = 0; b < blockMap.size(); ++b) {
        const auto dim = blockMap[b];
        if (dim < 0 || dim >= static_cast<int>(n)) throw MalformedFile("bad block map");
        for (std::size_t l = 0; l < order.size(); ++l)
            if (order[l] == static_cast<int>(n + b)) blockSize[dim] = static_cast<std::size_t>(level[l].size);
    }

    const std::size_t total = std::accumulate(shape.begin(), shape.end(), std::size_t{1}, std::multiplies<>());
    if (total > kMaxElements) throw MalformedFile("a tensor is too large");
    std::vector<float> out(total, 0.0F);
    std::vector<std::int64_t> coordinate(order.size(), 0);
    std::size_t next = 0;
    auto place = [&] {
        std::size_t flat = 0;
        for (std::size_t d = 0; d < n; ++d) {
            std::int64_t at = coordinate[d] * static_cast<std::int64_t>(blockSize[d]);
            for (std::size_t b = 0; b < blockMap.size(); ++b)
                if (blockMap[b] == static_cast<int>(d)) at += coordinate[n + b];
            if (at < 0 || at >= static_cast<std::int64_t>(shape[d])) throw MalformedFile("sparse index out of range");
            flat = flat * shape[d] + static_cast<std::size_t>(at);
        }
        if (next >= values.size()) throw MalformedFile("sparse tensor has too few values");
        out[flat] = values[next++];
    };
    auto walk = [&](auto&& self, std::size_t l, std::int64_t parent) -> void {
        if (l == order.size()) return place();
        const Dim& dim = level[l];
        const auto target = static_cast<std::size_t>(order[l]);
        if (target >= coordinate.size()) throw MalformedFile("bad traversal order");
        if (!dim.compressed) {
            if (dim.size < 0 || static_cast<std::size_t>(dim.size) > kMaxElements) throw MalformedFile("bad size");
            for (std::int64_t i = 0; i < dim.size; ++i) {
                coordinate[target] = i;
                self(self, l + 1, parent * dim.size + i);
            }
            return;
        }
        if (parent < 0 || static_cast<std::size_t>(parent) + 1 >= dim.segments.size())
            throw MalformedFile("sparse segment out of range");
        const auto from = dim.segments[parent], to = dim.segments[parent + 1];
        if (from < 0 || to > static_cast<std::int64_t>(dim.indices.size())) throw MalformedFile("bad segment");
        for (auto i = from; i < to; ++i) {
            coordinate[target] = dim.indices[i];
            self(self, l + 1, i);
        }
    };
    walk(walk, 0, 0);
    return out;
}

Activation activationOf(int code) {
    if (code == 0) return Activation::None;
    if (code == 1) return Activation::Relu;
    if (code == 3) return Activation::Relu6;
    throw MalformedFile("an activation that Zevo does not know");
}

void readOptions(const FlatTable& table, Op& op) {
    if (!table.has(4)) return;
    const auto o = table.table(4);
    auto convolutionLike = [&] {
        op.samePadding = o.scalar<std::int8_t>(0, 0) == 0;
        op.strideW = o.scalar<std::int32_t>(1, 1);
        op.strideH = o.scalar<std::int32_t>(2, 1);
    };
    switch (op.kind) {
        case OpKind::Conv2D:
            convolutionLike();
            op.activation = activationOf(o.scalar<std::int8_t>(3, 0));
            op.dilationW = o.scalar<std::int32_t>(4, 1);
            op.dilationH = o.scalar<std::int32_t>(5, 1);
            break;
        case OpKind::DepthwiseConv2D:
            convolutionLike();
            op.activation = activationOf(o.scalar<std::int8_t>(4, 0));
            op.dilationW = o.scalar<std::int32_t>(5, 1);
            op.dilationH = o.scalar<std::int32_t>(6, 1);
            break;
        case OpKind::MaxPool2D:
            convolutionLike();
            op.filterW = o.scalar<std::int32_t>(3, 1);
            op.filterH = o.scalar<std::int32_t>(4, 1);
            op.activation = activationOf(o.scalar<std::int8_t>(5, 0));
            break;
        case OpKind::Add: op.activation = activationOf(o.scalar<std::int8_t>(0, 0)); break;
        case OpKind::ResizeBilinear:
            op.alignCorners = o.scalar<std::uint8_t>(2, 0) != 0;
            op.halfPixelCentres = o.scalar<std::uint8_t>(3, 0) != 0;
            break;
        case OpKind::DepthToSpace: op.blockSize = o.scalar<std::int32_t>(0, 1); break;
        default: break;
    }
    for (int v : {op.strideW, op.strideH, op.dilationW, op.dilationH, op.filterW, op.filterH, op.blockSize})
        if (v < 1 || v > 4096) throw MalformedFile("an operator option is out of range");
}

Tensor readTensor(const FlatTable& table, const std::vector<FlatTable>& buffers) {
    Tensor tensor;
    tensor.name = table.string(3);
    std::size_t count = 1;
    for (auto d : table.vector<std::int32_t>(0)) {
        if (d < 1 || static_cast<std::size_t>(d) > kMaxElements / count) throw MalformedFile("a tensor is too large");
        tensor.shape.push_back(static_cast<std::size_t>(d));
        count *= static_cast<std::size_t>(d);
    }
    if (tensor.shape.size() > 6) throw MalformedFile("a tensor has too many dimensions");
    const auto buffer = table.scalar<std::uint32_t>(2, 0);
    if (buffer >= buffers.size()) throw MalformedFile("a tensor names a buffer that is not there");
    const auto bytes = buffers[buffer].vector<std::uint8_t>(0);
    if (bytes.empty()) return tensor;
    const int type = table.scalar<std::int8_t>(1, 0);
    if (type == Int32) {
        tensor.ints.resize(bytes.size() / 4);
        if (!tensor.ints.empty()) std::memcpy(tensor.ints.data(), bytes.data(), tensor.ints.size() * 4);
        if (tensor.ints.size() != count) throw MalformedFile("a constant has the wrong size");
    } else if (type == Float32 || type == Float16) {
        tensor.floats = toFloats(bytes, type);
        if (table.has(6)) tensor.floats = densify(table.table(6), tensor.shape, tensor.floats);
        if (tensor.floats.size() != count) throw MalformedFile("a constant has the wrong size");
    }
    return tensor;
}

Graph parse(FlatTable::Bytes file) {
    const auto model = FlatTable::root(file);
    if (model.scalar<std::uint32_t>(0, 0) != 3) throw MalformedFile("not a version 3 model");
    std::vector<int> opCodes;
    for (const auto& code : model.tables(1))
        opCodes.push_back(std::max<int>(code.scalar<std::int8_t>(0, 0), code.scalar<std::int32_t>(3, 0)));
    const auto buffers = model.tables(4);
    const auto subgraphs = model.tables(2);
    if (subgraphs.empty()) throw MalformedFile("the model holds no graph");
    const auto& subgraph = subgraphs.front();

    Graph graph;
    for (const auto& t : subgraph.tables(0)) graph.tensors.push_back(readTensor(t, buffers));
    auto checked = [&](std::vector<std::int32_t> ids, bool mayBeAbsent) {
        for (auto id : ids)
            if (id >= static_cast<int>(graph.tensors.size()) || id < (mayBeAbsent ? -1 : 0))
                throw MalformedFile("a tensor number is out of range");
        return std::vector<int>(ids.begin(), ids.end());
    };
    graph.inputs = checked(subgraph.vector<std::int32_t>(1), false);
    graph.outputs = checked(subgraph.vector<std::int32_t>(2), false);
    for (const auto& o : subgraph.tables(3)) {
        const auto code = o.scalar<std::uint32_t>(0, 0);
        if (code >= opCodes.size()) throw MalformedFile("an operator code is out of range");
        Op op;
        op.inputs = checked(o.vector<std::int32_t>(1), true);
        op.outputs = checked(o.vector<std::int32_t>(2), false);
        if (op.inputs.empty() || op.outputs.empty()) throw MalformedFile("an operator has no input or output");
        if (opCodes[code] == kDequantize || opCodes[code] == kDensify) {
            // The source constant was already expanded to floats: hand it on.
            if (op.inputs[0] < 0) throw MalformedFile("an operator has no input");
            auto& source = graph.tensors[op.inputs[0]];
            auto& target = graph.tensors[op.outputs[0]];
            if (source.floats.empty()) throw MalformedFile("a dequantised tensor is not a constant");
            target.shape = source.shape;
            target.floats = source.floats;
            continue;
        }
        const auto kind = kOps.find(opCodes[code]);
        if (kind == kOps.end())
            throw MalformedFile("operator " + std::to_string(opCodes[code]) + " is not known to Zevo");
        op.kind = kind->second;
        readOptions(o, op);
        graph.ops.push_back(std::move(op));
    }
    return graph;
}

}  // namespace

std::size_t Tensor::elementCount() const {
    return std::accumulate(shape.begin(), shape.end(), std::size_t{1}, std::multiplies<>());
}

Result<Graph> readGraph(std::span<const std::uint8_t> file) {
    static_assert(std::endian::native == std::endian::little, "FlatBuffers are little-endian");
    try {
        if (file.size() < 8 || std::memcmp(file.data() + 4, "TFL3", 4) != 0)
            throw MalformedFile("the file does not carry the mark of a TensorFlow Lite model");
        return parse(file);
    } catch (const MalformedFile& problem) {
        return Error{"The pose network's file is damaged. Install Zevo again.", problem.what()};
    } catch (const std::bad_alloc&) {
        return Error{"The pose network's file is damaged. Install Zevo again.", "a size in it is absurd"};
    }
}

Result<Graph> loadGraph(const std::string& path) {
    std::ifstream in(path, std::ios::binary);
    if (!in) return Error{"The pose network's file is missing. Install Zevo again.", path};
    const std::vector<std::uint8_t> bytes((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
    return readGraph(bytes);
}

}  // namespace zevo::pose

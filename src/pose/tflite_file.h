#pragma once

#include <cstdint>
#include <span>
#include <string>
#include <vector>

#include "core/base/result.h"

namespace zevo::pose {

/// The part of a TensorFlow Lite graph that Zevo's networks use, read out of the FlatBuffer with every
/// offset checked against the file's length: a malformed file gives an Error, never a crash.
/// Field numbers follow the public schema of the format (tensorflow/lite/schema/schema.fbs, version 3).
enum class OpKind {
    Conv2D,
    DepthwiseConv2D,
    Add,
    Pad,
    ResizeBilinear,
    MaxPool2D,
    Logistic,
    Reshape,
    Concatenation,
    DepthToSpace
};

enum class Activation { None, Relu, Relu6 };

struct Tensor {
    std::string name;
    std::vector<std::size_t> shape;
    /// Constants already expanded to 32-bit floats (half floats and block-sparse weights unpacked).
    std::vector<float> floats;
    std::vector<std::int32_t> ints;
    bool isConstant() const { return !floats.empty() || !ints.empty(); }
    std::size_t elementCount() const;
};

struct Op {
    OpKind kind{};
    std::vector<int> inputs;  ///< tensor numbers; −1 = absent
    std::vector<int> outputs;
    bool samePadding = false;
    int strideW = 1, strideH = 1, dilationW = 1, dilationH = 1;
    int filterW = 1, filterH = 1;
    int blockSize = 1;
    Activation activation = Activation::None;
    bool halfPixelCentres = false, alignCorners = false;
};

struct Graph {
    std::vector<Tensor> tensors;
    std::vector<Op> ops;  ///< in execution order; DEQUANTIZE and DENSIFY are folded into the constants
    std::vector<int> inputs, outputs;
};

/// Parses a whole .tflite file held in memory.
Result<Graph> readGraph(std::span<const std::uint8_t> file);

/// Reads the file and parses it.
Result<Graph> loadGraph(const std::string& path);

}  // namespace zevo::pose

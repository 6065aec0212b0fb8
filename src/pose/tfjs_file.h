#pragma once

#include <string>
#include <vector>

#include "core/base/result.h"
#include "pose/tflite_file.h"

namespace zevo::pose {

/// Reads the convolutional part of a TensorFlow.js graph model (a topology as JSON, weights beside it as one binary
/// file of half or whole floats in the manifest's order) into the same structure as a .tflite file: fused convolutions,
/// depthwise convolutions, sums and bilinear resizing, from the node `input` to the nodes `outputs`. Kernels are turned
/// from height-width-in-out to the order XNNPACK wants. Errors: files that are missing, cut short or hold anything else
/// between those nodes.
Result<Graph> loadTfjsGraph(const std::string& jsonPath, const std::string& weightsPath, const std::string& input,
                            const std::vector<std::size_t>& inputShape, const std::vector<std::string>& outputs);

/// One constant of such a file, as floats; empty when it is not there.
Result<std::vector<float>> loadTfjsConstant(const std::string& jsonPath, const std::string& weightsPath,
                                            const std::string& name);

}  // namespace zevo::pose

#pragma once

#include <memory>
#include <span>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "pose/tflite_file.h"

namespace zevo::pose {

/// One network on the XNNPACK runtime, single-threaded: run one Network per worker thread. (A second
/// thread inside one network spins and was measured to be far slower on a small machine.)
class Network {
  public:
    /// Builds the runtime. `wanted` names the output tensors to compute; empty means all. Leaving the
    /// segmentation output out saves a third of the time.
    static Result<Network> create(const Graph& graph, const std::vector<std::string>& wanted = {});

    Network(Network&&) noexcept;
    Network& operator=(Network&&) noexcept;
    ~Network();

    /// Elements of the input picture (N·H·W·C).
    std::span<float> input();
    Result<void> run();
    /// The values of an output of the last run; empty when that output was not asked for.
    std::span<const float> output(const std::string& name) const;

  private:
    struct Impl;
    explicit Network(std::unique_ptr<Impl> impl);
    std::unique_ptr<Impl> m_impl;
};

}  // namespace zevo::pose

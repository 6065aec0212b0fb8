#pragma once

#include <cstddef>
#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "core/base/picture.h"
#include "core/base/result.h"

namespace zevo::pipeline {

/// Shows any frame of a clip without making the caller wait: a thread of its own decodes the frame asked for last,
/// keeps the recent ones, and reads a little ahead while nothing is asked for. Memory stays within the budget
/// whatever the clip's length.
class FrameFetcher {
  public:
    using Frame = std::shared_ptr<const Picture>;
    /// Called on the fetcher's thread with the frame's number and picture (null: it could not be read).
    using OnFrame = std::function<void(std::size_t index, Frame picture)>;

    struct Options {
        int maxSide = 1280;                            ///< larger clips are shown scaled down
        std::size_t budgetBytes = 192u * 1024 * 1024;  ///< for kept frames
    };

    /// Called on the fetcher's thread, once, where the clip cannot be opened: no frame of it can be read then.
    using OnProblem = std::function<void(const Error& why)>;

    /// Opens the clip on its own thread. `timesS`: presentation times of all frames, growing (the analysis knows them).
    FrameFetcher(std::string clip, std::vector<double> timesS, OnFrame onFrame, OnProblem onProblem,
                 const Options& options);
    FrameFetcher(std::string clip, std::vector<double> timesS, OnFrame onFrame, OnProblem onProblem = {})
        : FrameFetcher(std::move(clip), std::move(timesS), std::move(onFrame), std::move(onProblem), Options{}) {}
    ~FrameFetcher();

    /// Asks for a frame; an earlier wish not yet answered is dropped.
    void want(std::size_t index);

  private:
    struct Impl;
    std::unique_ptr<Impl> m_impl;
};

}  // namespace zevo::pipeline

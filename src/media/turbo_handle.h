#pragma once

#include <turbojpeg.h>

#include <memory>

namespace zevo::media {

/// libjpeg-turbo's object, freed by its own call.
struct TurboDelete {
    void operator()(void* handle) const { tjDestroy(handle); }
};
using TurboHandle = std::unique_ptr<void, TurboDelete>;

}  // namespace zevo::media

#pragma once

#include <QString>
#include <atomic>
#include <memory>

#include "pipeline/demo_maker.h"
#include "record/importing.h"

namespace zevo::record {

/// One set of the demo's story: its client, clips and measures. Left as it is when it is there already.
Result<Imported> prepareDemoSet(const QString& libraryFolder, const pipeline::DemoSet& set,
                                const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel,
                                const pipeline::OnProgress& progress);

}  // namespace zevo::record

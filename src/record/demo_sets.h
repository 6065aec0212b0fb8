#pragma once

#include <QString>
#include <atomic>
#include <memory>

#include "pipeline/demo_maker.h"
#include "record/importing.h"

namespace zevo::record {

/// Where the demo's clips, and what was seen in them, lie as shipped.
QString demoFolder();

/// One set of the demo's story: its client, clips and what they come to. Left as it is when it is there already. What
/// was seen in the clips is shipped beside them, so that no network has to run; where it is not, or is an older
/// engine's, it is measured here and now.
Result<Imported> prepareDemoSet(const QString& libraryFolder, const pipeline::DemoSet& set,
                                const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel,
                                const pipeline::OnProgress& progress);

/// Measures a set of the story afresh, in a library of its own that is thrown away, and writes what was seen and what
/// was done to it beside the shipped clips: one file a set, its CBOR packed by zlib. Returns the file.
Result<QString> shipDemoSet(const QString& folder, const pipeline::DemoSet& set,
                            const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel);
/// The name of that file.
QString shippedSetName(const pipeline::DemoSet& set);
/// What was shipped of a set: observations, first view first, and edits. Error: not there, damaged, or measured by
/// another engine.
struct ShippedSet {
    Observations seen;
    Edits edits;
};
Result<ShippedSet> readShippedSet(const QString& file);

}  // namespace zevo::record

#pragma once

#include <atomic>
#include <memory>
#include <optional>

#include "pipeline/analyse_clip.h"
#include "record/set_keeper.h"
#include "store/library.h"

namespace zevo::record {

// What is read of a set after its answer was given, and joins it in the record whoever looks at it. All of it goes
// through SetKeeper: what the coach did meanwhile stays. For threads other than the window's.

/// Reads the outlines over the repetitions, from which the line of the back is read, for the first view; kept with what
/// the set comes to then. False where the view is not from the side, has them, or its video is not there.
Result<bool> readBackOf(const QString& libraryFolder, store::SetId id,
                        const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel,
                        const pipeline::OnProgress& progress);
/// Keeps what was followed in a set.
Result<void> keepMarks(const QString& libraryFolder, store::SetId id, const std::vector<PointMarked>& marked,
                       const std::shared_ptr<const Catalogue>& catalogue, const QString& author = {});

/// A second view joins a set. `laterS`: how much later its clip begins by a clock both cameras share, where there is
/// one; it is used where the movement itself does not say it surely, and where it does, a difference is only said.
/// Answers what the set comes to. Error: it does not fit; the set stays as it was.
Result<store::Outcome> joinSeen(store::Library& library, store::SetId id, store::Seen seen, bool sameTake,
                                std::optional<double> laterS, const std::shared_ptr<const Catalogue>& catalogue,
                                const QString& author = {});

/// The set becomes another client's, and may stand elsewhere: stature, mass, pain, flags and choices are theirs from
/// then on, and it is judged anew. Answers the facts it had, for undo (`facts`: those it gets instead).
Result<SetFacts> giveSet(store::Library& library, store::SetId id, const store::SetPlace& place,
                         const std::optional<SetFacts>& facts, const std::shared_ptr<const Catalogue>& catalogue,
                         const QString& author = {});

}  // namespace zevo::record

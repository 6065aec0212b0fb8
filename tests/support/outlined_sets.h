#pragma once

#include "tests/support/made_sets.h"

/// Sets of the virtual client whose outline was read as well.
namespace made {

/// What a camera, a perfect network and a perfect mask would have seen.
inline Observation outlined(const sim::ClipSpec& spec) {
    Observation o;
    o.clip = facts(spec);
    o.poses = sim::truePoses(spec);
    auto slow = spec;
    slow.frameRate = 10;
    auto drawn = sim::trueOutlines(slow);
    if (!drawn) qFatal("%s", words(drawn.error()));
    o.contours = std::move(*drawn);
    return o;
}

inline SetState stateOf(const sim::ClipSpec& spec, Shirt shirt, const Observation& o) {
    SetFacts said = factsOf(spec);
    said.shirt = shirt;
    auto state = recompute({std::make_shared<const Observation>(o)}, {FactsSet{said}}, *catalogue());
    if (!state) qFatal("%s", words(state.error()));
    return std::move(*state);
}
inline SetState stateOf(const sim::ClipSpec& spec, Shirt shirt = Shirt::Tight) {
    return stateOf(spec, shirt, outlined(spec));
}

}  // namespace made

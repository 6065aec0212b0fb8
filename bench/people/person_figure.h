#pragma once

// Inner part of a lifelike person: how their mesh follows the skeleton.

#include <vector>

#include "bench/people/package.h"
#include "sim/figure.h"

namespace bench {

/// Skin, or a piece of clothing, on the standing body: metres, facing +x.
struct Piece {
    QuadMesh mesh;
    std::shared_ptr<const zevo::sim::Texture> texture;
    zevo::sim::Colour tint;
    zevo::sim::Group group = zevo::sim::Skin;
};

/// `standing`: the joints of the body as the pieces stand there.
std::shared_ptr<const zevo::sim::Figure> personFigure(const HumanPackage& package, std::vector<Piece> pieces,
                                                      const zevo::sim::Skeleton& standing, bool handsClosed);

}  // namespace bench

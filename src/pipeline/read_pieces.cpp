#include "pipeline/read_pieces.h"

#include <thread>

#include "pipeline/barrier.h"
#include "pipeline/read_heads.h"
#include "pipeline/read_shoes.h"

namespace zevo::pipeline {

void readPieces(const AllPieces& pieces, const MeasuredView& found, Observation& seen) {
    // Each writes its own members of the poses and reads none of the other's.
    const std::jthread heads([&] {
        (void)guarded([&]() -> Result<void> {
            readHeads(pieces, found, seen);
            return {};
        });
    });
    readShoes(pieces, found, seen);
}

}  // namespace zevo::pipeline

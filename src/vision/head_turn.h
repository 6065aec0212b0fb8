#pragma once

#include <memory>
#include <optional>

#include "core/base/picture.h"
#include "core/base/vectors.h"

namespace zevo {

/// Where a head is in a picture, as far as a network tells: it says well where, less well which way it looks.
struct HeadPlace {
    Vec2 centre{0, 0};        ///< between ear and nose, pixels, y down
    double radiusPx = 0;      ///< half of what the head measures from chin to crown
    double directionDeg = 0;  ///< from ear to nose, clockwise from the picture's right
};

/// A head cut out of a picture and made ready to be laid over another: of one size, its light as ratios (what a lamp
/// does to a head is a factor) and its edges.
class HeadPicture {
  public:
    /// Copies what it needs of the picture.
    HeadPicture(const PictureView& picture, const HeadPlace& place);
    HeadPicture(HeadPicture&&) noexcept;
    HeadPicture& operator=(HeadPicture&&) noexcept;
    ~HeadPicture();

    struct Impl;
    const Impl& impl() const { return *m; }

  private:
    std::unique_ptr<Impl> m;
};

/// How far a head has turned in the picture from one moment to another.
struct HeadTurn {
    double turnDeg = 0;   ///< clockwise as seen in the picture
    double likeness = 0;  ///< correlation of the two heads where they lie over one another, 0…1
    double apartDeg = 0;  ///< what their light and their edges differ by
};

/// Lays one head over the other (Evangelidis and Psarakis 2008, enhanced correlation coefficient, by OpenCV) by a turn
/// and a shift, from the turn the network saw and from several beside it; the one where they are most alike counts. A
/// head in profile is rigid: what it turned by in the picture does not depend on what any network makes of hair, hood
/// or a face that looks down. Nothing where no turn near the network's makes them alike.
std::optional<HeadTurn> headTurn(const HeadPicture& before, const HeadPicture& now);

}  // namespace zevo

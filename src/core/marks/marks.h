#pragma once

#include <array>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"
#include "core/base/vectors.h"
#include "core/reps/reps.h"
#include "core/track/track.h"

/// Points the coach marked with a click and that were then followed through the pictures: what the network cannot see.
/// A path is kept with the mark that it was followed from; nothing here looks at a picture.
namespace zevo {

/// What was marked. Names stay: records hold them.
enum class MarkKind {
    BarEnd,     ///< middle of the end of a bar, towards the camera
    Bell,       ///< a bell or whatever else the hands hold at their middle
    HipLeft,    ///< tape on the client's left hip bone
    HipRight,   ///< and on the right one
    KneeLeft,   ///< tape on the left knee cap
    KneeRight,  ///< and on the right one
    StickTop,   ///< upper end of a stick along the back
    StickLow,   ///< its lower end
    BackHigh,   ///< tape between the shoulder blades
    BackLow     ///< tape on the sacrum
};
inline constexpr std::size_t kMarkKinds = 10;
/// "bar_end", "bell" …
const char* markName(MarkKind kind);
std::optional<MarkKind> markFromName(std::string_view name);
/// Whether it is worth marking in a view: what lies on the client's front cannot be seen from their side.
bool isMarkedIn(MarkKind kind, ViewKind view);
/// How much nearer to the camera than the client's middle it usually lies, cm: half a long bar (2.2 m, weightlifting
/// rules), a hand's breadth for tapes, which are on the side that faces it (project choice).
double usuallyNearerCm(MarkKind kind);

/// A place the coach clicked, picture pixels.
struct MarkClick {
    double atS = 0, x = 0, y = 0;
    bool operator==(const MarkClick&) const = default;
};
/// Where following had the point in one picture, picture pixels; not a number where it was lost.
struct MarkStep {
    double timeS = 0, x = 0, y = 0;
    bool held() const { return x == x; }
};

/// One marked point of a view: what was clicked, and what came of it.
struct Mark {
    MarkKind kind = MarkKind::Bell;
    double nearerCm = 0;            ///< to the camera than the client's middle
    std::vector<MarkClick> clicks;  ///< in the order of time
    std::shared_ptr<const std::vector<MarkStep>> path;

    /// Clicks closer in time than this are one: the later one counts.
    static constexpr double kOneClickS = 0.1;
    /// The same with one click more and no path yet.
    Mark clicked(const MarkClick& click) const;
    /// Stretches of its path in which the point was lost, longest first.
    std::vector<std::pair<double, double>> gaps() const;
    bool operator==(const Mark& o) const;
};

/// Marks with their clicks from text: POINT@SECONDS,X,Y, one after the other with semicolons between; several clicks of
/// one point are one mark. `barNearerCm`: of a bar's end, else as usual. Error: what is not written so.
Result<std::vector<Mark>> marksFromText(const std::string& text, std::optional<double> barNearerCm = std::nullopt);

/// The marks of one view on its track's own clock.
class MarkLines {
  public:
    /// One marked point, in the track's frame.
    struct Line {
        std::vector<Vec2> seen;  ///< as in the picture; not a number where it was lost
        std::vector<Vec2> flat;  ///< in the plane of the client's middle: perspective undone by how much nearer it is
        double nearer = 0;       ///< share of the camera's distance it is nearer by
        /// Of the pictures of a stretch, how many hold it.
        double heldShare(std::size_t from, std::size_t to) const;
    };
    /// A repetition with less of a point in view is not read.
    static constexpr double kLeastHeld = 0.95;
    MarkLines(std::shared_ptr<const Track> track, std::span<const Rep> reps, std::span<const Mark> marks);

    /// Null: not marked.
    const Line* of(MarkKind kind) const;
    /// The load: the bar's end where it is marked, else the bell.
    std::optional<MarkKind> load() const;
    const Line* loadLine() const { return load() ? of(*load()) : nullptr; }
    /// The distance of the camera from the client, cm; by the assumed focal length (perspective.h).
    double cameraCm() const { return m_cameraCm; }

    /// The lift of a repetition: rise of the load from its lowest place to its highest after it.
    struct Lift {
        double meanMps = 0;  ///< over its middle nine tenths
        std::size_t low = 0, high = 0;
    };
    std::optional<Lift> liftOf(const Rep& rep) const;
    /// The fastest lift up to a repetition, m/s; 0 where there is none.
    double fastestUpTo(const Rep& rep) const;

    /// Swings between rests of the load, in order: 1 for a dead stop, 2 for a double, all of them for a continuous set.
    /// It rests where it lies still for three tenths of a second within a repetition, below the client's knees.
    std::vector<int> swingsBetweenRests() const;

    /// The load over a whole repetition; null where it is not marked, or was lost in it.
    const Line* loadIn(const Rep& rep) const;

    /// The load's way over the repetition that holds a sample (else the last 1.5 s), track frame as seen; not a number
    /// where it was lost.
    std::vector<Vec2> wayAround(std::size_t sample) const;

  private:
    std::shared_ptr<const Track> m_track;
    std::vector<Rep> m_reps;
    std::array<std::optional<Line>, kMarkKinds> m_lines;
    double m_cameraCm = 0;
    std::vector<double> m_speeds;  ///< one a repetition
};

}  // namespace zevo

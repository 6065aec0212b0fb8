#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/notice.h"
#include "core/body/movement.h"
#include "core/judge/asks.h"
#include "core/judge/findings.h"
#include "core/judge/stop_rules.h"
#include "core/judge/tempo.h"
#include "core/reps/alignment.h"
#include "core/statistics/trend.h"
#include "core/track/track.h"

namespace zevo {

struct ClipFacts {
    long frames = 0;
    double durationS = 0;
    int width = 0, height = 0, rotationDeg = 0;
    std::optional<CameraHold> hold{};  ///< as the room tells it

    bool operator==(const ClipFacts&) const = default;
};

/// What a set is judged as, with the movement's data at hand.
struct SetContext {
    Context context;
    Movement movement;
    std::string variation;  ///< empty = plain
    std::string model = "full";
    double loadShare = 0;                 ///< of what is held ÷ body mass, as far as known
    std::optional<double> ankleLimitDeg;  ///< as measured by the coach
    double wedgeDeg = 0;                  ///< under the heels
    /// The client was asked to stand with straight knees before the first repetition, and did: what their knees read
    /// there is taken for straight.
    bool stoodStraight = false;
    std::optional<Tempo> tempo;  ///< as asked by the coach
    Arms arms = Arms::Reach;     ///< where nothing is held
    bool toesLight = false;      ///< they are asked to balance over the heels
    Shirt shirt = Shirt::NotSaid;
    PainCheck pain;
    std::vector<std::string> felt;  ///< where the client felt the set (stop_rules.h)
    Asks asks;                      ///< what was asked of it
    // As it was logged, so that no advice asks for what is there already.
    double heldKg = 0, boxCm = 0;  ///< 0: nothing logged
    bool pole = false;
    std::string shoes;          ///< id of present/log_words.h; empty: nothing said
    std::optional<int> effort;  ///< 0–10, the client's own
    /// A weight is held: by what was logged, or by the variation.
    bool loaded() const { return heldKg > 0 || loadShare > 0 || movement.loadPlace(variation) != LoadPlace::None; }
};

/// The other view of the same set.
struct SecondView {
    ClipFacts clip;
    ViewKind view = ViewKind::Front;
    double trackedShare = 0;
    Alignment alignment;   ///< found from the movement
    double nudgeS = 0;     ///< what the coach added to the lag
    bool sameTake = true;  ///< filmed at the same time; else the clips' repetitions are judged each for themselves
    std::vector<MeasuredRep> reps;  ///< of this clip, by its own clock
    double lagS() const { return alignment.lagS + nudgeS; }
};

/// A measure that changes over the set.
struct Drift {
    MeasureId measure;
    Trend trend;
    bool moreThanNoise = false;  ///< p below 0.05 and larger than what a reading jitters
};

/// One measure of both legs.
struct LegsCompared {
    MeasureId measure;  ///< of a measure that has one for each leg: the left one
    Comparison comparison;
};

/// A measure the school leads with that could not be judged in enough repetitions: said before any praise.
struct NotJudged {
    MeasureId measure;
    enum class Why {
        View,      ///< no clip of the set shows it
        NotRead,   ///< the view would, the picture did not: hidden, too small, no stature
        Unsettled  ///< read, but the ± does not settle it
    } why = Why::NotRead;
    int judged = 0, of = 0;  ///< repetitions
};
/// Share of the repetitions in which a leading measure has to be judged for a set to be called clean.
inline constexpr double kShareJudged = 2.0 / 3;

/// A stretch of the first view's clock.
struct Span {
    double fromS = 0, toS = 0;
    bool holds(double timeS) const { return timeS >= fromS && timeS <= toS; }
    bool operator==(const Span&) const = default;
};

/// The result of a set: everything the window, the record and the open file need, except the courses over time, which
/// belong to each view (session/measured_set.h).
struct SetResult {
    ClipFacts clip;
    SetContext context;
    std::string standard;
    ViewKind view = ViewKind::Side;
    Side near = Side::Right;
    double offSquareDeg = 0;
    double trackedShare = 0;
    std::vector<MeasuredRep> reps;
    std::vector<Span> leftOut;  ///< what lies in here does not count, says the coach
    std::vector<Finding> findings;
    std::vector<NotJudged> notJudged;  ///< in the school's order
    Choices choices;                   ///< what it was judged by: the school's, with those of the set in their place
    std::vector<std::string> changed;  ///< what the set has otherwise than its school: "with toes light"
    StopAnswer stop;                   ///< comes before any advice
    std::vector<Drift> drifts;         ///< of every judged measure that could be tested
    std::vector<LegsCompared> legs;    ///< where both were seen
    std::optional<SecondView> second;
    std::string looksLike;  ///< id of the movement it looks like, where that is another one
    std::vector<Notice> notices;

    /// Nothing found, all that leads was judged, and nothing hurts.
    bool clean() const;
    bool isLeftOut(const MeasuredRep& rep) const;
    std::vector<MeasuredRep> counted() const;
    /// Neither left out nor partial: what is judged and counted.
    bool counts(const MeasuredRep& rep) const { return rep.kind != RepKind::Partial && !isLeftOut(rep); }
};

/// The repetitions that are judged and counted: neither partial nor in a stretch that was left out.
std::vector<MeasuredRep> countedOf(const std::vector<MeasuredRep>& reps, const std::vector<Span>& leftOut);

/// The bands of a standard that hold for a set: those of its movement and variation, and the tempo asked for.
Standard standardOf(const SetContext& context, const Standard& whole);

/// Fills in findings, what was not judged, drifts and the comparison of legs from the repetitions that count; needs no
/// video, so a set can be judged again by another standard at once. Pain or a red flag stops scoring: then there are no
/// findings.
void judgeSet(SetResult& result, const Standard& standard);

}  // namespace zevo

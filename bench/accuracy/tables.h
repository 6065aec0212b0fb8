#pragma once

#include <map>
#include <string>
#include <vector>

#include "bench/accuracy/cases.h"
#include "core/judge/set_result.h"

namespace bench {

/// Errors of one quantity.
struct Errors {
    std::vector<double> values;  ///< measured − true
    int inside = 0, judged = 0;  ///< of those with a stated ±
    double stated = 0;           ///< sum of those ±
    std::vector<double> shares;  ///< size of each of those errors ÷ its ±
    void add(double error, double pm = -1);
    void join(const Errors& other);
    double bias() const;
    double meanSize() const;
    double sizeAt(double share) const;  ///< this share of the errors is no larger
    double coverage() const;            ///< share of errors inside the stated ±; NaN without any
    /// Nine of ten errors would lie inside this many times their ±: 1 is as it should be, 0.5 twice as wide as needed.
    double holdsNineOfTen() const;
};

/// What the poses of the clips of one column (network or true landmarks) gave.
struct Column {
    /// family → figure → angle
    std::map<std::string, std::map<std::string, std::map<std::string, Errors>>> bottom, during;
    std::map<std::string, Errors> measures;  ///< family + measure, against that from the true landmarks
    std::map<std::string, Errors> front;     ///< figure + quantity
    std::map<std::string, Errors> events;    ///< start, bottom, end in frames
    std::map<std::string, std::map<std::string, Errors>> setUps;  ///< set-up → angle at the bottom
    int sets = 0, counted = 0, legs = 0, legsRight = 0;
    long frames = 0, tracked = 0;
    int levelRight = 0, levelWrong = 0, levelUnsure = 0;  ///< thigh above or below level, more than 4° away
    std::vector<std::string> notes;                       ///< sets that gave no result or another number of reps
};

/// What was seen in a clip: the followed points, what other networks say of the turning points, and how the room says
/// that the camera is held.
struct Seen {
    zevo::PoseFrames poses;
    std::vector<zevo::SecondEstimate> secondEstimates;
    std::optional<zevo::CameraHold> hold;
};

/// Compares one clip; `trueSet` is the same clip's reading from true landmarks (for measures), may be null.
void compare(const Case& c, const Seen& seen, const zevo::ClipFacts& facts, Column& column,
             const zevo::SetResult* trueSet, zevo::SetResult* kept = nullptr);

/// Verdict of one trial: what the analysis said of the planted fault, and which others it claimed.
struct Verdict {
    std::string said;  ///< clear, watch, unsure or none
    std::vector<std::string> others;
    std::vector<std::string> unsure;  ///< other faults it leaves open
    std::string reading;              ///< "4.2 ± 1.7" of the fault's measure
    bool counted = false;             ///< as many reps as there are
    std::vector<zevo::MeasuredRep> reps;
};
Verdict judge(const Trial& trial, const Seen& seen, const zevo::ClipFacts& facts);

/// Hits and alarms of one column of the trial.
struct Score {
    struct Row {
        int hits = 0, misses = 0, falseAlarms = 0, unsureNear = 0, near = 0, wrongNear = 0;
    };
    std::map<std::string, Row> rows;
    std::map<std::string, std::pair<int, int>> clean;  ///< group → sets, sets with an alarm
    int sets = 0, counted = 0;
    std::vector<std::string> alarms;
    std::map<std::string, Errors> measures;  ///< family + measure, against that from the true landmarks
    Errors fromRepToRep;                     ///< change of the error between reps that are alike, share of the ±
    /// A claim of a fault that was not planted is a false alarm unless the true landmarks make it too (one fault may
    /// bring another along).
    void add(const Trial& trial, const Verdict& verdict, const Verdict& byTruth);
};

void print(const Column& network, const Column& perfect);
void print(const Score& network, const Score& perfect);

}  // namespace bench

#pragma once

#include <string>
#include <vector>

#include "core/judge/standard.h"
#include "core/measures/measure.h"

namespace zevo {

struct MeasuredRep {
    int index = 0;
    RepKind kind = RepKind::Full;
    double startS = 0, arriveS = 0, bottomS = 0, leaveS = 0, endS = 0;
    std::optional<Side> leg;  ///< the client's, where one leg works at a time
    std::vector<Measurement> measures;

    const Measurement* find(MeasureId measure) const;
    const Measurement* find(std::string_view measure) const { return find(MeasureId::named(measure)); }

    bool operator==(const MeasuredRep&) const = default;
};

/// What ends the usable depth of a squat (row usable_depth): the first that gives way on the way down.
enum class DepthLimit { None, Heels, Toes, Tail };
/// "none", "heels", "toes", "tail": as written in results.
std::string depthLimitName(DepthLimit limit);
DepthLimit depthLimit(const MeasuredRep& rep);

/// Where a value lies against its band, counting its ±.
enum class Verdict { Inside, Outside, Unsure };

/// What a verdict rests on.
enum class Because {
    ClearOfEdge,   ///< inside or outside with all, or nearly all, of its ±
    PastEdge,      ///< the value is out, the favourable end of its ± is not
    NearEdge,      ///< the value is in, but more than a fifth of its ± is out
    PoorlySeen,    ///< out, but the points were not seen well enough to say so
    Contradicted,  ///< out, but the measure that has to see it too does not (Band::witness)
    NoBand         ///< nothing is asked of it
};

struct Judgement {
    Verdict verdict = Verdict::Inside;
    Because because = Because::NoBand;
    bool above = false;  ///< which side it is (or may be) out on
    double beyond = 0;   ///< how far the value lies past the nearest edge; negative inside; 0 without a band
    bool settled() const { return verdict != Verdict::Unsure; }
};

/// Share of a reading's ± that may lie past an edge before "inside" is no longer said.
inline constexpr double kShareLetPass = 0.2;

/// Outside when even the favourable end of the ± is out; unsure when the value is out and its ± spans the edge, when
/// more than a fifth of the ± is out (in careful bands: any of it), or when it is out with a confidence below the
/// standard's.
Judgement judge(const Measurement& m, const Band& band, double minConfidence);
/// The same of a measure of a repetition by a band of `standard`, with what the band's witnesses read there: out only
/// where they are out too, and a ± that merely reaches over the edge is let pass where all of them are inside with
/// theirs. A witness that was seen less surely than the standard asks is not heard. Nothing where the measure was not
/// read.
std::optional<Judgement> judge(const MeasuredRep& rep, const Band& band, const Standard& standard);

enum class Severity { Clear, Watch, Unsure };
std::string severityName(Severity s);

/// Whether a measure is about one leg.
bool isOfOneLeg(MeasureId measure);
/// The leg a measurement speaks of in a repetition, or the side a measure of both points to by its sign; nothing when
/// it is about the whole body.
std::optional<Side> sideOf(const Measurement& m, const MeasuredRep& rep);

/// A fault seen in a set.
struct Finding {
    std::string fault;
    Severity severity = Severity::Unsure;
    std::vector<int> reps;  ///< numbers of the repetitions that show it
    MeasureId measure;
    double atS = 0;                        ///< the moment that shows it best
    double value = 0, pm90 = 0, edge = 0;  ///< there
    int rank = 100;
    std::optional<Side> side;  ///< of a fault of one leg, or to one side: the client's
    bool second = false;       ///< seen in the second clip; atS is that clip's time
};

/// Judges every full or double repetition; a fault is clear when it is out in at least a third of the
/// repetitions or in two of them, watch when only once in a longer set, unsure when the ± does not settle it
/// in at least half of them, with the value itself out or the band a careful one: a value inside whose ± merely reaches
/// over the edge, or one that is over it by less than a twentieth of its ±, is drawn as unsure but is no finding. A
/// fault of one leg is found for each leg by itself, among the repetitions in which that leg works; one that goes to a
/// side, for each side by itself. Ordered: clear first, then by the standard's rank.
std::vector<Finding> findFaults(const std::vector<MeasuredRep>& reps, const Standard& standard);

/// Clear first, then by rank.
void sortFindings(std::vector<Finding>& findings);

}  // namespace zevo

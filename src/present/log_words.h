#pragma once

#include <QString>
#include <QStringList>
#include <utility>
#include <vector>

#include "core/session/cue_ledger.h"
#include "present/words.h"

namespace zevo::present {

/// "24 kg", "53 lb".
QString massText(double kg, Lengths lengths);
/// Kilograms of what a scale in these units shows, and back.
double toKg(double shown, Lengths lengths);
double fromKg(double kg, Lengths lengths);
/// The same of lengths, centimetres and inches.
double toCm(double shown, Lengths lengths);
double fromCm(double cm, Lengths lengths);

/// Ids with their titles, for what a set is logged with.
using Named = std::vector<std::pair<std::string, QString>>;
const Named& shoesNamed();
/// What ended a set.
const Named& endedNamed();
const Named& heldNamed();
const std::vector<std::pair<Shirt, QString>>& shirtsNamed();
QString shirtText(Shirt shirt);
QString titleOf(const Named& names, const std::string& id);
QString kindText(SetKind kind);
/// "24 kg", "bar 20 kg + 40 kg", "2 × 16 kg = 32 kg"; empty without a load.
QString loadText(const Load& load, Lengths lengths);
/// Wedge, box, belt and pole, "wedge 10°, belt"; empty without any.
QString aidsText(const SetFacts& facts, Lengths lengths);

/// What was asked, after "asked:": "to the box, 42 cm", "slowly down, 3 s". Empty where the book does not know it.
QString askText(const Ask& ask, const AskBook& book, const Movement& movement, Lengths lengths);
/// Who asked it, when and what for: "asked by Wenna, 3 Dec, for: Depth not reached"; as much of it as is known.
QString askOrigin(const Ask& ask, const AdviceBook& book);

/// What hurt when an easier version was taken for it, and after a set that was done so.
struct PainTrial {
    QString with;  ///< "to the box, 45 cm"; "bridge instead of squat"
    int before = 0, after = 0;
    SubstituteAnswer answer = SubstituteAnswer::Next;
    QString text() const;  ///< "Pain 3 → 1: to the box, 45 cm"
};
/// Nothing: nothing was tried for pain, or it was not asked after the set.
std::optional<PainTrial> painTrialOf(const SetFacts& facts, const Catalogue& catalogue, Lengths lengths);
/// All that was asked of a set, "to the box, 42 cm · a pause below, 2 s"; empty where nothing was.
QString asksText(const SetFacts& facts, const Catalogue& catalogue, Lengths lengths);

/// "heel wedge 10° (before: none)".
QString changeText(const SetUpChange& change, const Catalogue& catalogue, const std::string& movement, Lengths lengths);
/// "Trunk lean: 41° → 35°", "… 6° less": "…, within noise"; without a verdict where nothing is asked of it.
QString differenceText(const MeasureDifference& difference, Lengths lengths);
/// Why two sets were not seen alike.
QString comparabilityText(ComparabilityIssue issue);
/// "worked 3 of 4", "did nothing 2 ×", "not tried yet".
QString scoreText(const CueScore& score);

}  // namespace zevo::present

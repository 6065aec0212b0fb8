#pragma once

#include <QString>
#include <QStringList>
#include <vector>

#include "core/advice/reasoning.h"
#include "core/base/result.h"
#include "core/judge/stop_rules.h"
#include "core/measures/measure.h"
#include "core/serial/result_json.h"
#include "core/session/session.h"

namespace zevo::present {

// All sentences Zevo makes itself: window, report, command line and tests use the same ones. Numbers are written as the
// country does (QLocale); files never come through here.

/// One or two plain sentences about what limits a set, or why it cannot be measured.
QString sentence(const Notice& notice);
/// Why something could not be done: the error's own words, or those of its kind.
QString sentence(const Error& error);

/// Title and text of a stop or of "lighten"; empty when training may go on.
struct StopWords {
    QString title, text;
};
StopWords stopWords(const StopAnswer& stop);
/// "Numbness or tingling" of the id "numbness".
/// "Hinge, Romanian".
QString movementTitle(const Movement& movement, const std::string& variation);
QString redFlagTitle(const std::string& id);
/// "end of the bar" …: what was marked in the picture.
QString markWords(MarkKind kind);
/// "Knee, front" of the id "knee-front"; "Back of the thigh" of "hamstring".
QString painPlaceTitle(const std::string& id);
/// "left", "both sides", "side not said".
QString sideTitle(BodySide side);
/// "Knee, front, left · Low back"; empty where there are none.
QString painSpotsWords(const PainSpots& spots);
QString feltTitle(const std::string& id);

/// "only in reps 5–6 of 6 → tires rather than lacks the skill"; empty when no cause stood out.
QString traceText(const Counsel& counsel);

enum class Lengths { Metric, Us };

/// A measured value for a person: sign only where it matters, unit, sensible decimals. "−14°", "4.8 cm", "1.9 in".
QString valueText(double value, Unit unit, Lengths lengths);
/// How much two values differ by, without a sign, as somebody reckons it who sees both as valueText() writes them; what
/// is lost in their rounding is said by itself.
QString changeText(double before, double after, Unit unit, Lengths lengths);
/// The same with its 90 % half width: "−14° ±8".
QString valueWithPm(double value, double pm90, Unit unit, Lengths lengths);
/// A reading as it is said aloud: "hips 0.08 ±0.03 s first", "1.5 ±0.3 : 1"; of most measures value and unit as above.
QString readingText(MeasureId measure, double value, Lengths lengths);
QString readingText(MeasureId measure, double value, double pm90, Lengths lengths);
/// Stature in the coach's units: "178 cm", "5 ft 10 in".
QString statureText(double cm, Lengths lengths);
/// Where a camera stood: "from the side".
QString filmedFrom(ViewKind view);
/// When the second clip of a set was switched on: "begun 0.34 s later".
QString lagText(double lagS);
/// A list of repetition numbers: "reps 3–6", "rep 2", "reps 1, 4".
QString repsText(const std::vector<int>& reps);
/// "3 reps", "1 rep".
QString repCount(int reps);
/// Figures as the country writes them, with a true minus sign; never "−0", "nan" or "inf" (an em dash instead).
QString figures(double value, int decimals);
/// A tempo as it is read: "4-1-1", "2,5-0-1" where a comma is the point.
QString tempoWords(const Tempo& tempo);

/// What measuring anew would change, one sentence a line; "Nothing changes." when nothing does.
QStringList differenceLines(const Differences& differences, const AdviceBook& book, Lengths lengths);

/// The sentences for result files.
ResultWords resultWords();

}  // namespace zevo::present

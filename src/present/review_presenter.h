#pragma once

#include <QPolygonF>
#include <QString>
#include <QStringList>
#include <map>
#include <memory>
#include <vector>

#include "core/advice/advice.h"
#include "core/body/outline.h"
#include "core/session/session.h"
#include "present/log_words.h"

namespace zevo::present {

/// What a review shows, worked out without a pixel: the widgets only draw it. Shows one state of a set and knows which
/// repetition, measure and finding the coach is looking at; it changes nothing.
class ReviewPresenter {
  public:
    ReviewPresenter(SetState state, std::shared_ptr<const Catalogue> catalogue);
    /// Another state of the same set: the selection stays where it still means something.
    void setState(SetState state);

    // --- The set
    const SetState& state() const { return m_state; }
    const MeasuredSet& set() const { return m_state.set; }
    const SetResult& result() const { return m_state.set.result; }
    /// Those the set can be judged by, the movement's default first.
    const std::vector<Standard>& standards() const { return m_standards; }
    /// The one it is judged by, with the bands that hold for this set's movement and variation.
    const Standard& standard() const { return m_state.standard; }
    /// "Romanian hinge", "Squat".
    QString movementTitle() const;
    /// Whether there is another view, and the track of either one.
    bool hasSecond() const { return m_state.set.other.has_value(); }
    const Track& track(bool second) const { return *m_state.set.view(second).track; }
    /// Whether the second clip was filmed at another moment than the first.
    bool filmedApart() const { return result().second && !result().second->sameTake; }
    /// Repetitions on the clock of one of the clips: those of the set, or of a second clip filmed apart.
    struct RepSpan {
        int number = 0;
        double startS = 0, bottomS = 0, endS = 0;
    };
    std::vector<RepSpan> spans(bool second) const;
    /// Which of spans() is selected; −1 when the clip shows repetitions of its own.
    int spanOfRep(bool second) const;
    /// Time in the second clip of a moment of the first.
    double inSecond(double timeS) const;
    /// Repetitions that count: whole, and not left out by the coach.
    int countedReps() const;
    int partialReps() const;
    /// "5 reps, 1 partial".
    QString countText() const;
    /// The span to leave out so that the selected repetition does not count; and whether it counts now.
    Span currentSpan() const { return {current().startS, current().endS}; }
    bool isLeftOut(const MeasuredRep& rep) const { return result().isLeftOut(rep); }
    void setLengths(Lengths lengths) { m_lengths = lengths; }
    Lengths lengths() const { return m_lengths; }

    // --- Selection
    int rep() const { return m_rep; }  ///< position in the set, 0 = first
    void selectRep(int position);
    QString measure() const { return QString::fromStdString(m_measure.name()); }
    MeasureId measureId() const { return m_measure; }
    void selectMeasure(const QString& id);  ///< unknown ids are ignored
    /// The selected measure was read in the second clip.
    bool measureIsSecond() const;
    /// The leg the selected repetition is about: the working one, else the near one.
    Side leg() const;
    /// The measure that stands for a repetition: the first one the movement names that every repetition has.
    MeasureId keyMeasure() const;
    int finding() const { return m_finding; }  ///< the card on show: its position
    void selectFinding(int index);             ///< also goes to a repetition that shows it, and its measure

    // --- What is shown
    /// One tile of the strip.
    struct Mark {
        QString title;
        Verdict verdict = Verdict::Inside;
        bool above = false;
    };
    struct Tile {
        int number = 0;
        RepKind kind = RepKind::Full;
        bool leftOut = false;
        QPolygonF outline;          ///< picture pixels; empty where it lost the head or a foot
        std::vector<QLineF> limbs;  ///< the body by its points then, picture pixels
        QPointF hip, knee;          ///< picture pixels of the first clip, at the bottom
        QPointF line;               ///< end of the standard's line, drawn from the knee
        bool hasLine = false;
        QString depth;  ///< "14° below level", "62° of lean", "left leg · 91°"
        Verdict depthVerdict = Verdict::Inside;
        bool depthMarked = false;  ///< the key measure has a band
        std::vector<Mark> marks;   ///< worst first
        QString spoken;            ///< the whole tile in words, for screen readers and tests
    };
    std::vector<Tile> tiles() const;

    /// One line of the reading column.
    struct Reading {
        MeasureId measure;
        QString id, title, term, text;
        Unit unit = Unit::Degrees;
        double value = 0, pm90 = 0, confidence = 0, atS = 0;
        bool second = false;  ///< read in the second clip; atS is that clip's time
        double scaleFrom = 0, scaleTo = 1;
        bool hasMin = false, hasMax = false;
        double min = 0, max = 0;
        bool judged = false;
        Judgement judgement;
        double usualFrom = 0, usualTo = 0;  ///< range over the other repetitions of the set
        bool hasUsual = false;
        QString bandText;       ///< "at most 5°"
        QString reason;         ///< why it is unsure, a few words; empty when it is not
        QString withoutManual;  ///< what the network had it at, where the coach corrected it; else empty
        QString spoken;
    };
    /// Of the selected repetition: outside first, then unsure, then inside, then unjudged.
    std::vector<Reading> readings() const;

    /// The card.
    struct Saying {
        bool clean = false;
        bool open = false;  ///< nothing found, but what leads was not judged: no praise
        bool lead = false;  ///< about pain, or where the set was felt: comes before what the picture shows
        QString fault;      ///< id; empty where there is none
        QString figure;     ///< what is meant, as a small drawing: the figure and what differs in it
        std::map<std::string, double> turned;
        QString title, term, where;  ///< fault in coach's words; the field's term; "reps 3–6 · clear"
        QString why;                 ///< "Heel off the floor 4.8 ±1.8 cm in rep 6; the standard allows at most 1.5 cm"
        QStringList say, sayKinds;   ///< wordings, first one to use first
        QStringList scores;          ///< how each fared with this client; empty where the ledger was not asked
        QStringList change, prepare;
        std::vector<std::optional<Ask>> changeAsks;         ///< what each change asks of the next set; may be shorter
        std::vector<std::optional<Instead>> changeInstead;  ///< what each change films instead; may be shorter
        QString progress;
        QString unsure;       ///< only for findings that could not be settled: what to film
        QString trace;        ///< how the likely cause was come to: "only in reps 5–6 of 6 → tires"
        bool stop = false;    ///< pain or a red flag: nothing else is said
        bool second = false;  ///< seen in the second clip
        Severity severity = Severity::Clear;
        double atS = 0;
    };
    std::optional<PainTrial> painTrial() const;
    /// Cards there are: pain first, what was felt (but for a calf or the like beside something clear), then the
    /// findings.
    int findingCount() const;
    Saying saying() const;
    /// How wordings fared with this client: what worked is offered first, what failed twice last.
    void setScores(std::vector<CueScore> scores) { m_scores = std::move(scores); }
    /// What leads in this school and could not be judged, in sentences without a full stop; said before any praise.
    QStringList notJudged() const;
    /// "Whole foot, with toes light, as asked: to the box": by what the set was judged.
    QString judgedBy() const;
    /// The same of one measure: only what was asked about that one.
    QString judgedBy(MeasureId measure) const;
    QString findingTitle(int index) const;
    /// What changes over the set and between the legs, in sentences; more than noise first.
    QStringList overTheSet() const;
    /// The first finding in one line, for lists.
    QString headline() const;
    /// Time under tension of the set: the sum over its repetitions, seconds.
    double tensionS() const;
    /// Median times of the counted repetitions, "2.6-0.4-1.5": down, pause, up, s.
    QString tempoDone() const;
    /// Everything that limits what was measured, in plain sentences.
    QStringList notes() const;

    /// Curve of the selected measure (or what stands nearest to it) over the selected repetition.
    struct Curve {
        QString title;
        Unit unit = Unit::Degrees;
        std::vector<QPointF> points;               ///< (s from the clip's start, value)
        std::vector<std::vector<QPointF>> others;  ///< other repetitions, moved in time so that the bottoms meet
        double startS = 0, arriveS = 0, leaveS = 0, endS = 0;
        QStringList phases;  ///< words for start…arrive, arrive…leave, leave…end: "down", "below", "up"
        bool hasMin = false, hasMax = false;
        double min = 0, max = 0;
    };
    Curve curve() const;

  private:
    const MeasuredRep& current() const { return result().reps[static_cast<std::size_t>(m_rep)]; }
    const AdviceBook& advice() const { return m_catalogue->advice; }
    std::vector<MeasureId> unsureInside() const;
    QStringList judgedTitles() const;
    std::vector<const char*> leads() const;
    const Finding* shownFinding() const;
    void tell(Saying& saying, const Advice& advice) const;
    Saying leadSaying(const char* card) const;
    Saying cleanSaying() const;
    QString schoolWords() const;
    QString notJudgedText(const NotJudged& notJudged) const;
    QString howToJudge(MeasureId measure) const;
    QString partialText(const MeasuredRep& rep) const;
    Reading readingOf(const MeasuredRep& rep, const Measurement& m) const;
    QString keyText(const MeasuredRep& rep, const Measurement& m) const;
    QString faultTitle(const Finding& f) const;
    Saying stopSaying() const;
    /// The repetition a finding's value is of; null where none is that one.
    const MeasuredRep* repOf(const Finding& f) const;
    QString repWith(const Finding& f) const;
    /// "14° below level", of a thigh.
    static QString levelText(double thighDeg);
    QString depthLimitText(const MeasuredRep& rep) const;
    QString bandText(const Band& band) const;

    SetState m_state;
    std::shared_ptr<const Catalogue> m_catalogue;
    std::vector<Standard> m_standards;
    Lengths m_lengths = Lengths::Metric;
    std::vector<CueScore> m_scores;
    Saying findingSaying() const;
    int m_rep = 0, m_finding = 0;
    MeasureId m_measure;
};

}  // namespace zevo::present

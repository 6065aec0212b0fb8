#pragma once

#include <QDate>
#include <QString>
#include <QStringList>
#include <memory>
#include <optional>
#include <vector>

#include "core/session/cue_ledger.h"
#include "present/log_words.h"
#include "present/overlay.h"

namespace zevo::present {

/// One side of a comparison: a set, and which repetitions of it.
struct CompareSide {
    SetState state;
    QString title;            ///< "27 Nov 2026, set 2"
    std::optional<int> rep;   ///< position of one repetition; none: all that count
    std::optional<Side> leg;  ///< only repetitions of this leg
    std::string set{};        ///< its id among the client's sets
};

/// Two sets, or repetitions, lined up by the phase of the repetition. Works out what the page shows; changes nothing.
class ComparePresenter {
  public:
    /// `sets`: the client's of this movement, oldest first, which tell how much sets differ by themselves.
    ComparePresenter(CompareSide before, CompareSide after, std::shared_ptr<const Catalogue> catalogue,
                     std::vector<LedgerSet> sets = {});
    void setLengths(Lengths lengths) { m_lengths = lengths; }
    Lengths lengths() const { return m_lengths; }
    const CompareSide& side(bool after) const { return after ? m_after : m_before; }
    void setSide(bool after, CompareSide side);
    void swap();

    /// 0 start … 1.5 turning point … 3 end.
    double phase() const { return m_phase; }
    void setPhase(double phase);
    /// The repetition that stands for a side: the one chosen, else the one in the middle by its measure.
    const MeasuredRep& shownRep(bool after) const;
    int repCount(bool after) const { return static_cast<int>(repsOf(after).size()); }
    /// The moment of a side's clip at the phase.
    double timeS(bool after) const;

    MeasureId measure() const { return m_measure; }
    void selectMeasure(MeasureId measure);
    void nextMeasure();

    /// Lines of the measure on a side's picture, and the other side's figure to be laid over it.
    Overlay overlay(bool after) const;
    Overlay otherFigure(bool after) const;
    /// Value of the measure in the repetition shown, with its ±.
    QString valueOf(bool after) const;

    /// One line of the table.
    struct Row {
        MeasureId measure;
        QString title, before, after, change;
        bool significant = false;            ///< more than noise; only of what the school asks something of
        bool better = false, moved = false;  ///< whether it lies nearer to its band, or its distance changed at all
        QString spoken;
    };
    std::vector<Row> rows() const;
    /// What differs more than noise, as sentences, then one for the rest. Sets that were not seen alike get none of
    /// the first.
    QStringList sentences() const;
    /// What makes the two unlike, in sentences; empty when they are alike.
    QStringList warnings() const;

    struct Curve {
        QString title;
        Unit unit = Unit::Degrees;
        std::vector<QPointF> before, after;  ///< (phase, value)
        QStringList phases;
        std::optional<double> min, max;
    };
    Curve curve() const;
    QString sideText(bool after) const;

  private:
    std::vector<MeasuredRep> repsOf(bool after) const;
    void choose();
    void showReps();
    std::vector<MeasureDifference> differences() const;
    std::vector<ComparabilityIssue> issues() const;
    const Standard& standard() const { return m_after.state.standard; }

    CompareSide m_before, m_after;
    std::shared_ptr<const Catalogue> m_catalogue;
    std::vector<LedgerSet> m_sets;
    Lengths m_lengths = Lengths::Metric;
    double m_phase = 1.5;
    MeasureId m_measure;
    MeasuredRep m_shown[2];
    std::vector<MeasureDifference> m_differences;
};

}  // namespace zevo::present

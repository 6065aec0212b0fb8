#pragma once

#include <QString>
#include <QWidget>
#include <optional>

#include "core/judge/stop_rules.h"

class QCheckBox;
class QComboBox;

namespace zevo::app {

class PlaceButton;

/// Does anything hurt: how much, where, sharp or not, in one row. Nothing of it has to be filled in.
class PainRow : public QWidget {
    Q_OBJECT
  public:
    struct Answer {
        std::optional<int> score;  ///< 0–10
        PainSpots spots;           ///< none: none named
        bool sharp = false;
        bool operator==(const Answer&) const = default;
    };
    /// `name`: of the fields, for tests and screen readers: nameScore, namePlace, nameSharp.
    PainRow(const QString& question, const QString& name, QWidget* parent);
    Answer answer() const;
    /// Shows an answer without telling of it.
    void setAnswer(const Answer& answer);

  signals:
    void answered(const zevo::app::PainRow::Answer& answer);

  private:
    QComboBox* m_score;
    PlaceButton* m_place;
    QCheckBox* m_sharp;
    bool m_filling = false;
};

}  // namespace zevo::app

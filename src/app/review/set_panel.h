#pragma once

#include <QDate>
#include <QFrame>
#include <vector>

#include "app/care/choice_rows.h"
#include "app/care/pain_row.h"
#include "app/theme/theme.h"
#include "present/review_presenter.h"
#include "present/set_document.h"

class QCheckBox;
class QComboBox;
class QDateEdit;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace zevo::app {

/// What the coach knows of a set and the video does not tell: movement and variation, load and aids, pain, the other
/// view. Lies over the right half of the review; nothing in it has to be filled in, every change counts at once.
class SetPanel : public QFrame {
    Q_OBJECT
  public:
    explicit SetPanel(QWidget* parent);
    void setTheme(const Theme& theme);
    /// `frameS`: time between two frames of the second clip; `forClient`: what the client has otherwise than the
    /// schools.
    void setSet(const present::SetDocument& document, const present::ReviewPresenter& presenter, double frameS,
                const QDate& heldOn, const Choices& forClient);
    /// Shows or hides it.
    void toggle();

  signals:
    void factsChosen(const SetFacts& facts);
    void choicesKept(const zevo::Choices& choices);
    void heldOnChosen(const QDate& day);
    void deleteWanted();
    void secondWanted(bool sameTake);
    void secondRemoved();
    void nudged(double byS);
    void togetherChosen(bool sameTake);
    void importWanted();
    void exportWanted();

  protected:
    void keyPressEvent(QKeyEvent*) override;
    void paintEvent(QPaintEvent*) override;

  private:
    void fillMovements(const std::vector<Movement>& movements);
    void fillVariations();
    void showSetUp();
    void choose();
    void readTempo();

    Theme m_theme = lightTheme();
    SetFacts m_facts;
    double m_frameS = 1.0 / 30;
    bool m_filling = false, m_hasSecond = false;
    std::vector<Movement> m_movements;
    QDateEdit* m_day;
    QComboBox *m_movement, *m_variation;
    PainRow* m_before;
    ChoiceRows* m_choices;
    QDoubleSpinBox *m_load, *m_wedge, *m_ankle;
    QLineEdit* m_tempo;
    QCheckBox *m_apart, *m_straight;
    QStringList m_saidBefore;  ///< what the choices tell the client before the first repetition
    QLabel *m_setUp, *m_tempoSaid, *m_second, *m_standard;
    QPushButton *m_add, *m_remove, *m_earlier, *m_later;
};

}  // namespace zevo::app

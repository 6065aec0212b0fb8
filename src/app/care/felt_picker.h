#pragma once

#include <QFrame>
#include <map>
#include <string>
#include <vector>

#include "app/care/pain_row.h"
#include "app/theme/theme.h"

class QCheckBox;

namespace zevo::app {

/// After the set: does anything hurt now, and where was the set felt; one tap on a small body, front and back, or on
/// the word.
class FeltPicker : public QFrame {
    Q_OBJECT
  public:
    explicit FeltPicker(QWidget* parent);
    void setTheme(const Theme& theme);
    void setFelt(const std::vector<std::string>& places);
    void setPain(const PainRow::Answer& after);
    /// Shows or hides it at the lower right of its parent.
    void toggle();
    /// Middle of a place on the body, widget pixels; null where the body has none.
    QPointF spot(const std::string& place) const;

  signals:
    void felt(const std::vector<std::string>& places);
    void painAnswered(const zevo::app::PainRow::Answer& after);

  protected:
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void paintEvent(QPaintEvent*) override;

  private:
    Theme m_theme = lightTheme();
    bool m_filling = false;
    PainRow* m_pain;
    std::vector<std::pair<std::string, QCheckBox*>> m_words;
};

}  // namespace zevo::app

#pragma once

#include <QWidget>

#include "pipeline/virtual_client.h"
#include "present/words.h"

class QComboBox;
class QLabel;
class QPushButton;
class QSlider;

namespace zevo::app {

/// The dials of the simulated camera: what its client does wrong, how much of it is left after a cue, and where the
/// camera stands. Shown only with that camera, and named as what it is.
class VirtualPanel : public QWidget {
    Q_OBJECT
  public:
    explicit VirtualPanel(QWidget* parent = nullptr);
    void setMovement(const Movement& movement, const std::string& variation, double statureCm, unsigned look,
                     const AdviceBook& book);
    const sim::ClientDials& dials() const { return m_dials; }
    /// For tests and the demo: all dials at once.
    void setDials(const sim::ClientDials& dials);
    /// What the check says has to be done with the camera, for the helper.
    void setAdvice(const std::optional<CameraAdvice>& advice);
    /// A cue about this fault was given: the client listens.
    void hear(const QString& fault);

  signals:
    void changed();

  private:
    void fill();
    void take();
    void put(CameraMove move, double amount);

    sim::ClientDials m_dials;
    std::optional<CameraAdvice> m_advice;
    bool m_filling = false;
    QComboBox *m_fault, *m_listens, *m_view;
    QSlider* m_size;
    QPushButton* m_helper;
};

}  // namespace zevo::app

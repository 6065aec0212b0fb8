#pragma once

#include <QObject>

namespace zevo::app {

/// Knows whether anybody touched keys, mouse or wheel since it was made: a page must not change by itself under who
/// reads it.
class InputWatch : public QObject {
    Q_OBJECT
  public:
    explicit InputWatch(QObject* parent = nullptr);
    bool wasTouched() const { return m_touched; }

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    bool m_touched = false;
};

}  // namespace zevo::app

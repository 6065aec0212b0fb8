#include "app/shell/application.h"

#include <QEvent>
#include <QLabel>
#include <QMessageBox>
#include <exception>

namespace zevo::app {
namespace {

class PlainLabels : public QObject {
  public:
    using QObject::QObject;
    bool eventFilter(QObject* watched, QEvent* event) override {
        if (event->type() != QEvent::Polish) return false;
        if (auto* label = qobject_cast<QLabel*>(watched); label && label->textFormat() == Qt::AutoText)
            label->setTextFormat(Qt::PlainText);
        if (auto* box = qobject_cast<QMessageBox*>(watched); box && box->textFormat() == Qt::AutoText)
            box->setTextFormat(Qt::PlainText);
        return false;
    }
};

}  // namespace

void showLabelsAsPlainText(QCoreApplication& application) {
    constexpr const char* kName = "plainLabels";
    if (application.findChild<QObject*>(kName, Qt::FindDirectChildrenOnly)) return;
    auto* plain = new PlainLabels(&application);
    plain->setObjectName(kName);
    application.installEventFilter(plain);
}

Application::Application(int& argc, char** argv) : QApplication(argc, argv) {
    showLabelsAsPlainText(*this);
}

bool Application::notify(QObject* receiver, QEvent* event) {
    try {
        return QApplication::notify(receiver, event);
    } catch (const std::exception& e) {
        if (m_onCaught) m_onCaught(refusal(NoticeKind::Inside, {}, e.what()));
    } catch (...) {
        if (m_onCaught) m_onCaught(refusal(NoticeKind::Inside, {}, "something that is no std::exception"));
    }
    return false;
}

}  // namespace zevo::app

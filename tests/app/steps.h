#pragma once

// What a coach does between two sets, step by step, with the mouse or with keys alone; each step looks whether it did
// what it should. For the walks of test_filming and test_between.
#include <QAction>
#include <QApplication>
#include <QElapsedTimer>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMouseEvent>
#include <QPushButton>
#include <QTableWidget>
#include <QTest>

#include "app/client/client_view.h"
#include "app/shell/main_window.h"
#include "app/shell/palette.h"

namespace steps {

using namespace zevo;
using namespace zevo::app;
using namespace zevo::record;

inline constexpr int kLong = 1200000;  // ms; a slow machine is no reason to fail, and a hang must not cost the hour

template <typename Widget>
Widget* child(QWidget* in, const char* name) {
    auto* found = in->findChild<Widget*>(name);
    if (!found) qFatal("no %s", name);
    return found;
}

inline void click(QWidget* in, const char* name) {
    QTest::mouseClick(child<QPushButton>(in, name), Qt::LeftButton);
}

inline void key(MainWindow& w, int k, Qt::KeyboardModifiers with = Qt::NoModifier) {
    QWidget* on = QApplication::focusWidget() ? QApplication::focusWidget() : w.currentView();
    QTest::keyClick(on, static_cast<Qt::Key>(k), with);
}

/// Press, move on the way, let go.
inline void drag(QWidget* on, const QPointF& from, const QPointF& to) {
    auto send = [&](QEvent::Type type, const QPointF& at, Qt::MouseButtons down) {
        QMouseEvent e(type, at, on->mapToGlobal(at), Qt::LeftButton, down, Qt::NoModifier);
        QApplication::sendEvent(on, &e);
        QApplication::processEvents();
    };
    send(QEvent::MouseButtonPress, from, Qt::LeftButton);
    for (double share : {0.3, 0.7, 1.0}) send(QEvent::MouseMove, from + share * (to - from), Qt::LeftButton);
    send(QEvent::MouseButtonRelease, to, Qt::NoButton);
}

inline bool waitForWork(MainWindow& w) {
    return QTest::qWaitFor([&] { return !w.isWorking(); }, kLong);
}

/// Around the turning point of a repetition the network puts the knee of the near side wrong: `by` picture pixels.
inline void misplaceKnee(MainWindow& w, store::SetId id, int rep, const QPointF& by) {
    auto library = store::Library::open(w.libraryFolder());
    auto set = library->loadSet(id);
    if (!set) qFatal("no set");
    auto seen = std::make_shared<Observation>(*set->seen.front().observation);
    const double at = set->kept.reps.at(static_cast<std::size_t>(rep)).bottomS;
    const Track& t = w.review()->presenter().track(false);
    const auto knee = static_cast<std::size_t>(t.nearOf(Landmark::LeftKnee));
    for (auto& f : seen->poses)
        if (std::abs(f.timeS - at) < 0.4) f.points[knee].x += float(by.x()), f.points[knee].y += float(by.y());
    seen->secondEstimates.clear();
    const Observations all{seen};
    const auto catalogue = std::make_shared<const Catalogue>(w.review()->document().catalogue());
    const auto state = recompute(all, set->edits, *catalogue);
    if (!state) qFatal("cannot be measured");
    store::Seen refined = set->seen.front();
    refined.observation = seen;
    SetChange change{set->edits, set->edits, {}, refined};
    change.outcome = outcomeOf(*state, kEngine, catalogue);
    if (!SetKeeper(*library, catalogue).commit(*set, std::move(change))) qFatal("not kept");
}

inline double kneeBend(MainWindow& w, int rep) {
    const auto& reps = w.review()->presenter().result().reps;
    const Measurement* m = reps.at(static_cast<std::size_t>(rep)).find("knee_flexion");
    return m ? m->value : std::nan("");
}

/// The point of that name among those that can be dragged; −1 without one.
inline int handleNamed(MainWindow& w, const QString& name) {
    const auto& handles = w.review()->stage()->handles();
    for (std::size_t i = 0; i < handles.size(); ++i)
        if (handles[i].name == name) return static_cast<int>(i);
    return -1;
}

}  // namespace steps

// What can be changed about the set that is shown: context, the other view, standards.
#include <QFileDialog>
#include <QFileInfo>
#include <QUndoCommand>
#include <QUndoStack>

#include "analysis/data_files.h"
#include "app/shell/main_window.h"
#include "core/results/result_json.h"

namespace zevo::app {

/// What the coach says of a set, changed with undo.
class MainWindow::ContextChange : public QUndoCommand {
  public:
    ContextChange(MainWindow* window, SetContext from, SetContext to)
        : m_window(window), m_from(std::move(from)), m_to(std::move(to)) {
        setText("change to the set");
    }
    void undo() override { m_window->applyContext(m_from); }
    void redo() override { m_window->applyContext(m_to); }

  private:
    MainWindow* m_window;
    SetContext m_from, m_to;
};

/// The other view moved in time, taken apart from the first or taken away.
class MainWindow::SecondChange : public QUndoCommand {
  public:
    using Second = std::optional<store::SecondClip>;
    SecondChange(MainWindow* window, Second from, Second to)
        : m_window(window), m_from(std::move(from)), m_to(std::move(to)) {
        setText("change to the other view");
    }
    void undo() override { m_window->applySecond(m_from); }
    void redo() override { m_window->applySecond(m_to); }

  private:
    MainWindow* m_window;
    Second m_from, m_to;
};

void MainWindow::changeContext(const SetContext& context) {
    m_undo->push(new ContextChange(this, m_review->set().context, context));
}

void MainWindow::applyContext(const SetContext& context) {
    const store::SetId id = m_review->set().id;
    if (auto done = m_library.updateContext(id, context); !done)
        return showNotice(QString::fromStdString(done.error().message));
    openSet(id);
}

void MainWindow::takeProposal(const QString& family) {
    SetContext context = m_review->set().context;
    // Which lunge it is does not show surely; the plainest one, and the coach names another on the same page.
    const auto movement = analysis::loadMovement(family == "lunge" ? "split-squat" : family.toStdString());
    if (!movement) return;
    context.movement = *movement;
    context.variation.clear();
    changeContext(context);
}

void MainWindow::chooseSecondClip(bool together) {
    if (isWorking()) return;
    const QString path = QFileDialog::getOpenFileName(this, "Add the other view", {}, kVideos);
    if (!path.isEmpty()) addSecondClip(path, together);
}

void MainWindow::addSecondClip(const QString& path, bool together) {
    if (isWorking() || !m_review->hasSet()) return;
    run("Measuring " + QFileInfo(path).fileName(),
        [folder = m_library.folder(), id = m_review->set().id, path, together, model = m_settings.model](
            const auto& cancel, const auto& progress) {
            return app::addSecondClip(folder, id, path, together, model, cancel, progress);
        });
}

void MainWindow::changeSecond(const std::function<void(std::optional<store::SecondClip>&)>& change) {
    if (isWorking() || !m_review->set().second) return;
    std::optional<store::SecondClip> second = m_review->set().second;
    change(second);
    m_undo->push(new SecondChange(this, m_review->set().second, second));
}

void MainWindow::applySecond(const std::optional<store::SecondClip>& second) {
    const store::SetId id = m_review->set().id;
    if (auto done = m_library.setSecondClip(id, second); !done)
        return showNotice(QString::fromStdString(done.error().message));
    openSet(id);
}

void MainWindow::chooseStandardFile() {
    const QString path =
        QFileDialog::getOpenFileName(this, "Import a standard", {}, "Standards (*.json);;All files (*)");
    if (!path.isEmpty()) importStandard(path);
}

void MainWindow::importStandard(const QString& path) {
    const auto taken = analysis::importStandard(path.toStdString(), ownStandards(m_library.folder()).toStdString());
    if (!taken) return showNotice(QString::fromStdString(taken.error().message) + " Nothing was changed.");
    showNotice(QString("The standard “%1” can be chosen now.").arg(QString::fromStdString(taken->title)));
    if (!m_review->hasSet()) return;
    if (analysis::judges(*taken, m_review->set().context.movement)) {
        const auto& p = m_review->presenter();
        (void)m_library.updateJudgement(m_review->set().id, QString::fromStdString(taken->id), p.countedReps(),
                                        p.headline(), QByteArray::fromStdString(toJson(p.result())));
    }
    openSet(m_review->set().id);
}

void MainWindow::chooseExport() {
    if (!m_review->hasSet()) return;
    const Standard& shown = m_review->presenter().standard();
    const QString path = QFileDialog::getSaveFileName(this, "Export the standard",
                                                      QString::fromStdString(shown.id) + ".json", "Standards (*.json)");
    if (!path.isEmpty()) exportStandard(path);
}

void MainWindow::exportStandard(const QString& path) {
    if (!m_review->hasSet()) return;
    // Whole, with the bands of every variation.
    for (const Standard& s : m_review->presenter().standards())
        if (s.id == m_review->presenter().standard().id) {
            const auto done = analysis::writeTextFile(path.toStdString(), standardJson(s));
            showNotice(done ? "Written to " + path + ". Give it another id in the file to import it as your own."
                            : QString::fromStdString(done.error().message));
        }
}

}  // namespace zevo::app

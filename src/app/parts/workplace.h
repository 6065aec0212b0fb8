#pragma once

#include <functional>
#include <memory>

#include "app/parts/actions.h"
#include "app/parts/question_bar.h"
#include "app/parts/work_strip.h"
#include "app/work/job_queue.h"
#include "app/work/settings.h"
#include "core/session/session.h"
#include "record/client_book.h"
#include "record/opening.h"
#include "record/set_writer.h"
#include "store/library.h"
#include "store/log.h"

class QUndoStack;
class QWidget;

namespace zevo::app {

/// What file dialogs offer.
inline constexpr const char* kVideos =
    "Videos (*.mp4 *.mov *.mkv *.avi *.webm *.m4v *.mts *.m2ts *.3gp *.mpg *.mpeg *.wmv *.ts);;All files (*)";

/// What the window lends to the desks of its pages: the record, jobs, commands and ways to say something. Everything
/// outlives the desks; only on the window's thread.
struct Workplace {
    store::Library& library;
    record::ClientBook& clients;
    store::Log& log;
    Settings& settings;
    const std::shared_ptr<const Catalogue>& catalogue;  ///< as it is now: it is read anew when a standard comes in
    Actions& actions;
    QUndoStack& undo;
    JobQueue& queue;
    record::SetWriter& writer;
    WorkStrip& strip;
    QuestionBar& ask;
    QWidget* window = nullptr;  ///< over which a dialog stands

    std::function<bool(const QWidget*)> isShown;  ///< whether a page is the one that is looked at
    /// One sentence under the header.
    std::function<void(const QString& text)> say;
    /// A problem on the strip, and in the log. `clip`: of a clip that could not be measured.
    std::function<void(const QString& title, const Error& error, bool clip)> fail;
    /// Number of the page or set asked for last: what an earlier one comes to is not shown any more.
    std::function<int()> nextOpening;
    std::function<bool(int)> isLastOpening;

    /// As soon as everything handed to the writer so far is in the record.
    void afterWrites(std::function<void()> then) {
        if (writer.pending() == 0) return then();
        writer.run([](store::Library&) { return Result<void>(); }, [then = std::move(then)](const auto&) { then(); });
    }
    /// A client and what their next set begins with, what was asked a moment ago included; the movement chosen last
    /// alone where the client cannot be read.
    void nextSetOf(store::ClientId id, std::function<void(const Result<store::Client>&, const SetFacts&)> then) {
        afterWrites([this, id, then = std::move(then)] {
            const auto whose = clients.client(id);
            const SetFacts chosen = chosenMovement(settings, *catalogue);
            then(whose, whose ? record::carriedOver(library, *whose, chosen, *catalogue) : chosen);
        });
    }
};

}  // namespace zevo::app

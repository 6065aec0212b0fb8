#include "app/shell/work_strip.h"

#include <QBoxLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <cmath>

#include "app/theme/theme.h"

namespace zevo::app {
namespace {

QString doingWords(pipeline::Doing doing) {
    using pipeline::Doing;
    switch (doing) {
        case Doing::Reading: return WorkStrip::tr("following the client");
        case Doing::Outlines: return WorkStrip::tr("drawing the outlines");
        case Doing::ViewingCopy: return WorkStrip::tr("making it quick to jump about in");
        case Doing::CheckingFile: return WorkStrip::tr("checking the file");
        case Doing::Drawing: return WorkStrip::tr("drawing the demo clip");
        case Doing::Opening: break;
    }
    return WorkStrip::tr("opening");
}

}  // namespace

QString progressText(const pipeline::Progress& p) {
    QString text = doingWords(p.doing);
    if (p.framesInAll > 0) text += WorkStrip::tr(", frame %1 of %2").arg(p.framesDone).arg(p.framesInAll);
    if (p.secondsLeft >= 1) text += WorkStrip::tr(", about %1 s left").arg(std::lround(std::ceil(p.secondsLeft)));
    return text;
}

WorkStrip::WorkStrip(QWidget* parent) : QFrame(parent) {
    setObjectName("workStrip");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 0, 24, 0);
    column->setSpacing(0);
    auto label = [this](QWidget* in, const char* name, int pixels, bool bold, bool faint) {
        auto* l = new QLabel(in);
        l->setObjectName(name);
        l->setFont(textFont(pixels, bold));
        if (faint) l->setProperty("kind", "faint");
        return l;
    };
    auto button = [this](QWidget* in, const char* name, const QString& text, auto signal) {
        auto* b = new QPushButton(text, in);
        b->setObjectName(name);
        b->setMinimumHeight(34);
        b->setFocusPolicy(Qt::TabFocus);
        connect(b, &QPushButton::clicked, this, signal);
        return b;
    };
    m_work = new QWidget(this);
    auto* row = new QHBoxLayout(m_work);
    row->setContentsMargins(0, 2, 0, 2);
    row->setSpacing(12);
    m_title = label(m_work, "workTitle", 15, false, false);
    m_bar = new QProgressBar(m_work);
    m_bar->setObjectName("workBar");
    m_bar->setTextVisible(false);
    m_bar->setFixedSize(160, 8);
    m_waiting = label(m_work, "workWaiting", 13, false, true);
    m_stop = button(m_work, "stopWork", tr("Stop (Esc)"), &WorkStrip::stopWanted);
    row->addWidget(m_bar);
    row->addWidget(m_title, 1);
    row->addWidget(m_waiting);
    row->addWidget(m_stop);
    column->addWidget(m_work);

    m_said = new QWidget(this);
    auto* said = new QHBoxLayout(m_said);
    said->setContentsMargins(0, 4, 0, 4);
    said->setSpacing(12);
    auto* words = new QVBoxLayout;
    words->setSpacing(0);
    m_text = label(m_said, "workMessage", 16, true, false);
    m_text->setWordWrap(true);
    m_safe = label(m_said, "workSafe", 13, false, true);
    m_safe->setWordWrap(true);
    words->addWidget(m_text);
    words->addWidget(m_safe);
    said->addLayout(words, 1);
    m_show = button(m_said, "showReadySet", tr("Show it (G)"), &WorkStrip::readyWanted);
    m_show->setProperty("kind", "main");
    m_other = button(m_said, "otherClip", tr("Choose another clip…"), &WorkStrip::otherClipWanted);
    m_copy = button(m_said, "copyDetails", tr("Copy details"), &WorkStrip::copyWanted);
    m_dismiss = button(m_said, "dismiss", tr("Dismiss"), &WorkStrip::dismiss);
    for (QPushButton* b : {m_show, m_other, m_copy, m_dismiss}) said->addWidget(b);
    column->addWidget(m_said);
    arrange();
}

void WorkStrip::arrange() {
    m_work->setVisible(m_working);
    m_said->setVisible(m_problem || m_ready);
    m_show->setVisible(m_ready);
    m_copy->setVisible(m_problem);
    setVisible(m_working || m_problem || m_ready);
}

void WorkStrip::showJobs(const std::vector<JobQueue::Job>& jobs) {
    // Opening a set is over before it could be read about.
    std::vector<JobQueue::Job> shown;
    for (const auto& j : jobs)
        if (j.priority != JobQueue::Priority::Now) shown.push_back(j);
    const bool working = !shown.empty();
    if (working) {
        const auto& first = shown.front();
        m_title->setText(first.title + ": " + progressText(first.progress));
        m_bar->setRange(0, static_cast<int>(first.progress.framesInAll));
        m_bar->setValue(static_cast<int>(first.progress.framesDone));
        m_waiting->setText(shown.size() > 1 ? tr("%1 more").arg(shown.size() - 1) : QString());
        setAccessibleDescription(m_title->text());
    }
    if (working == m_working) return;
    m_working = working;
    arrange();
}

void WorkStrip::showReady(const QString& text) {
    m_ready = true;
    m_problem = false;
    m_text->setText(text);
    m_safe->clear();
    m_safe->hide();
    m_other->hide();
    arrange();
}

void WorkStrip::showProblem(const QString& title, const QString& message, const QString& safe, bool clip) {
    m_problem = true;
    m_ready = false;
    m_text->setText(title.isEmpty() ? message : title + ": " + message);
    m_safe->setText(safe);
    m_safe->setVisible(!safe.isEmpty());
    m_other->setVisible(clip);
    arrange();
}

void WorkStrip::dismiss() {
    m_problem = m_ready = false;
    arrange();
}

QString WorkStrip::message() const {
    return m_text->text();
}
bool WorkStrip::hasProblem() const {
    return m_problem;
}
bool WorkStrip::hasReady() const {
    return m_ready;
}

}  // namespace zevo::app

#include "app/parts/work_strip.h"

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
        case Doing::Drawing: return WorkStrip::tr("drawing");
        case Doing::Following: return WorkStrip::tr("following what was marked");
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

    auto saying = [&](QWidget*& box, const char* name, QLabel*& text) {
        box = new QWidget(this);
        auto* line = new QHBoxLayout(box);
        line->setContentsMargins(0, 4, 0, 4);
        line->setSpacing(12);
        auto* words = new QVBoxLayout;
        words->setSpacing(2);
        text = label(box, name, 16, true, false);
        text->setWordWrap(true);
        words->addWidget(text);
        line->addLayout(words, 1);
        column->addWidget(box);
        return std::pair(line, words);
    };
    const auto [readyRow, readyWords] = saying(m_readyBox, "readyMessage", m_readyText);
    m_show = button(m_readyBox, "showReadySet", tr("Show it (G)"), &WorkStrip::readyWanted);
    m_show->setProperty("kind", "main");
    readyRow->addWidget(m_show);
    readyRow->addWidget(button(m_readyBox, "laterReady", tr("Later"), [this] {
        m_ready = false;
        arrange();
    }));
    const auto [problemRow, problemWords] = saying(m_problemBox, "workMessage", m_text);
    m_safe = label(m_problemBox, "workSafe", 13, false, true);
    m_safe->setWordWrap(true);
    problemWords->addWidget(m_safe);
    m_other = button(m_problemBox, "otherClip", tr("Choose another clip…"), &WorkStrip::otherClipWanted);
    problemRow->addWidget(m_other);
    problemRow->addWidget(button(m_problemBox, "copyDetails", tr("Copy details"), &WorkStrip::copyWanted));
    problemRow->addWidget(button(m_problemBox, "dismiss", tr("Dismiss"), &WorkStrip::dismissProblem));
    arrange();
}

namespace {

QString problemLine(const QString& title, const QString& message) {
    return title.isEmpty() ? message : title + ": " + message;
}

}  // namespace

void WorkStrip::arrange() {
    const bool working = m_working && !m_quiet, ready = m_ready && !m_quiet;
    m_work->setVisible(working);
    m_readyBox->setVisible(ready);
    m_problemBox->setVisible(m_problem);
    setVisible(working || m_problem || ready);
}

void WorkStrip::setQuiet(bool quiet) {
    m_quiet = quiet;
    arrange();
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
    m_readyText->setText(text);
    arrange();
}

void WorkStrip::showProblem(const QString& title, const QString& message, const QString& safe, bool clip) {
    const QString said = problemLine(title, message);
    // One that was not read yet stays.
    m_text->setText(m_problem ? m_text->text() + "\n" + said : said);
    m_problem = true;
    m_safe->setText(safe);
    m_other->setVisible(clip);
    arrange();
}

bool WorkStrip::withdrawProblem(const QString& title, const QString& message) {
    QStringList lines = m_problem ? m_text->text().split('\n') : QStringList();
    if (!lines.removeOne(problemLine(title, message))) return false;
    m_text->setText(lines.join('\n'));
    m_problem = !lines.isEmpty();
    arrange();
    return true;
}

void WorkStrip::dismissProblem() {
    m_problem = false;
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

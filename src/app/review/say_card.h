#pragma once

#include <QFrame>

#include "app/review/fault_picture.h"
#include "app/theme/theme.h"
#include "present/review_presenter.h"

class QLabel;
class QLineEdit;
class QPushButton;

namespace zevo::app {

using present::Lengths;
using present::ReviewPresenter;

/// What to say now: one finding, one sentence big, then why, then what to change and prepare, one at a time.
class SayCard : public QFrame {
    Q_OBJECT
  public:
    explicit SayCard(QWidget* parent = nullptr);
    void setTheme(const Theme& theme);
    /// `set`: what changes over the set, sentences.
    void setSaying(const ReviewPresenter::Saying& saying, int index, int count, const QStringList& set);

    /// Without what a key brings as well, for low windows.
    void setCompact(bool compact);
    enum class Part { Change, Prepare, Progress, Set };
    void showPart(Part part);
    /// The next wording of the same cue.
    void otherWords();
    /// A change on the card that asks something of the next set: takes it, or takes it back. Nothing where none does.
    void askChange();
    /// What is asked from the next set on: changes that ask it are ticked.
    void setAsked(const Asks& asks);
    /// Asks for what was really said.
    void askOwnWords();
    QString sentence() const;
    const ReviewPresenter::Saying& saying() const { return m_saying; }
    /// Marks the words as given.
    QPushButton* givenButton() const { return m_given; }
    /// What was given after this set; empty: nothing yet.
    void setGiven(const QString& wording, bool any);

  signals:
    void findingWanted(int index);
    void momentWanted(double timeS);
    void ownWordsGiven(const QString& words);
    /// A change was taken that asks something of the next set; or, not `take`, it was not.
    void changeAsked(const zevo::Ask& ask, bool take);
    /// What is done instead of what hurts is filmed next, with what is asked of it.
    void insteadWanted(const zevo::Instead& instead, const std::optional<zevo::Ask>& ask);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    void fill();
    void fillChanges();
    /// One change with what it asks.
    struct ChangeRow {
        QWidget* row;
        QLabel* text;
        QPushButton* ask;
    };

    Theme m_theme = lightTheme();
    ReviewPresenter::Saying m_saying;
    QStringList m_set;
    int m_index = 0, m_count = 0, m_wording = 0;
    Part m_part = Part::Change;
    QLabel *m_title, *m_where, *m_sentence, *m_why, *m_details, *m_position, *m_trace;
    FaultPicture* m_picture;
    QLineEdit* m_own;
    QPushButton *m_previous, *m_next, *m_words, *m_moment, *m_given;
    QString m_givenWords;
    Asks m_asked;
    std::vector<ChangeRow> m_changes;
    bool m_anyGiven = false, m_compact = false;
    std::array<QPushButton*, 4> m_tabs{};
};

}  // namespace zevo::app

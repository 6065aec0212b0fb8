#pragma once

#include <QElapsedTimer>
#include <QImage>
#include <QTimer>
#include <QTransform>
#include <QWidget>
#include <memory>
#include <optional>
#include <vector>

#include "app/theme/theme.h"
#include "pipeline/frame_fetcher.h"
#include "present/overlay.h"
#include "present/review_presenter.h"

namespace zevo::app {

/// The video with the measured lines on the body: scrub, step, slow play, loop of a stretch. Frames come from a
/// FrameFetcher; the widget never waits for one.
class Stage : public QWidget {
    Q_OBJECT
  public:
    explicit Stage(QWidget* parent = nullptr);
    ~Stage() override;
    void setTheme(const Theme& theme);
    /// Opens a clip; an empty path shows `message` instead. `size` is the clip's own upright size.
    void open(const QString& path, std::vector<double> frameTimesS, QSize size, const QString& message);

    double timeS() const { return m_times.empty() ? 0 : m_times[m_index]; }
    std::size_t frame() const { return m_index; }
    std::size_t frameCount() const { return m_times.size(); }
    bool hasPicture() const { return !m_image.isNull(); }
    std::size_t shownFrame() const { return m_shown; }
    /// Time of the picture that is seen; of the frame asked for where there is no video.
    double shownTimeS() const { return m_fetcher && m_shown < m_times.size() ? m_times[m_shown] : timeS(); }
    /// What stands where there is no picture.
    const QString& message() const { return m_message; }
    /// The frame asked for last could not be read.
    bool isUnreadable() const { return m_unreadable; }

    void goTo(double timeS);
    void step(int frames);
    void setPlaying(bool on);
    bool isPlaying() const { return m_clock.isActive(); }
    /// 0.25, 0.5 or 1.
    void setSpeed(double speed) { m_speed = speed; }
    double speed() const { return m_speed; }
    /// While on, play returns to `from` after `to`.
    void setLoop(bool on, double fromS, double toS);
    bool isLooping() const { return m_looping; }

    /// Lines for the frame shown, picture pixels; `label` is drawn beside them, `second` is drawn thin (the skeleton).
    void setOverlay(const present::Overlay& overlay, const QString& label);
    void setSkeleton(const present::Overlay& skeleton, bool on);
    /// Stretches of time drawn on the scrub bar (the reps), and the one that is chosen.
    void setSpans(std::vector<present::ReviewPresenter::RepSpan> spans, int current);

    /// A point of the body that can be dragged.
    struct Handle {
        Landmark id = Landmark::Nose;
        QPointF at;  ///< picture pixels
        bool corrected = false;
        QString name;
    };
    /// What a press on the picture means: play and pause, nothing, drag a point, draw a true length, choose the person,
    /// mark a point that is to be followed.
    enum class Tool { Play, None, Points, Length, Person, Mark };
    /// Points, ends of repetitions, lengths can be put right.
    bool isCorrecting() const { return m_tool > Tool::None; }
    void setTool(Tool tool);
    Tool tool() const { return m_tool; }
    /// `current`: the one that keys move, −1 for none.
    void setHandles(std::vector<Handle> handles, int current);
    const std::vector<Handle>& handles() const { return m_handles; }
    /// Where the body is over the repetition, picture pixels: the number's plate keeps clear of it, in one place.
    void setBody(const QRectF& body);
    /// Moments with a word pinned to them, and the word of the picture that is seen.
    void setNotes(std::vector<double> momentsS, const QString& here);
    /// A point that was marked, as it is in the picture that is seen.
    struct MarkShown {
        QPointF at;  ///< picture pixels; where it was lost, its last place
        QString name;
        bool lost = false;
    };
    /// `gaps`: stretches in which one of them was lost, drawn under the bar of time.
    void setMarks(std::vector<MarkShown> marks, std::vector<Span> gaps);
    const std::vector<MarkShown>& marks() const { return m_marks; }
    /// Moves the cross of the marking tool by widget pixels; takes what is under it.
    void moveCross(const QPointF& by);
    void takeCross();
    QPointF cross() const { return m_cross; }
    /// Another figure over the picture, to be compared with.
    void setGhost(const present::Overlay& ghost);
    /// Without its bar of time, where another one leads.
    void setScrubShown(bool shown);
    /// From picture pixels to this widget, and back.
    QPointF toWidget(const QPointF& picture) const;
    QPointF toPicture(const QPointF& widget) const;
    /// Where the ends of the chosen repetition are on the bar of time.
    QPointF edgeAt(bool start) const;
    /// Where the number's plate lies now; empty where there is none.
    QRectF plateRect() const;

    QSize sizeHint() const override { return {768, 470}; }
    QSize minimumSizeHint() const override { return {300, 150}; }
    QRectF scrubRect() const;

  signals:
    void moved(double timeS);
    void shown();  ///< another picture is seen
    void playingChanged(bool on);
    /// While it is dragged, and once more when it is let go.
    void pointDragged(zevo::Landmark id, const QPointF& at, bool dropped);
    void edgeDragged(bool start, double timeS, bool dropped);
    void lengthDrawn(const QLineF& line);
    void personClicked(const QPointF& at);
    void markClicked(const QPointF& at);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void resizeEvent(QResizeEvent*) override;

  private:
    void showFrame(std::size_t index);
    void tick();
    void scrubTo(double x);
    QRectF pictureRect() const;
    QTransform toWidgetTransform() const;
    void drawOverlay(QPainter& p) const;
    void drawHandles(QPainter& p) const;
    void drawMarks(QPainter& p) const;
    void drawScrub(QPainter& p) const;
    double scrubX(double timeS) const;
    double scrubTime(double x) const;
    double scrubHeight() const;
    int handleAt(const QPointF& widget) const;

    Theme m_theme = lightTheme();
    std::vector<double> m_times;
    QSize m_size;
    QString m_message;
    QImage m_image;
    QPixmap m_scaled;  ///< m_image at the widget's size, made when first painted
    std::size_t m_index = 0, m_shown = 0;
    QTimer m_clock;
    QElapsedTimer m_since;
    double m_playFrom = 0, m_speed = 0.5;
    bool m_looping = true;
    double m_loopFrom = 0, m_loopTo = 0;
    present::Overlay m_overlay, m_skeleton;
    bool m_showSkeleton = false;
    QString m_label;
    std::vector<present::ReviewPresenter::RepSpan> m_spans;
    int m_currentSpan = 0;
    Tool m_tool = Tool::Play;
    std::vector<Handle> m_handles;
    int m_handle = -1;
    int m_dragged = -1;              ///< handle in the hand
    std::optional<bool> m_edge;      ///< end of the repetition in the hand: true = its start
    std::optional<QLineF> m_length;  ///< being drawn, picture pixels
    QRectF m_body;
    std::vector<double> m_noteMoments;
    QString m_note;
    std::vector<MarkShown> m_marks;
    std::vector<Span> m_gaps;
    QPointF m_cross;  ///< of the marking tool, picture pixels
    present::Overlay m_ghost;
    bool m_scrubShown = true;
    int m_opening = 0;  ///< counts clips, so that a late frame of the last one is not shown
    bool m_unreadable = false;
    std::unique_ptr<pipeline::FrameFetcher> m_fetcher;  // last: its thread ends first
};

}  // namespace zevo::app

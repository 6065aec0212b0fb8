#pragma once

#include <QImage>
#include <QWidget>
#include <optional>

#include "app/film/filming.h"
#include "app/theme/theme.h"
#include "present/live_lines.h"

namespace zevo::app {

/// The live picture and the few things that are said on it: where the camera has to go, the count-in, the count, the
/// line to reach and the tempo's target. Two of them show the same set: the coach's, and the client's, which leaves out
/// everything that does not help them.
class LiveCanvas : public QWidget {
    Q_OBJECT
  public:
    enum class For { Coach, Client };
    explicit LiveCanvas(For whom, QWidget* parent = nullptr);
    void setTheme(const Theme& theme);

    struct Scene {
        Filming::Phase phase = Filming::Phase::Off;
        QString sentence, reason;  ///< the one thing to read; why, for who stands near
        CameraMove move = CameraMove::None;
        bool right = false;  ///< the camera stands right
        std::optional<PictureBox> room;
        double countInS = 0;
        int reps = 0, partial = 0;
        double clipS = 0, tensionS = 0;
        std::optional<present::LiveLine> line;
        std::optional<present::TempoTarget> tempo;
        QString tempoWord;  ///< "down", "breathe in"
        QString cue;        ///< at most one
        QString before;     ///< one line of what is set up and said before the first repetition
        double restS = -1;  ///< since the last set of this client ended; below 0: there was none
        bool mirrored = false;
    };
    void setLook(const std::shared_ptr<const Picture>& picture, double scale);
    /// What a second camera sees, small in a corner; null: none.
    void setInset(const std::shared_ptr<const Picture>& picture);
    void setScene(const Scene& scene);
    const Scene& scene() const { return m_scene; }
    bool hasPicture() const { return !m_image.isNull(); }
    void clear();

    QSize sizeHint() const override { return {900, 506}; }
    QSize minimumSizeHint() const override { return {320, 180}; }

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    QRectF pictureRect() const;
    QPointF place(const QPointF& picturePixel) const;
    void paintSentence(QPainter& p, const QRectF& r) const;
    /// Words along the lower edge: the cue, or what comes before the first repetition.
    void paintBelow(QPainter& p, const QRectF& r, const QString& words) const;
    void paintRest(QPainter& p, const QRectF& r) const;
    void paintMove(QPainter& p, const QRectF& r) const;
    void paintCount(QPainter& p, const QRectF& r) const;
    void paintLine(QPainter& p) const;
    void paintTempo(QPainter& p, const QRectF& r) const;

    For m_for;
    Theme m_theme = lightTheme();
    Scene m_scene;
    QImage m_image;
    std::shared_ptr<const Picture> m_picture, m_inset;  ///< m_picture: m_image's pixels
    double m_scale = 1;
};

}  // namespace zevo::app

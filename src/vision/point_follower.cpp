#include "vision/point_follower.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>
#include <optional>

#include "core/base/calibration.h"

namespace zevo {
namespace {

/// Half sides of the windows tried, the smallest that has enough to hold on to: 15 and 21 pixels for tape, more for a
/// bell, whose middle is plain.
constexpr std::array kHalves{7, 10, 15, 22, 32};
constexpr int kLevels = 3;
/// Pieces cut out of a picture for one step, half side: what three levels of the largest window can move by.
constexpr int kCut = 120;
/// A step that comes back further from where it began is none (recipe of the feasibility study: 0.7).
constexpr double kThereAndBackPx = calibrated("tape.there_and_back");
/// How alike a patch has to be: to go on, to take the place over, to be found again.
constexpr double kAlike = 0.5, kAlikeTape = 0.75, kSame = 0.88, kFound = 0.86, kNoOther = 0.12;
constexpr double kTurnAtOnce = 0.25;
/// Below this a new look is kept besides the click's.
constexpr double kChanged = 0.8;
/// The patch of the click may correct a place by so much at a time.
constexpr double kCorrectPx = 3;
constexpr int kSearchPx = 24, kSearchMorePx = 4, kSearchMostPx = 90;

cv::Mat matOf(const GreyPicture& p) {
    return {p.height, p.width, CV_8UC1, const_cast<std::uint8_t*>(p.pixels.data())};
}

/// A piece of a picture around a place; beyond its edge the edge goes on.
struct Piece {
    cv::Mat image;
    cv::Point origin;
    Piece() = default;
    Piece(const GreyPicture& picture, const Vec2& at, int half) {
        const cv::Mat whole = matOf(picture);
        origin = {static_cast<int>(std::lround(at.x())) - half, static_cast<int>(std::lround(at.y())) - half};
        const cv::Rect wanted(origin, cv::Size(2 * half + 1, 2 * half + 1)),
            there = wanted & cv::Rect({0, 0}, whole.size());
        if (there.empty()) {
            image = cv::Mat::zeros(wanted.size(), CV_8UC1);
            return;
        }
        cv::copyMakeBorder(whole(there), image, there.y - wanted.y, wanted.br().y - there.br().y, there.x - wanted.x,
                           wanted.br().x - there.br().x, cv::BORDER_REPLICATE);
    }
    cv::Point2f inside(const Vec2& p) const {
        return {static_cast<float>(p.x()) - static_cast<float>(origin.x),
                static_cast<float>(p.y()) - static_cast<float>(origin.y)};
    }
    Vec2 outside(const cv::Point2f& p) const { return Vec2(p.x + origin.x, p.y + origin.y); }
};

/// A picture in the light of another one, by the tones around a place of each: the method takes every change of tone
/// for a movement.
cv::Mat inLightOf(const Piece& model, const Vec2& at, const Piece& piece, const Vec2& there, int half) {
    auto around = [&](const Piece& p, const Vec2& place) {
        const cv::Point2f c = p.inside(place);
        const cv::Rect wanted(static_cast<int>(c.x) - half - 4, static_cast<int>(c.y) - half - 4, 2 * half + 9,
                              2 * half + 9);
        return p.image(wanted & cv::Rect({0, 0}, p.image.size()));
    };
    const cv::Mat a = around(model, at), b = around(piece, there);
    if (a.empty() || b.empty()) return piece.image;
    cv::Scalar meanA, meanB, spreadA, spreadB;
    cv::meanStdDev(a, meanA, spreadA);
    cv::meanStdDev(b, meanB, spreadB);
    // What is darker by half is not the same thing in another light.
    const double gain = std::clamp(spreadA[0] / std::max(1.0, spreadB[0]), 0.5, 2.0);
    cv::Mat out;
    piece.image.convertTo(out, CV_8U, gain, meanA[0] - gain * meanB[0]);
    return out;
}

std::optional<Vec2> step(const Piece& from, const Vec2& at, const Piece& to, const Vec2& guess, int half, int levels) {
    const std::vector<cv::Point2f> start{from.inside(at)};
    std::vector<cv::Point2f> end{to.inside(guess)};
    std::vector<unsigned char> status;
    std::vector<float> error;
    cv::calcOpticalFlowPyrLK(from.image, inLightOf(from, at, to, guess, half), start, end, status, error,
                             {2 * half + 1, 2 * half + 1}, levels,
                             {cv::TermCriteria::COUNT + cv::TermCriteria::EPS, 30, 0.01}, cv::OPTFLOW_USE_INITIAL_FLOW);
    if (!status[0]) return std::nullopt;
    const cv::Rect2f room(0, 0, static_cast<float>(to.image.cols), static_cast<float>(to.image.rows));
    if (!room.contains(end[0])) return std::nullopt;
    return to.outside(end[0]);
}

/// How a point looks: a piece of the picture it was seen in, and how that had turned, grown and sheared when it was
/// last found.
struct Seen {
    cv::Mat patch, floats;
    cv::Matx22f warp = cv::Matx22f::eye();
    Seen(const GreyPicture& picture, const Vec2& where, int half) {
        const Piece piece(picture, where, kCut);
        cv::getRectSubPix(piece.image, {2 * half + 1, 2 * half + 1}, piece.inside(where), patch);
        patch.convertTo(floats, CV_32F);
    }
    double likeness(const Piece& other, const Vec2& where) const {
        cv::Mat there, score;
        cv::getRectSubPix(other.image, patch.size(), other.inside(where), there);
        cv::matchTemplate(there, patch, score, cv::TM_CCOEFF_NORMED);
        return score.at<float>(0);
    }
    struct Fit {
        Vec2 at;
        double alike = 0;
        cv::Matx22f warp;
    };
    /// Where it is near a place, with whatever affine turn it has taken since (Evangelidis & Psarakis, *Parametric
    /// image alignment using enhanced correlation coefficient maximization*, PAMI 2008, as in OpenCV): a patch that has
    /// turned and is only shifted fits best a little beside the point.
    std::optional<Fit> fitted(const Piece& now, const Vec2& near) const {
        const float middle = static_cast<float>(patch.cols / 2);
        const cv::Point2f there = now.inside(near);
        auto shifted = [&](const cv::Matx22f& a) {
            cv::Mat m(2, 3, CV_32F);
            for (int r = 0; r < 2; ++r)
                for (int c = 0; c < 2; ++c) m.at<float>(r, c) = a(r, c);
            m.at<float>(0, 2) = there.x - a(0, 0) * middle - a(0, 1) * middle;
            m.at<float>(1, 2) = there.y - a(1, 0) * middle - a(1, 1) * middle;
            return m;
        };
        cv::Mat m = shifted(warp);
        cv::Mat image;
        now.image.convertTo(image, CV_32F);
        double alike = 0;
        try {
            alike = cv::findTransformECC(floats, image, m, cv::MOTION_AFFINE,
                                         {cv::TermCriteria::COUNT + cv::TermCriteria::EPS, 30, 1e-4}, cv::noArray(), 3);
        } catch (const cv::Exception&) {
            return std::nullopt;  // it does not converge: it is not there
        }
        Fit fit{Vec2::Zero(), alike, {m.at<float>(0, 0), m.at<float>(0, 1), m.at<float>(1, 0), m.at<float>(1, 1)}};
        const cv::Vec2f q = fit.warp * cv::Vec2f(middle, middle) + cv::Vec2f(m.at<float>(0, 2), m.at<float>(1, 2));
        fit.at = now.outside({q[0], q[1]});
        // A patch squeezed to a line or grown to twice its size is no view of the same thing.
        const double area = cv::determinant(fit.warp);
        if (!(area > 0.4 && area < 2.5)) return std::nullopt;
        // Nor does a thing turn or grow much between two pictures; noise does, when six numbers are fitted to it.
        if (cv::norm(fit.warp - warp) > kTurnAtOnce) return std::nullopt;
        return fit;
    }
};

}  // namespace

GreyPicture greyOf(const PictureView& picture) {
    GreyPicture out{picture.width, picture.height, {}};
    out.pixels.resize(static_cast<std::size_t>(out.width) * static_cast<std::size_t>(out.height));
    const cv::Mat rgb(picture.height, picture.width, CV_8UC3, const_cast<std::uint8_t*>(picture.rgb),
                      static_cast<std::size_t>(picture.stride));
    cv::Mat grey = matOf(out);
    cv::cvtColor(rgb, grey, cv::COLOR_RGB2GRAY);
    return out;
}

struct PointFollower::Impl {
    std::shared_ptr<const GreyPicture> picture;
    Vec2 at = Vec2::Zero(), velocity = Vec2::Zero();
    int half = kHalves.back();
    double minEigenvalue = 0;
    std::vector<Seen> looks;  ///< of the click, and a newer one where it has changed
    bool held = true;
    int lostFor = 0;

    Look look;

    Impl(std::shared_ptr<const GreyPicture> p, const Vec2& where, Look kind)
        : picture(std::move(p)), at(where), look(kind) {
        const Piece piece(*picture, at, kCut);
        cv::Mat dx, dy;
        // Sobel's kernels weigh 8 together.
        cv::Sobel(piece.image, dx, CV_32F, 1, 0, 3, 1.0 / 8);
        cv::Sobel(piece.image, dy, CV_32F, 0, 1, 3, 1.0 / 8);
        for (int h : kHalves) {
            const cv::Rect window(kCut - h, kCut - h, 2 * h + 1, 2 * h + 1);
            const cv::Mat x = dx(window), y = dy(window);
            const double n = window.area(), xx = x.dot(x) / n, yy = y.dot(y) / n, xy = x.dot(y) / n;
            minEigenvalue = 0.5 * (xx + yy - std::sqrt((xx - yy) * (xx - yy) + 4 * xy * xy));
            half = h;
            if (minEigenvalue >= PointFollower::kLeastStructure) break;
        }
        looks.emplace_back(*picture, at, half);
    }

    /// The place where one of the looks is found again, near a place: the click's first, whose errors do not add up.
    std::optional<Vec2> corrected(const Piece& now, const Vec2& near, double& match) {
        for (Seen& look : looks) {
            const auto fit = look.fitted(now, near);
            if (!fit || fit->alike < kSame || (fit->at - near).norm() > kCorrectPx) continue;
            look.warp = fit->warp;
            match = std::max(match, fit->alike);
            return fit->at;
        }
        return std::nullopt;
    }

    /// Looks for the point around where it was last seen: alike, and nothing else beside it is.
    std::optional<Vec2> found(const GreyPicture& next) const {
        const int reach = std::min(kSearchMostPx, kSearchPx + kSearchMorePx * lostFor);
        const Piece area(next, at, reach + half);
        for (const Seen& look : looks) {
            cv::Mat score;
            cv::matchTemplate(area.image, look.patch, score, cv::TM_CCOEFF_NORMED);
            double best = 0;
            cv::Point where;
            cv::minMaxLoc(score, nullptr, &best, nullptr, &where);
            if (best < kFound) continue;
            cv::circle(score, where, half, cv::Scalar(-1), cv::FILLED);
            double other = 0;
            cv::minMaxLoc(score, nullptr, &other, nullptr, nullptr);
            if (best - other < kNoOther) continue;
            return area.outside(cv::Point2f(static_cast<float>(where.x + half), static_cast<float>(where.y + half)));
        }
        return std::nullopt;
    }
};

PointFollower::PointFollower(std::shared_ptr<const GreyPicture> picture, const Vec2& at, Look look)
    : m_impl(std::make_unique<Impl>(std::move(picture), at, look)) {}
PointFollower::~PointFollower() = default;
PointFollower::PointFollower(PointFollower&&) noexcept = default;
PointFollower& PointFollower::operator=(PointFollower&&) noexcept = default;

double PointFollower::minEigenvalue() const {
    return m_impl->minEigenvalue;
}

PointFollower::Step PointFollower::follow(std::shared_ptr<const GreyPicture> next) {
    Impl& m = *m_impl;
    Step out{m.at, false, 0, -1};
    if (m.held) {
        const Piece was(*m.picture, m.at, kCut);
        // On as it moved; where that does not come back, from where it stood.
        for (const Vec2& guess : {Vec2(m.at + m.velocity), m.at}) {
            const Piece now(*next, guess, kCut);
            const auto there = step(was, m.at, now, guess, m.half, kLevels);
            if (!there) continue;
            const auto back = step(Piece(*next, *there, kCut), *there, was, m.at, m.half, kLevels);
            if (!back) continue;
            out.forwardBackwardErrorPx = (*back - m.at).norm();
            out.at = *there;
            out.match = m.looks.back().likeness(now, *there);
            out.held = out.forwardBackwardErrorPx <= kThereAndBackPx &&
                       out.match >= (m.look == Look::Stays ? kAlikeTape : kAlike);
            if (const auto better = m.corrected(now, *there, out.match)) out.at = *better, out.held = true;
            if (out.held) break;
        }
    } else if (const auto again = m.found(*next)) {
        const Piece now(*next, *again, kCut);
        // To a part of a pixel by whichever look it was found with.
        if (const auto exact = m.corrected(now, *again, out.match)) out.at = *exact, out.held = true;
    }
    // Half a window beyond the edge there is nothing to compare with.
    const double edge = 0.5 * m.half;
    const bool inside =
        out.at.x() >= edge && out.at.y() >= edge && out.at.x() < next->width - edge && out.at.y() < next->height - edge;
    out.held = out.held && inside;
    if (out.held) {
        m.velocity = m.held ? Vec2(out.at - m.at) : Vec2(0, 0);
        m.at = out.at;
        m.lostFor = 0;
        // The look changes as the thing turns: what it looks like now counts besides what was clicked.
        if (out.match < kChanged) {
            if (m.looks.size() > 1) m.looks.pop_back();
            m.looks.emplace_back(*next, m.at, m.half);
        }
    } else {
        ++m.lostFor;
    }
    m.held = out.held;
    m.picture = std::move(next);
    return out;
}

}  // namespace zevo

#include "vision/straight_edges.h"

#include <cmath>
#include <opencv2/imgproc.hpp>

namespace zevo {

std::vector<RoomLine> straightEdges(const PictureView& picture) {
    constexpr double kShortest = 0.04;  // of the height
    const cv::Mat rgb(picture.height, picture.width, CV_8UC3, const_cast<std::uint8_t*>(picture.rgb),
                      static_cast<std::size_t>(picture.stride));
    cv::Mat grey;
    cv::cvtColor(rgb, grey, cv::COLOR_RGB2GRAY);
    std::vector<cv::Vec4f> found;
    cv::createLineSegmentDetector()->detect(grey, found);
    std::vector<RoomLine> out;
    for (const auto& l : found)
        if (std::hypot(l[0] - l[2], l[1] - l[3]) >= kShortest * picture.height) out.push_back({l[0], l[1], l[2], l[3]});
    return out;
}

}  // namespace zevo

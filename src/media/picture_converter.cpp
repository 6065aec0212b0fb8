#include "media/picture_converter.h"

#include <algorithm>
#include <cmath>
#include <cstring>

namespace zevo::media {
namespace {

constexpr int kRowAlignment = 64;

void applyTurn(const Picture& from, const Turn& turn, Picture& to) {
    const int w = turn.swapsSides() ? from.height : from.width, h = turn.swapsSides() ? from.width : from.height;
    if (to.width != w || to.height != h) to = Picture(w, h);
    const int offsetX = (turn.xx < 0 || turn.xy < 0) ? w - 1 : 0;
    const int offsetY = (turn.yx < 0 || turn.yy < 0) ? h - 1 : 0;
    for (int y = 0; y < from.height; ++y)
        for (int x = 0; x < from.width; ++x)
            std::memcpy(to.at(offsetX + turn.xx * x + turn.xy * y, offsetY + turn.yx * x + turn.yy * y), from.at(x, y),
                        3);
}

}  // namespace

Turn turnOf(const AVStream* stream) {
    // Read by hand: some decoders hand out −90° clips upside down when asked to turn them.
    std::size_t size = 0;
    const auto* data = av_stream_get_side_data(stream, AV_PKT_DATA_DISPLAYMATRIX, &size);
    if (!data || size < 9 * sizeof(std::int32_t)) return {};
    std::int32_t m[9];
    std::memcpy(m, data, sizeof m);
    auto unit = [](std::int32_t v) { return v > 32768 ? 1 : (v < -32768 ? -1 : 0); };
    const Turn t{unit(m[0]), unit(m[3]), unit(m[1]), unit(m[4])};
    const int determinant = t.xx * t.yy - t.xy * t.yx;
    return (determinant == 1 || determinant == -1) && t.xx * t.xy == 0 ? t : Turn{};
}

bool PictureConverter::convert(const AVFrame& frame, const Target& target, Picture& out) {
    const Turn& turn = target.turn;
    int w = target.width, h = target.height;
    const double shrink = std::min(1.0, static_cast<double>(target.maxSide) / std::max(w, h));
    w = std::max(2, static_cast<int>(std::lround(w * shrink)));
    h = std::max(2, static_cast<int>(std::lround(h * shrink)));
    if (turn.swapsSides()) std::swap(w, h);  // size before the turn
    const bool sameSize = w == frame.width && h == frame.height;
    SwsContext* raw =
        sws_getCachedContext(m_scaler.release(), frame.width, frame.height, static_cast<AVPixelFormat>(frame.format), w,
                             h, AV_PIX_FMT_RGB24, sameSize ? SWS_POINT : SWS_AREA, nullptr, nullptr, nullptr);
    m_scaler.reset(raw);
    if (!raw) return false;
    const int matrix = frame.colorspace == AVCOL_SPC_UNSPECIFIED ? (frame.height >= 720 ? SWS_CS_ITU709 : SWS_CS_ITU601)
                                                                 : static_cast<int>(frame.colorspace);
    sws_setColorspaceDetails(raw, sws_getCoefficients(matrix), frame.color_range == AVCOL_RANGE_JPEG,
                             sws_getCoefficients(SWS_CS_ITU709), 1, 0, 1 << 16, 1 << 16);
    Picture& flat = turn.isIdentity() ? out : m_unturned;
    if (flat.width != w || flat.height != h) flat = Picture(w, h);
    // The scaler may write past the end of a row that is no multiple of its vector width: give it room there.
    const int rowBytes = w * 3, padded = (rowBytes + kRowAlignment - 1) / kRowAlignment * kRowAlignment;
    const bool direct = padded == rowBytes;
    if (!direct) m_rows.resize(static_cast<std::size_t>(padded) * h + kRowAlignment);
    std::uint8_t* planes[4] = {direct ? flat.rgb.data() : m_rows.data(), nullptr, nullptr, nullptr};
    const int strides[4] = {padded, 0, 0, 0};
    sws_scale(raw, frame.data, frame.linesize, 0, frame.height, planes, strides);
    if (!direct)
        for (int y = 0; y < h; ++y)
            std::memcpy(flat.at(0, y), m_rows.data() + static_cast<std::size_t>(padded) * y,
                        static_cast<std::size_t>(rowBytes));
    if (!turn.isIdentity()) applyTurn(m_unturned, turn, out);
    return true;
}

}  // namespace zevo::media

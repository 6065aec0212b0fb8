#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

namespace zevo {

/// A borrowed view of an 8-bit RGB picture, rows top to bottom.
struct PictureView {
    const std::uint8_t* rgb = nullptr;
    int width = 0;
    int height = 0;
    int stride = 0;  ///< bytes from one row to the next
};

/// An owned 8-bit RGB picture without row padding.
struct Picture {
    int width = 0;
    int height = 0;
    std::vector<std::uint8_t> rgb;

    Picture() = default;
    Picture(int w, int h) : width(w), height(h), rgb(static_cast<std::size_t>(w) * h * 3) {}
    PictureView view() const { return {rgb.data(), width, height, width * 3}; }
    std::uint8_t* at(int x, int y) { return rgb.data() + (static_cast<std::size_t>(y) * width + x) * 3; }
    const std::uint8_t* at(int x, int y) const { return rgb.data() + (static_cast<std::size_t>(y) * width + x) * 3; }
};

}  // namespace zevo

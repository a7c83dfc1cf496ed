#pragma once
#include "core/support/expected.hpp"

#include <array>
#include <vector>

namespace fulmox {

/// A place in a picture, in pixels from its upper left corner, y downwards.
struct PicturePoint {
  double x = 0.0, y = 0.0;
};

/// A mark of one axis of a drawn curve: where it is in the picture and what value stands there.
struct AxisMark {
  PicturePoint at;
  double value = 0.0;
};

/// What pixels of a scanned curve mean: two marks along each axis. The picture may be turned, sheared and
/// scaled; each axis runs straight and even (no logarithmic scales).
class PictureAxes {
public:
  /// Refuses marks of one axis that lie on each other or have the same value, and axes that run the same way.
  static Expected<PictureAxes> from(const std::array<AxisMark, 2>& along, const std::array<AxisMark, 2>& up);
  /// The values along and up at a place of the picture.
  [[nodiscard]] std::array<double, 2> read(PicturePoint at) const;
  /// Where values lie in the picture: the reverse of read().
  [[nodiscard]] PicturePoint place(const std::array<double, 2>& values) const;

private:
  std::array<AxisMark, 2> along_, up_;
  PicturePoint step_along_, step_up_; ///< pixels for one unit of each
  double determinant_ = 1.0;
};

} // namespace fulmox

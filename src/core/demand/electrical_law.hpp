#pragma once
#include "core/demand/axis_model.hpp"

#include <boost/container/small_vector.hpp>

namespace fulmox {

/// What motor and drive take where the speed does not shape the current, read off them once: the current runs
/// straight between its bends, the winding's loss is of second degree in it, the drive's straight. Over a
/// stretch everything follows from two integrals of the current, which need no looks at it.
class ElectricalLaw {
public:
  /// Of a motor whose current can be told.
  explicit ElectricalLaw(const AxisModel& model);

  /// Line current, A, of an air-gap torque that keeps its sign and passes no bend; it may stand still.
  [[nodiscard]] Series amperes(const Series& air_gap, bool at_rest) const;
  /// Loss of the warm winding; integrals over time (or values) of 1, of the current and of its square.
  [[nodiscard]] double copper(double time, double current, double squared) const {
    return copper_none_ * time + copper_straight_ * current + copper_squared_ * squared;
  }
  /// Loss of the drive, the same way.
  [[nodiscard]] double drive(double time, double current) const {
    return drive_none_ * time + drive_straight_ * current;
  }
  [[nodiscard]] std::span<const double> bends() const { return bends_; }

private:
  /// From the torque of a bend, or 0, up to the next.
  struct Line {
    double torque, current, slope;
  };
  using Lines = boost::container::small_vector<Line, 3>;
  template <class Current> void read(Lines& lines, const Current& current) const;

  std::vector<double> bends_; ///< N·m, rising
  Lines turning_, at_rest_;
  double copper_none_, copper_straight_, copper_squared_, drive_none_, drive_straight_;
};

} // namespace fulmox

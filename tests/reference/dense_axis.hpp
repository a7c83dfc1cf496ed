#pragma once
// An axis worked out a second time, without the program's own mechanics: laws from their accelerations,
// forces from free bodies, integrals by plain cutting. Written from handbook formulas (named at each), never
// from the code under test.

#include "core/project/axis.hpp"

#include <random>
#include <string>
#include <utility>
#include <vector>

namespace fulmox::testing {

/// What an axis does at one moment, SI.
struct DenseState {
  double position = 0.0, torque = 0.0, speed = 0.0; ///< load; motor shaft
  double output = 0.0;                              ///< N·m between gearhead and mechanism
  double current = 0.0, bus = 0.0;                  ///< A rms, W
  unsigned signs = 0; ///< of all that bends the torque or an integrand where it passes zero
};

struct DenseSums {
  double torque_squared = 0.0, current_squared = 0.0, turns = 0.0;
  double driven = 0.0, returned = 0.0, drawn = 0.0, given_back = 0.0, gear_cubed = 0.0;
  double peak_torque = 0.0, peak_speed = 0.0, peak_current = 0.0, peak_bus = -1e300;
  double overload = 0.0; ///< A²s; ∞ where it grows
  double time = 0.0;

  DenseSums& operator+=(const DenseSums& other); ///< integrals only
};

/// One random axis, as typed text and as physics.
class DenseAxis {
public:
  DenseAxis(unsigned seed, const std::string& mechanism);

  [[nodiscard]] const Axis& axis() const { return axis_; }
  [[nodiscard]] DenseState at(std::size_t segment, double tau) const;
  /// Cut into `parts` between corners, and on until no sign changes within a part.
  [[nodiscard]] DenseSums integrate(int parts) const;
  /// Worst torque at rest without friction's help.
  [[nodiscard]] double holding() const;
  [[nodiscard]] double continuous_current() const { return continuous_; }

private:
  struct Law {
    std::string name;
    double accel = 1.0 / 3.0, decel = 1.0 / 3.0; ///< shares
    /// Speed and acceleration of a unit travel in unit time, and the way so far.
    void at(double u, double& way, double& speed, double& acceleration) const;
    [[nodiscard]] std::vector<double> corners() const;
  };
  struct Segment {
    bool dwell = false, braked = false;
    double from = 0.0, distance = 0.0, time = 1.0;
    Law law;
    double payload = 0.0, process = 0.0, process_end = 0.0;
    std::vector<std::pair<double, double>> curve;
  };
  struct Stage {
    double ratio = 1.0, efficiency = 1.0, back = 1.0, inertia_in = 0.0, inertia_out = 0.0, drag = 0.0;
    double rise = 0.0; ///< N·m·s/rad, by which the drag grows with speed
  };

  struct Part;
  [[nodiscard]] Part add(std::size_t segment, double from, double to, DenseSums& sums, double& gain) const;
  void peaks(const std::vector<Part>& parts, DenseSums& sums) const;

  double between(double low, double high);
  bool chance(double share) { return between(0.0, 1.0) < share; }
  double type(Section& section, const char* field, double low, double high, const char* unit);
  void draw_load(const std::string& mechanism);
  void draw_mechanism(const std::string& mechanism);
  void draw_train();
  void draw_motor();
  void draw_cycle();
  void draw_process(Segment& segment, Section& section);

  /// Force on what moves along a line, without inertia's own sign questions: N.
  [[nodiscard]] double force(double position, double speed, double acceleration, double direction,
                             double payload, double process) const;
  /// Torque into the mechanism's shaft.
  [[nodiscard]] double mechanism_torque(double x, double v, double a, double direction, double payload,
                                        double process, unsigned& signs) const;
  [[nodiscard]] double rest_torque(double x, double payload, double process) const;
  [[nodiscard]] double process_at(const Segment& segment, double share, double position) const;
  [[nodiscard]] std::vector<double> corners(const Segment& segment) const;
  [[nodiscard]] double crank_slope(double angle) const;

  std::mt19937 engine_;
  Axis axis_;
  bool turning_ = false, crank_ = false, arm_ = false;
  // along a line
  double mass_ = 0.0, angle_ = 0.0, friction_ = 0.0, seal_ = 0.0, viscous_ = 0.0, spring_ = 0.0, rate_ = 0.0;
  double pressed_ = 0.0, own_process_ = 0.0, riding_ = 0.0, riding_lifted_ = 0.0, carried_ = 0.0;
  double radius_ = 1.0, collar_ = 0.0; ///< travel per radian; half diameter times friction
  double crank_radius_ = 0.0, rod_ = 0.0, start_ = 0.0;
  // about an axis
  double inertia_ = 0.0, dry_ = 0.0, wet_ = 0.0, load_torque_ = 0.0, payload_radius_ = 0.0, moment_ = 0.0;
  // mechanism
  double efficiency_ = 1.0, back_ = 1.0, own_inertia_ = 0.0, drag_ = 0.0;
  std::vector<Stage> train_; ///< from the mechanism to the motor; the gearhead last
  double coupling_ = 0.0, rotor_ = 0.0;
  double kt_ = 1.0, hysteresis_ = 0.0, eddy_ = 0.0, resistance_ = 0.0, rated_ = 0.0, peak_ = 0.0,
         peak_air_gap_ = 0.0, standby_ = 0.0, drop_ = 0.0, continuous_ = 0.0;
  std::vector<Segment> segments_;
};

} // namespace fulmox::testing

#pragma once
#include "core/motion/law.hpp"

namespace fulmox {

/// A law of fixed shape: v_pk = C_v·D/t, a_pk = C_a·D/t², j_pk = C_j·D/t³ (∞ where acceleration jumps).
/// The shape runs from 0 to 1 in time and travel.
struct FixedShape {
  double c_v, c_a, c_j;
  std::vector<PlanPiece> pieces;
};

/// Strings pieces of given acceleration together, position and speed without a jump. Normalised time and
/// travel.
class ShapeBuilder {
public:
  /// a = A·sin(ω·u + φ)
  ShapeBuilder& sine(double share, double amplitude, double omega, double phase);
  ShapeBuilder& constant(double share, double acceleration);
  /// x = s0 + Σ c_k·u^k over the whole unit of time.
  static std::vector<PlanPiece> polynomial(const std::array<double, 8>& coefficients);
  std::vector<PlanPiece> take() { return std::move(pieces_); }

private:
  void add(double share, const Path& path);
  std::vector<PlanPiece> pieces_;
  double s_ = 0.0, v_ = 0.0;
};

/// Which fields a fixed law uses.
std::vector<std::string_view> fixed_law_fields();

/// Lays a fixed law over distance and one of time, peak speed, acceleration, which must be exactly one.
Expected<MovePlan> plan_fixed(const MoveGiven& given, const FixedShape& shape, Recorder& recorder);

} // namespace fulmox

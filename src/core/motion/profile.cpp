#include "core/motion/profile.hpp"

#include <Eigen/SparseCholesky>
#include <Eigen/SparseCore>
#include <boost/math/tools/toms748_solve.hpp>

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

using Matrix = Eigen::SparseMatrix<double>;
using Vector = Eigen::VectorXd;

/// The smoothing problem in Hermite form: unknowns are position and slope at every point, interleaved. The
/// bending energy of each stretch is a quadratic form in its four end values, so the normal equations are
/// banded. Time is counted in mean steps, which keeps the numbers of one size.
class Smoother {
public:
  Smoother(const std::vector<CurvePoint>& record, bool rest) : record_(record), rest_(rest) {
    const std::size_t n = record.size();
    step_ = (record.back()[0] - record.front()[0]) / static_cast<double>(n - 1);
    std::vector<Eigen::Triplet<double>> entries;
    for (std::size_t i = 0; i + 1 < n; ++i) add_energy(entries, i, (record[i + 1][0] - record[i][0]) / step_);
    const auto size = static_cast<Eigen::Index>(2 * n);
    energy_ = Matrix(size, size);
    energy_.setFromTriplets(entries.begin(), entries.end());
  }

  /// Position and slope at every point for a weight of the bending energy; 0 passes through every point.
  Vector solve(double weight) {
    const auto size = energy_.rows();
    Matrix system = weight > 0.0 ? Matrix(weight * energy_) : energy_;
    Vector right = Vector::Zero(size);
    std::vector<Eigen::Index> fixed;
    for (Eigen::Index i = 0; i < size / 2; ++i) {
      const double y = record_[static_cast<std::size_t>(i)][1];
      const bool end = i == 0 || i == size / 2 - 1;
      if (weight == 0.0 || end) {
        right(2 * i) = y;
        fixed.push_back(2 * i);
      } else {
        system.coeffRef(2 * i, 2 * i) += 1.0;
        right(2 * i) = y;
      }
      if (rest_ && end) fixed.push_back(2 * i + 1);
    }
    fix(system, right, fixed);
    solver_.compute(system);
    return solver_.solve(right);
  }

  [[nodiscard]] double deviation(const Vector& solution) const {
    double sum = 0.0;
    for (std::size_t i = 0; i < record_.size(); ++i)
      sum += std::pow(solution(static_cast<Eigen::Index>(2 * i)) - record_[i][1], 2);
    return std::sqrt(sum / static_cast<double>(record_.size()));
  }

  [[nodiscard]] double step() const { return step_; }

private:
  static void add_energy(std::vector<Eigen::Triplet<double>>& entries, std::size_t i, double h) {
    // ∫x″² of the cubic Hermite piece with end values x0, x0′, x1, x1′
    const double f = 1.0 / (h * h * h);
    const std::array<std::array<double, 4>, 4> e{{{12.0, 6.0 * h, -12.0, 6.0 * h},
                                                  {6.0 * h, 4.0 * h * h, -6.0 * h, 2.0 * h * h},
                                                  {-12.0, -6.0 * h, 12.0, -6.0 * h},
                                                  {6.0 * h, 2.0 * h * h, -6.0 * h, 4.0 * h * h}}};
    for (std::size_t r = 0; r < 4; ++r)
      for (std::size_t c = 0; c < 4; ++c)
        entries.emplace_back(static_cast<int>(2 * i + r), static_cast<int>(2 * i + c), f * e[r][c]);
  }

  /// Replaces the equations of fixed unknowns by "unknown = value", keeping the matrix symmetric.
  static void fix(Matrix& system, Vector& right, const std::vector<Eigen::Index>& fixed) {
    std::vector<char> is_fixed(static_cast<std::size_t>(system.rows()), 0);
    for (const Eigen::Index i : fixed) is_fixed[static_cast<std::size_t>(i)] = 1;
    for (Eigen::Index column = 0; column < system.outerSize(); ++column)
      for (Matrix::InnerIterator it(system, column); it; ++it) {
        const bool row_fixed = is_fixed[static_cast<std::size_t>(it.row())] != 0;
        const bool column_fixed = is_fixed[static_cast<std::size_t>(it.col())] != 0;
        if (column_fixed && !row_fixed) right(it.row()) -= it.value() * right(it.col());
        if (row_fixed || column_fixed) it.valueRef() = it.row() == it.col() ? 1.0 : 0.0;
      }
  }

  const std::vector<CurvePoint>& record_;
  bool rest_;
  double step_ = 1.0;
  Matrix energy_;
  Eigen::SimplicialLDLT<Matrix, Eigen::Lower, Eigen::NaturalOrdering<int>> solver_;
};

/// The least bending within the wanted deviation.
Vector smoothed(Smoother& smoother, double wanted) {
  if (wanted <= 0.0) return smoother.solve(0.0);
  constexpr double least = -8.0, most = 14.0; // powers of ten of the weight
  const auto miss = [&](double power) {
    return smoother.deviation(smoother.solve(std::pow(10.0, power))) - wanted;
  };
  const double at_least = miss(least);
  if (at_least >= 0.0) return smoother.solve(0.0);
  const double at_most = miss(most);
  if (at_most <= 0.0) return smoother.solve(std::pow(10.0, most));
  std::uintmax_t tries = 40;
  const auto root = boost::math::tools::toms748_solve(miss, least, most, at_least, at_most,
                                                      boost::math::tools::eps_tolerance<double>(16), tries);
  return smoother.solve(std::pow(10.0, root.first));
}

/// Moments inside a cubic stretch at which its speed passes through zero.
std::vector<double> turning_points(const Path& path, double duration) {
  const double a = 3.0 * path.c[3], b = 2.0 * path.c[2], c = path.c[1];
  std::vector<double> roots;
  const double under_root = b * b - 4.0 * a * c;
  if (under_root > 0.0) {
    const double q = -0.5 * (b + std::copysign(std::sqrt(under_root), b));
    if (a != 0.0) roots.push_back(q / a);
    if (q != 0.0) roots.push_back(c / q);
  }
  std::erase_if(roots, [&](double t) { return !(t > 1e-9 * duration && t < duration * (1.0 - 1e-9)); });
  std::sort(roots.begin(), roots.end());
  return roots;
}

/// The path seen from a later moment of its own time.
Path shifted(const Path& path, double by) {
  return Path::polynomial(path.position(by), path.speed(by), path.acceleration(by), path.jerk(by));
}

} // namespace

double scatter_of(const std::vector<CurvePoint>& record) {
  if (record.size() < 4) return 0.0;
  double sum = 0.0;
  for (std::size_t i = 0; i + 3 < record.size(); ++i) {
    double difference = 0.0, weight = 0.0;
    for (std::size_t j = i; j < i + 4; ++j) {
      double factor = 1.0;
      for (std::size_t k = i; k < i + 4; ++k)
        if (k != j) factor /= record[j][0] - record[k][0];
      difference += factor * record[j][1];
      weight += factor * factor;
    }
    sum += difference * difference / weight; // equal errors of the four would give it this spread
  }
  return std::sqrt(sum / static_cast<double>(record.size() - 3));
}

Expected<FittedProfile> fit_profile(const std::vector<CurvePoint>& record, double deviation, bool rest) {
  if (record.size() < 4) return Problem{"", "a profile needs at least four points.", "Record more of them."};
  if (record.size() > most_recorded)
    return Problem{"", "a profile of more than " + std::to_string(most_recorded) + " points is not fitted.",
                   "Keep every second or tenth of them."};
  Smoother smoother(record, rest);
  const Vector solution = smoothed(smoother, deviation);
  FittedProfile out;
  double squares = 0.0;
  for (std::size_t i = 0; i < record.size(); ++i) {
    const auto at = static_cast<Eigen::Index>(2 * i);
    out.time.push_back(record[i][0] - record.front()[0]);
    out.recorded.push_back(record[i][1] - record.front()[1]);
    out.fitted.push_back(solution(at) - record.front()[1]);
    out.slope.push_back(solution(at + 1) / smoother.step());
    const double miss = out.fitted.back() - out.recorded.back();
    squares += miss * miss;
    out.residual_max = std::max(out.residual_max, std::abs(miss));
  }
  out.residual_rms = std::sqrt(squares / static_cast<double>(record.size()));
  return out;
}

MovePlan plan_of(const FittedProfile& fitted) {
  MovePlan plan;
  plan.time = {fitted.time.back(), ""};
  double fastest = 0.0, sharpest = 0.0, jerkiest = 0.0;
  for (std::size_t i = 0; i + 1 < fitted.time.size(); ++i) {
    const double h = fitted.time[i + 1] - fitted.time[i];
    const double rise = fitted.fitted[i + 1] - fitted.fitted[i];
    Path path;
    path.c[0] = fitted.fitted[i];
    path.c[1] = fitted.slope[i];
    path.c[2] = (3.0 * rise / h - 2.0 * fitted.slope[i] - fitted.slope[i + 1]) / h;
    path.c[3] = (fitted.slope[i] + fitted.slope[i + 1] - 2.0 * rise / h) / (h * h);
    std::vector<double> cuts = turning_points(path, h);
    cuts.push_back(h);
    double from = 0.0;
    for (const double to : cuts) {
      PlanPiece piece;
      piece.duration = to - from;
      piece.path = shifted(path, from);
      plan.pieces.push_back(piece);
      fastest = std::max({fastest, std::abs(path.speed(from)), std::abs(path.speed(0.5 * (from + to)))});
      sharpest = std::max({sharpest, std::abs(path.acceleration(from)), std::abs(path.acceleration(to))});
      from = to;
    }
    jerkiest = std::max(jerkiest, std::abs(path.jerk(0.0)));
  }
  plan.peak_speed = {fastest, ""};
  plan.peak_acceleration = {sharpest, ""};
  plan.peak_jerk = {jerkiest, ""};
  return plan;
}

} // namespace fulmox

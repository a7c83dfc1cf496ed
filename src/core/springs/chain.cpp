#include "core/springs/chain.hpp"

#include <Eigen/Eigenvalues>

#include <cmath>

namespace fulmox {
namespace {

/// M^-½·K·M^-½ of the nodes from `first` on; the spring before it counts towards a wall.
Eigen::MatrixXd dynamic_matrix(const SpringChain& chain, std::size_t first) {
  const std::size_t n = chain.inertias.size() - first;
  Eigen::MatrixXd k = Eigen::MatrixXd::Zero(static_cast<Eigen::Index>(n), static_cast<Eigen::Index>(n));
  const auto at = [](std::size_t i) { return static_cast<Eigen::Index>(i); };
  for (std::size_t i = 0; i < n; ++i) {
    if (first + i > 0) k(at(i), at(i)) += chain.stiffnesses[first + i - 1];
    if (first + i >= chain.stiffnesses.size()) continue;
    const double right = chain.stiffnesses[first + i];
    k(at(i), at(i)) += right;
    k(at(i), at(i + 1)) = k(at(i + 1), at(i)) = -right;
  }
  for (std::size_t i = 0; i < n; ++i)
    for (std::size_t j = 0; j < n; ++j)
      k(at(i), at(j)) /= std::sqrt(chain.inertias[first + i] * chain.inertias[first + j]);
  return k;
}

std::vector<double> frequencies(const Eigen::MatrixXd& matrix, Eigen::Index skipped) {
  const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> solver(matrix, Eigen::EigenvaluesOnly);
  std::vector<double> out;
  for (Eigen::Index i = skipped; i < matrix.rows(); ++i)
    out.push_back(std::sqrt(std::max(0.0, solver.eigenvalues()[i])));
  return out;
}

} // namespace

std::vector<double> resonances(const SpringChain& chain) {
  if (chain.stiffnesses.empty()) return {};
  return frequencies(dynamic_matrix(chain, 0), 1);
}

std::vector<double> antiresonances(const SpringChain& chain) {
  if (chain.stiffnesses.empty()) return {};
  return frequencies(dynamic_matrix(chain, 1), 0);
}

} // namespace fulmox

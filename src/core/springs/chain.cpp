#include "core/springs/chain.hpp"

#include <Eigen/Eigenvalues>

#include <cmath>

namespace fulmox {
namespace {

/// Angular frequencies of the nodes from `first` on, the lowest `skipped` left out; the spring before them
/// counts towards a wall. Their squares are the eigenvalues of M^-½·K·M^-½, which is tridiagonal.
std::vector<double> frequencies(const SpringChain& chain, std::size_t first, Eigen::Index skipped) {
  const std::size_t n = chain.inertias.size() - first;
  const auto at = [](std::size_t i) { return static_cast<Eigen::Index>(i); };
  Eigen::VectorXd diagonal = Eigen::VectorXd::Zero(at(n)), beside = Eigen::VectorXd::Zero(at(n) - 1);
  for (std::size_t i = 0; i < n; ++i) {
    const std::size_t node = first + i;
    if (node > 0) diagonal[at(i)] += chain.stiffnesses[node - 1] / chain.inertias[node];
    if (node < chain.stiffnesses.size()) diagonal[at(i)] += chain.stiffnesses[node] / chain.inertias[node];
    if (i + 1 < n)
      beside[at(i)] = -chain.stiffnesses[node] / std::sqrt(chain.inertias[node] * chain.inertias[node + 1]);
  }
  Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> solver;
  solver.computeFromTridiagonal(diagonal, beside, Eigen::EigenvaluesOnly);
  std::vector<double> out;
  for (Eigen::Index i = skipped; i < at(n); ++i)
    out.push_back(std::sqrt(std::max(0.0, solver.eigenvalues()[i])));
  return out;
}

} // namespace

std::vector<double> resonances(const SpringChain& chain) {
  if (chain.stiffnesses.empty()) return {};
  return frequencies(chain, 0, 1);
}

std::vector<double> antiresonances(const SpringChain& chain) {
  if (chain.stiffnesses.empty()) return {};
  return frequencies(chain, 1, 0);
}

} // namespace fulmox

#pragma once
#include <initializer_list>
#include <string>
#include <string_view>

namespace fulmox {

/// A factor between two conventions, and what it usually means, as a sentence.
struct UsualFactor {
  double value;
  std::string_view means;
};

/// What a ratio far from 1 usually means: the first factor within 5 % of it, with a blank before; "" else.
std::string usual_factor(double ratio, std::initializer_list<UsualFactor> factors);

} // namespace fulmox

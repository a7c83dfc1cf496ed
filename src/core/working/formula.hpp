#pragma once
#include "core/quantity/kind.hpp"
#include "core/quantity/range.hpp"

#include <span>
#include <string_view>
#include <utility>
#include <vector>

namespace fulmox {

/// One symbol of a formula.
struct Parameter {
  std::string_view name; ///< as typed on a command line and in {braces} of the expression
  std::string_view symbol;
  Kind kind;
  std::string_view meaning;
  Range range = range::any;
};

/// A formula of the book: what is computed, how it is written, where it comes from, and the function itself.
/// The last parameter may stand for a whole list of terms (a sum): then `list` is set.
struct Formula {
  std::string_view id;
  std::string_view title;
  std::string_view symbol;     ///< of the result
  std::string_view expression; ///< right-hand side, parameters in {braces}
  Kind kind;                   ///< of the result
  std::vector<Parameter> parameters;
  std::string_view source;
  double (*compute)(std::span<const double>);
  bool list = false;
};

namespace detail {
template <class... A, std::size_t... I>
double spread(double (*function)(A...), std::span<const double> values, std::index_sequence<I...>) {
  return function(values[I]...);
}
template <auto Function> struct Caller;
template <class... A, double (*Function)(A...)> struct Caller<Function> {
  static constexpr std::size_t arity = sizeof...(A);
  static double call(std::span<const double> values) {
    return spread(Function, values, std::make_index_sequence<arity>{});
  }
};
} // namespace detail

/// Makes a plain function of doubles callable from a list of values, in the order of its parameters.
template <auto Function> double calling(std::span<const double> values) {
  return detail::Caller<Function>::call(values);
}

} // namespace fulmox

#include "core/working/recorder.hpp"

#include "core/support/intern.hpp"

#include <array>
#include <cassert>

namespace fulmox {

Term Recorder::apply(const Formula& formula, std::string_view id, std::initializer_list<Term> terms) {
  return apply(formula, id, std::span<const Term>(terms.begin(), terms.size()));
}

Term Recorder::apply(const Formula& formula, std::string_view id, std::span<const Term> terms) {
  assert(formula.list || terms.size() == formula.parameters.size());
  constexpr std::size_t usual = 16;
  std::array<double, usual> few{};
  std::vector<double> many;
  std::span<double> values(few);
  if (terms.size() > usual) {
    many.resize(terms.size());
    values = many;
  }
  values = values.first(terms.size());
  for (std::size_t i = 0; i < terms.size(); ++i) values[i] = terms[i].value;
  const double result = formula.compute(values);
  if (!on_) return {result, id};
  const std::string_view full = prefix_.empty() ? id : intern(prefix_ + std::string(id));
  steps_.push_back({full, &formula, {terms.begin(), terms.end()}, result, ""});
  return {result, full};
}

void Recorder::note(std::string text) {
  if (on_ && !steps_.empty()) steps_.back().note = std::move(text);
}

void Recorder::plain_numbers_are(Kind kind) {
  if (on_ && !steps_.empty()) steps_.back().plain_as = kind;
}

void Recorder::restate(double value, std::string reason) {
  if (on_ && !steps_.empty()) {
    steps_.back().value = value;
    steps_.back().restated = true;
  }
  note(std::move(reason));
}

} // namespace fulmox

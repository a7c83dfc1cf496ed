#include "core/working/recorder.hpp"

#include "core/support/intern.hpp"

#include <boost/container/small_vector.hpp>

#include <cassert>

namespace fulmox {

Term Recorder::write(const Formula& formula, StepName name, std::span<const Term> terms) {
  assert(formula.list || terms.size() == formula.parameters.size());
  boost::container::small_vector<double, usual> values;
  for (const Term& term : terms) values.push_back(term.value);
  const double result = formula.compute({values.data(), values.size()});
  if (!on_) return {result, name.id};
  const std::string_view full = prefix_.empty() ? name.id : intern(prefix_, name.id);
  steps_.push_back({full,
                    name.title.empty() ? formula.title : name.title,
                    &formula,
                    {terms.begin(), terms.end()},
                    result,
                    ""});
  return {result, full};
}

void Recorder::note(std::string text) {
  if (on_ && !steps_.empty()) steps_.back().note = std::move(text);
}

void Recorder::plain_numbers_are(Kind kind) {
  if (on_ && !steps_.empty()) steps_.back().plain_as = kind;
}

} // namespace fulmox

// The working of random axes: no step's id twice, and every number that names a step is that step's.

#include "reference/dense_axis.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <set>
#include <unordered_map>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

bool same(double a, double b) { return a == b || (std::isnan(a) && std::isnan(b)); }

/// What is wrong with the working of an axis, each kind of fault once.
void collect(const Axis& axis, const Evaluation& e, std::set<std::string>& faults) {
  std::unordered_map<std::string_view, double> steps;
  for (const Step& step : e.steps)
    if (!steps.emplace(step.id, step.value).second) faults.insert("twice: " + std::string(step.id));
  const auto agrees = [&](std::string_view ref, double value, const std::string& where) {
    const auto found = steps.find(ref);
    if (found != steps.end() && !same(found->second, value))
      faults.insert(where + " takes another number from " + std::string(ref));
  };
  for (const Step& step : e.steps) {
    const std::size_t dot = step.id.rfind('.');
    if (dot != std::string_view::npos)
      if (const Section* section = find_section(axis, step.id.substr(0, dot)))
        if (section->spec().index_of(step.id.substr(dot + 1)))
          faults.insert("named like an input: " + std::string(step.id));
    for (const Term& term : step.terms) agrees(term.ref, term.value, std::string(step.id));
  }
  for (const ResultValue& result : e.results) agrees(result.step, result.value, std::string(result.id));
}

} // namespace

TEST_CASE("the working of random axes: ids once, every number that names a step is that step's") {
  std::set<std::string> faults;
  unsigned seed = 9000;
  for (const std::string_view mechanism : all_mechanisms())
    for (int i = 0; i < rounds(6); ++i) {
      DenseAxis dense(++seed, std::string(mechanism));
      collect(dense.axis(), evaluated(dense.axis()), faults);
    }
  for (Axis axis : demo().axes) {
    collect(axis, evaluated(axis), faults);
    axis["requirements"].type("end_speed", "10 mm/s");
    axis["requirements"].type("end_speed_angle", "1 rpm");
    axis["requirements"].type("room", "1 m");
    collect(axis, evaluated(axis), faults);
  }
  RandomAxes random(77);
  for (const std::string_view mechanism : all_mechanisms())
    for (int i = 0; i < rounds(4); ++i) {
      Axis axis = random.next_on(mechanism);
      axis["brake"].type("fitted", "yes");
      axis["brake"].type("torque", "5 N.m");
      axis["requirements"].type("bandwidth", "20 Hz");
      for (const char* field : {"tolerance", "end_speed", "tolerance_angle", "end_speed_angle"})
        axis["requirements"].type(field, std::string(field).starts_with("tol")
                                             ? (std::string(field).ends_with("angle") ? "1 deg" : "1 mm")
                                             : (std::string(field).ends_with("angle") ? "1 rpm" : "10 mm/s"));
      add_segment(axis, "dwell", {{"time", "0.3 s"}, {"held_by", i % 2 == 0 ? "brake" : "motor"}});
      const auto result = evaluate(axis, house_rules());
      if (result) collect(axis, *result, faults);
    }
  for (const std::string& fault : faults) UNSCOPED_INFO(fault);
  CHECK(faults.empty());
}

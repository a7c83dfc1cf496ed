#include "core/evaluation/unknown_readings.hpp"

#include "core/demand/course.hpp"
#include "core/form/meaning.hpp"
#include "core/motor/dc_formulas.hpp"
#include "core/motor/interior.hpp"
#include "core/motor/six_step.hpp"
#include "core/quantity/format.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

bool open(const Axis& axis, const Meaning& m) { return leaves_open(axis[m.slot], m); }

/// Kt over what Ke stands for, of the kinds of motor that tell both.
double agreement(const Section& motor) {
  Recorder silent(false);
  if (&motor.spec() == &servo_motor_section()) {
    const auto servo = servo_of(motor, silent);
    return servo->kt_given / servo->kt_of_ke();
  }
  const SixStepMotor blocks = SixStepMotor::from(motor, silent);
  return blocks.k / (blocks.flat ? kt_flat(blocks.ke) : kt_blocks_on_sine(blocks.ke));
}

/// Whether Kt and Ke can be one motor's.
bool agree(const Axis& axis) {
  constexpr double within = 0.05;
  return std::abs(agreement(axis["motor"]) - 1.0) <= within;
}

/// What one limit is worth over all readings.
struct Spread {
  double least = 0.0;
  Limit worst;
  std::string told; ///< of the worst; blank: that of the base
};

/// Every limit at every reading but the one that is assumed anyway.
template <class Use> void each_judged(const LimitContext& c, const Use& use) {
  if (!c.model.motor->leaves_open && !c.model.drive->leaves_open) return;
  Recorder silent(false);
  for (const ReadingVariant& variant : reading_variants(c.axis)) {
    const AxisModel model = AxisModel::on(c.model.load, variant.axis, silent);
    const Course course = follow(model);
    const Demand demand = work_out_demand(model, course, c.rules, silent);
    const LimitContext there{variant.axis, model, course, demand, c.rules, silent, c.units};
    for (const LimitSpec* spec : limit_specs())
      if (auto limit = spec->judge(there); limit && limit->state != LimitState::not_judged)
        use(*spec, std::move(*limit), variant.told);
  }
}

std::string percent_of(double used) { return std::isfinite(used) ? whole_percent(used) : "none left"; }

} // namespace

std::vector<ReadingVariant> reading_variants(const Axis& axis) {
  std::vector<ReadingVariant> all;
  bool any = false;
  for (const Meaning& m : meanings()) {
    if (!open(axis, m)) continue;
    any = true;
    if (all.empty()) all.push_back({"", axis});
    const FieldSpec& field = axis[m.slot].spec().fields[*axis[m.slot].spec().index_of(m.choice)];
    std::vector<ReadingVariant> wider;
    for (const ReadingVariant& variant : all)
      for (const Choice& choice : field.choices) {
        if (choice.id.empty()) continue;
        ReadingVariant one = variant;
        one.axis[m.slot].type(m.choice, choice.id);
        one.told +=
            (one.told.empty() ? "" : ", ") + std::string(field.label) + " " + std::string(choice.label);
        wider.push_back(std::move(one));
      }
    all = std::move(wider);
  }
  if (!any) return {};
  // both are asked for only where a kind tells both
  if (open(axis, meanings()[0]) && open(axis, meanings()[1])) {
    std::vector<ReadingVariant> likely;
    for (const ReadingVariant& variant : all)
      if (agree(variant.axis)) likely.push_back(variant);
    if (!likely.empty()) all = std::move(likely);
  }
  return all;
}

void judge_readings(const LimitContext& context, std::vector<Limit>& limits) {
  bool any = false;
  std::vector<Spread> spreads;
  spreads.reserve(limits.size());
  for (const Limit& limit : limits) spreads.push_back({limit.used, limit, ""});
  each_judged(context, [&](const LimitSpec& spec, Limit&& limit, const std::string& told) {
    const auto found =
        std::find_if(spreads.begin(), spreads.end(), [&](const Spread& s) { return s.worst.id == spec.id; });
    if (found == spreads.end() || found->worst.state == LimitState::not_judged) return;
    any = true;
    found->least = std::min(found->least, limit.used);
    if (!(limit.used > found->worst.used * (1.0 + 1e-9))) return;
    limit.id = spec.id;
    limit.label = spec.label;
    limit.rule = found->worst.rule;
    limit.input = found->worst.input;
    found->worst = std::move(limit);
    found->told = told;
  });
  if (!any) return;
  for (std::size_t i = 0; i < limits.size(); ++i) {
    Spread& spread = spreads[i];
    if (limits[i].state == LimitState::not_judged || !(spread.worst.used > spread.least * (1.0 + 1e-9)))
      continue;
    const std::string range = percent_of(spread.least) + " to " + percent_of(spread.worst.used);
    spread.worst.rule += (spread.worst.rule.empty() ? "" : " ") +
                         std::string("The data sheet leaves open what is meant: ") + range + ", worst if " +
                         (spread.told.empty() ? "as assumed" : spread.told) + ".";
    limits[i] = std::move(spread.worst);
  }
  sort_limits(limits);
}

void judge_readings(const LimitContext& context, Verdict& verdict) {
  each_judged(context, [&](const LimitSpec& spec, const Limit& limit, const std::string&) {
    note(verdict, spec, limit.used);
    if (std::isnan(verdict.used) || limit.used > verdict.used) {
      verdict.used = limit.used;
      verdict.worst = spec.label;
    }
    if (limit.state != LimitState::over) return;
    for (Verdict::Over& over : verdict.over)
      if (over.label == spec.label) {
        over.used = std::max(over.used, limit.used);
        return;
      }
    verdict.over.push_back({spec.label, limit.used, spec.looks_at, &spec});
  });
  std::stable_sort(verdict.over.begin(), verdict.over.end(),
                   [](const Verdict::Over& a, const Verdict::Over& b) { return a.used > b.used; });
}

} // namespace fulmox

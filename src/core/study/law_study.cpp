#include "core/study/law_study.hpp"

#include "core/demand/axis_model.hpp"
#include "core/motion/law.hpp"
#include "core/quantity/number_text.hpp"

#include <boost/math/tools/minima.hpp>

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

class Study {
public:
  Study(Axis axis, std::size_t segment, double time)
      : axis_(std::move(axis)), segment_(segment), time_(time) {}

  std::optional<LawChoice> of(const LawSpec& law, double accel, double decel, std::string label,
                              std::optional<double> rounding = {}) {
    LawChoice choice{law.id, std::move(label), accel, decel, rounding, {}};
    use_law(axis_.cycle[segment_], choice, time_);
    const auto numbers = quick(axis_, segment_);
    if (!numbers) return std::nullopt;
    choice.numbers = *numbers;
    return choice;
  }

  /// The trapezoid with the least of something, searched along both ramp shares in turn.
  std::optional<LawChoice> best_trapezoid(double (*cost)(const QuickNumbers&), std::string label) {
    const LawSpec& law = *find_law("trapezoid");
    double accel = 1.0 / 3.0, decel = 1.0 / 3.0;
    const auto at = [&](double a, double d) {
      const auto choice = of(law, a, d, "");
      return choice ? cost(choice->numbers) : std::numeric_limits<double>::max();
    };
    constexpr double least = 0.02;
    constexpr int bits = 12;
    for (int round = 0; round < 3; ++round) {
      accel = boost::math::tools::brent_find_minima([&](double a) { return at(a, decel); }, least,
                                                    1.0 - decel, bits)
                  .first;
      decel = boost::math::tools::brent_find_minima([&](double d) { return at(accel, d); }, least,
                                                    1.0 - accel, bits)
                  .first;
    }
    accel = std::round(accel * 1000.0) / 1000.0;
    decel = std::min(std::round(decel * 1000.0) / 1000.0, 1.0 - accel);
    return of(law, accel, decel, std::move(label));
  }

private:
  Axis axis_;
  std::size_t segment_;
  double time_;
};

void mark(std::vector<LawChoice>& all, double (*cost)(const QuickNumbers&), bool LawChoice::*flag) {
  const auto best = std::min_element(all.begin(), all.end(), [&](const LawChoice& a, const LawChoice& b) {
    return std::pair(!a.within, cost(a.numbers)) < std::pair(!b.within, cost(b.numbers));
  });
  if (best != all.end() && best->within && std::isfinite(cost(best->numbers))) (*best).*flag = true;
}

double rms(const QuickNumbers& n) { return n.rms_torque; }
double peak(const QuickNumbers& n) { return n.peak_torque; }
double jerk(const QuickNumbers& n) { return n.peak_jerk; }

} // namespace

void use_law(Section& move, const LawChoice& choice, double time) {
  move.type("law", choice.law);
  for (const char* field : {"peak_speed", "acceleration", "deceleration", "jerk"}) move.type(field, "");
  const bool shares = choice.accel_share > 0.0;
  const auto share_text = [](double share) {
    return std::abs(share - 1.0 / 3.0) < 1e-9 ? std::string("1/3") : number_text(share, 6);
  };
  move.type("acceleration_share", shares ? share_text(choice.accel_share) : "");
  move.type("deceleration_share", shares ? share_text(choice.decel_share) : "");
  if (choice.rounding) move.type("rounding", number_text(*choice.rounding, 6));
  if (move.term("time") != time) move.type("time", number_text(time, 6) + " s");
}

Expected<std::vector<LawChoice>> compare_laws(const Axis& axis, std::size_t segment, const MoveLimits& limits,
                                              const Wanted& wanted) {
  if (segment >= axis.cycle.size() || !axis.cycle[segment].is("move"))
    return Problem{"cycle", "only a move has a law.", "Choose a move."};
  Recorder silent(false);
  const auto model = AxisModel::build(axis, silent);
  if (!model) return model.problem();
  const SegmentFacts& facts = model->load->cycle.facts[segment];
  std::vector<LawChoice> all;
  const auto now = quick(axis, segment);
  if (!now) return now.problem();
  all.push_back({find_law(axis.cycle[segment].text("law"))->id,
                 "As it is",
                 facts.accel_share,
                 facts.decel_share,
                 {},
                 *now,
                 true});
  Study study(axis, segment, facts.time);
  const auto keep = [&](std::optional<LawChoice> choice) {
    if (choice) all.push_back(std::move(*choice));
  };
  for (const LawSpec* law : law_specs()) {
    if (!wanted()) return given_up();
    const bool ramps = law->id == "trapezoid" || law->id == "s_curve";
    const double share = ramps ? 1.0 / 3.0 : 0.0;
    keep(study.of(*law, share, share, std::string(law->label) + (ramps ? ", thirds" : "")));
  }
  if (!wanted()) return given_up();
  keep(study.best_trapezoid(&rms, "Trapezoid, least rms"));
  if (!wanted()) return given_up();
  keep(study.best_trapezoid(&peak, "Trapezoid, least peak"));
  if (const auto gentle = least_jerk(facts.distance, facts.time, limits))
    keep(study.of(*find_law("s_curve"), gentle->share, gentle->share, "S-curve, least jerk",
                  gentle->rounding));
  constexpr double rounding_of_texts = 1e-4;
  for (LawChoice& choice : all)
    choice.within = choice.numbers.load_speed <= limits.speed * (1.0 + rounding_of_texts) &&
                    choice.numbers.load_acceleration <= limits.acceleration * (1.0 + rounding_of_texts);
  mark(all, &rms, &LawChoice::least_rms);
  mark(all, &peak, &LawChoice::least_peak);
  mark(all, &jerk, &LawChoice::least_jerk);
  return all;
}

} // namespace fulmox

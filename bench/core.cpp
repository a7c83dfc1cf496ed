// Measures the core alone: one evaluation of the demo's axes, of a long cycle, of a long record, and the
// studies. Prints medians and percentiles; judges nothing.

#include "bench/times.hpp"
#include "core/evaluation/corners.hpp"
#include "core/evaluation/evaluation.hpp"
#include "core/evaluation/part_fit.hpp"
#include "core/evaluation/plots.hpp"
#include "core/mechanism/mechanism.hpp"
#include "core/motion/segments.hpp"
#include "core/project/document.hpp"
#include "core/rules/house_rules.hpp"
#include "core/study/law_study.hpp"
#include "core/study/ratio_study.hpp"
#include "core/study/sensitivity.hpp"
#include "core/support/data_folder.hpp"

#include <algorithm>
#include <cstdlib>
#include <thread>
#include <vector>

using namespace fulmox;

namespace {

Section segment(const Axis& axis, std::string_view kind,
                std::initializer_list<std::pair<std::string_view, std::string>> values) {
  Section section(*find_segment_spec(kind, motion_of(axis)));
  for (const auto& [field, text] : values) section.type(field, text);
  return section;
}

/// Fifty segments: moves there and back by every law, dwells between.
Axis long_cycle(Axis axis) {
  axis.cycle.clear();
  const char* laws[] = {"trapezoid", "s_curve", "345", "modified_sine", "cycloidal"};
  for (int i = 0; i < 25; ++i) {
    axis.cycle.push_back(
        segment(axis, "move",
                {{"distance", i % 2 == 0 ? "100 mm" : "-100 mm"}, {"law", laws[i % 5]}, {"time", "0.4 s"}}));
    axis.cycle.push_back(segment(axis, "dwell", {{"time", "0.1 s"}}));
  }
  number_sections(axis);
  return axis;
}

/// A thousand stretches of a recorded move with noise.
Axis long_record(Axis axis) {
  std::string points;
  for (int i = 0; i <= 1000; ++i) {
    const double u = i / 1000.0;
    const double noise = 0.02 * (static_cast<double>(std::rand()) / RAND_MAX - 0.5);
    char text[64];
    std::snprintf(text, sizeof text, "%s%.6g ms: %.9g mm", i > 0 ? "; " : "", 2000.0 * u,
                  300.0 * u * u * u * (10.0 - 15.0 * u + 6.0 * u * u) + noise);
    points += text;
  }
  axis.cycle.clear();
  axis.cycle.push_back(segment(axis, "profile", {{"points", points}, {"smoothing", "0.006 mm"}}));
  number_sections(axis);
  return axis;
}

/// Time of one candidate on a load's side that is there: put on from forms, and judged by every limit; alone
/// and with a second thread beside it.
void candidates(const Axis& given, const Section& house_rules) {
  if (("judge a candidate, " + given.name).find(bench::only) == std::string::npos) return;
  Recorder silent(false);
  const auto load = LoadSide::build(given, silent);
  if (!load) return;
  const Rules rules(house_rules);
  const Axis axis = given;
  const AxisModel ready = AxisModel::on(*load, axis, silent);
  constexpr int many = 2000;
  const auto run = [&](bool from_forms) {
    double sum = 0.0;
    for (int i = 0; i < many; ++i)
      sum += verdict_of(from_forms ? AxisModel::on(*load, axis, silent) : ready, axis, rules).used;
    return sum;
  };
  const auto micro = [&](const std::string& what, int threads, bool from_forms) {
    double best = 1e9;
    for (int round = 0; round < 5; ++round) {
      const auto begin = bench::Clock::now();
      std::vector<std::thread> others;
      for (int k = 1; k < threads; ++k) others.emplace_back([&] { (void)run(from_forms); });
      (void)run(from_forms);
      for (std::thread& other : others) other.join();
      best = std::min(best, bench::milliseconds(bench::Clock::now() - begin));
    }
    std::printf("%-44s least %8.2f us a candidate\n", what.c_str(), 1000.0 * best / many / threads);
  };
  micro("judge a candidate, " + given.name, 1, false);
  micro("  built from its forms", 1, true);
  micro("  on two threads", 2, true);
}

} // namespace

int main(int argc, char** argv) {
  bench::only = argc > 1 ? argv[1] : "";
  const auto document = load_document(data_folder() / "demo" / "transplanter.fulmox");
  if (!document) return std::fprintf(stderr, "%s\n", document.problem().text().c_str()), 1;
  const Section rules(house_rules_section());
  const auto time_axis = [&](const std::string& what, const Axis& axis, int times) {
    bench::repeat(what, times, [&] {
      if (const auto e = evaluate(axis, rules); !e) std::fprintf(stderr, "%s\n", e.problem().text().c_str());
    });
  };
  for (const Axis& axis : document->axes) time_axis("evaluate " + axis.name, axis, 300);
  const Axis fifty = long_cycle(document->axes[0]);
  time_axis("evaluate 50 segments", fifty, 200);
  const auto worked_out = evaluate(fifty, rules);
  if (worked_out) bench::repeat("  and what its plots draw", 200, [&] { (void)plots_of(*worked_out); });
  const Axis record = long_record(document->axes[0]);
  time_axis("evaluate a record of 1000 stretches", record, 40);
  const Axis& gantry = document->axes[2];
  bench::repeat("compare laws", 20, [&] { (void)compare_laws(gantry, 0); });
  bench::repeat("sweep the ratio", 20, [&] { (void)sweep_ratio(gantry, 0.5, 100.0, 48); });
  bench::repeat("sensitivities", 20, [&] { (void)sensitivities(gantry); });
  Axis spread = document->axes[0]; // friction and efficiency carry one already
  bench::repeat("corners of two spreads, 25 places", 40, [&] { (void)corners(spread, rules); });
  spread["motor"].type("kt", "0.0714 N.m/A ±10%");
  bench::repeat("corners of three spreads, 27 places", 40, [&] { (void)corners(spread, rules); });
  spread["load"].type("moved_mass", "6 kg ±20%");
  bench::repeat("corners of four spreads, by their sign", 40, [&] { (void)corners(spread, rules); });
  for (const Axis& axis : document->axes) candidates(axis, rules);
  return 0;
}

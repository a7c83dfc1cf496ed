// The search of Match against a NumPy script that does the same on the same data: an axis of constant
// accelerations, motors and drives with what their sheets must have and no more, so that a page of NumPy can
// judge all limits that stand. Prints the time of both with one thread each and whether the answers agree.
//   bench_match_plain SCRIPT [MOTORS HEADS DRIVES]

#include "bench/times.hpp"
#include "core/evaluation/machine.hpp"
#include "core/gearhead/gearhead.hpp"
#include "core/match/ranking.hpp"
#include "core/project/document.hpp"
#include "core/support/data_folder.hpp"

#include <nlohmann/json.hpp>

#include <array>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <fstream>
#include <memory>
#include <random>
#include <string>
#include <unistd.h>

using namespace fulmox;
using namespace fulmox::bench;
using Json = nlohmann::json;

namespace {

std::string number(double value) {
  std::array<char, 32> text{};
  std::snprintf(text.data(), text.size(), "%.9g", value);
  return text.data();
}

class Invented {
public:
  explicit Invented(unsigned seed) : random_(seed) {}
  /// Evenly between their logarithms.
  double between(double low, double high) {
    return low * std::pow(high / low, std::uniform_real_distribution<double>(0.0, 1.0)(random_));
  }

  /// So many of one form, each filled in by `fill`.
  template <class Fill>
  static Parts many(const Section& form, const char* kind, std::size_t count, const Fill& fill) {
    Parts all;
    for (std::size_t i = 0; i < count; ++i) {
      Section part(form.spec());
      std::array<char, 32> text{};
      std::snprintf(text.data(), text.size(), "%s%06zu", kind, i); // the order of names is that of numbers
      part.type("part_number", text.data());
      part.type("maker", "Nobody (invented)");
      fill(part);
      all.push_back(std::move(part));
    }
    return all;
  }

  Parts motors(const Section& form, std::size_t count) {
    return many(form, "M", count, [&](Section& motor) {
      const double torque = between(0.02, 0.9), most = torque * between(2.5, 3.5),
                   top = between(2000.0, 6000.0);
      const double knee = top * between(0.5, 0.9);
      motor.type("inertia", number(2e-5 * std::pow(torque, 1.4) * between(0.5, 2.0)) + " kg.m2");
      motor.type("max_speed", number(top) + " rpm");
      motor.type("peak_curve", "0 rpm: " + number(most) + " N.m; " + number(knee) + " rpm: " + number(most) +
                                   " N.m; " + number(top) + " rpm: " + number(0.4 * most) + " N.m");
      motor.type("continuous_curve", "0 rpm: " + number(torque) + " N.m; " + number(top) +
                                         " rpm: " + number(0.6 * torque) + " N.m");
      motor.type("kt", number(between(0.1, 1.2)) + " N.m/A");
      motor.type("kt_per", "rms");
      motor.type("price", number(80.0 * std::pow(torque, 0.6) * between(0.7, 1.5)));
    });
  }

  Parts heads(const Section& form, std::size_t count) {
    return many(form, "H", count, [&](Section& head) {
      const double rated = between(5.0, 200.0);
      head.type("ratio", number(std::round(between(3.0, 60.0))));
      head.type("efficiency", number(between(0.85, 0.97)));
      head.type("inertia", number(between(1e-6, 2e-4)) + " kg.m2");
      head.type("no_load", number(between(0.005, 0.1)) + " N.m");
      head.type("nominal_torque", number(rated) + " N.m");
      head.type("peak_torque", number(2.0 * rated) + " N.m");
      head.type("mean_speed", number(between(2500.0, 4000.0)) + " rpm");
      head.type("max_speed", "6000 rpm");
      head.type("price", number(between(100.0, 900.0)));
    });
  }

  Parts drives(const Section& form, std::size_t count) {
    return many(form, "D", count, [&](Section& drive) {
      const double lasting = between(1.0, 30.0);
      drive.type("continuous_current", number(lasting) + " A");
      drive.type("peak_current", number(lasting * between(1.5, 3.0)) + " A");
      drive.type("peak_time", number(between(0.5, 3.0)) + " s");
      drive.type("price", number(60.0 + 20.0 * lasting * between(0.7, 1.4)));
    });
  }

private:
  std::mt19937 random_;
};

/// The turning table of the demo on constant accelerations, alone on no bus.
Axis plain_axis(const Document& demo) {
  Axis axis = demo.axes[3];
  for (const char* slot : {"surroundings", "requirements", "coupling", "brake", "drive", "gearhead", "motor"})
    axis[slot] = Section(axis[slot].spec());
  for (Section& segment : axis.cycle)
    if (segment.spec().id == "move") segment.type("law", "trapezoid");
  return axis;
}

double demand_of(const Evaluation& e, std::string_view id) {
  for (const Limit& limit : e.limits)
    if (limit.id == id) return std::abs(limit.demand);
  return std::nan("");
}

/// What the script reads: the load's side, and the figures of all parts in the order of the search.
Json told(const Axis& axis, const Section& rules, const MatchSpace& space) {
  Recorder silent(false);
  const Axis with = with_parts(axis, space, {});
  const auto load = *LoadSide::build(with, silent);
  Json spans = Json::array();
  double turns = 0.0;
  for (const LoadStretch& s : load->stretches) {
    spans.push_back({s.to - s.from, s.direction, s.output(0.0), s.acceleration(0.0),
                     std::max(std::abs(s.speed(-1.0)), std::abs(s.speed(1.0)))});
    turns += s.turns;
  }
  const auto evaluated = evaluate(with, rules);
  Json out{{"cycle", load->cycle.duration},
           {"mean_speed", turns / load->cycle.duration},
           {"load_inertia", load->inertia},
           {"stretches", spans},
           {"most_ratio", Rules(rules).term("inertia_max").value},
           {"equivalent", demand_of(*evaluated, "gear.equivalent")},
           {"gear_peak", demand_of(*evaluated, "gear.peak")}};
  for (const PartChoice& m : space.motors) {
    Json& to = out["motors"];
    const auto& peak = m.section.entry("peak_curve").curve;
    to["inertia"].push_back(m.section.term("inertia").value);
    to["max_speed"].push_back(m.section.term("max_speed").value);
    to["knee"].push_back(peak[1][0]);
    to["most"].push_back(peak[0][1]);
    to["cont"].push_back(m.section.entry("continuous_curve").curve[0][1]);
    to["kt"].push_back(m.section.term("kt").value);
    to["price"].push_back(m.price);
  }
  for (const PartChoice& h : space.heads) {
    const Gearhead head = Gearhead::from(h.section);
    out["heads"].push_back({{"ratio", head.ratio.value},
                            {"efficiency", head.efficiency.value},
                            {"back", head.back_efficiency.value},
                            {"inertia", head.input_inertia.value},
                            {"drag", head.no_load.value},
                            {"nominal", head.nominal_torque.value},
                            {"peak", head.peak_torque.value},
                            {"mean_speed", head.mean_speed.value},
                            {"max_speed", head.max_speed.value},
                            {"price", h.price}});
  }
  for (const PartChoice& d : space.drives) {
    Json& to = out["drives"];
    to["continuous"].push_back(d.section.term("continuous_current").value);
    to["peak"].push_back(d.section.term("peak_current").value);
    to["peak_time"].push_back(d.section.term("peak_time").value);
    to["price"].push_back(d.price);
  }
  return out;
}

Json answer_of(const std::string& script, const Json& data) {
  const std::string file = "/tmp/fulmox_bench_" + std::to_string(getpid()) + ".json";
  std::ofstream(file) << data;
  // one thread, as the program it is measured against
  const std::string command =
      "OMP_NUM_THREADS=1 OPENBLAS_NUM_THREADS=1 /usr/bin/python3 '" + script + "' " + file;
  const std::unique_ptr<FILE, int (*)(FILE*)> pipe(popen(command.c_str(), "r"), &pclose);
  std::string text;
  std::array<char, 4096> buffer{};
  while (pipe && std::fgets(buffer.data(), buffer.size(), pipe.get()) != nullptr) text += buffer.data();
  std::remove(file.c_str());
  return Json::parse(text, nullptr, false);
}

/// How many of the first hundred differ in their share or their sum; a combination as good as another may
/// stand for it.
int differing(const Json& top, const MatchSpace& space, const Fits& trials,
              const std::vector<std::size_t>& order) {
  int differ = 0;
  const std::size_t number = std::min<std::size_t>(100, order.size());
  if (top.size() != number) return 100;
  for (std::size_t i = 0; i < number; ++i) {
    const Trial trial = trials[order[i]];
    const double sum = standing_of(space, trial, usual_weights()).sum;
    const bool same = std::abs(top[i][0].get<double>() - sum) <= 1e-9 * sum &&
                      std::abs(top[i][1].get<double>() - trial.used) <= 1e-9 * trial.used;
    if (!same) ++differ;
  }
  return differ;
}

} // namespace

int main(int argc, char** argv) {
  if (argc < 2) return 1;
  const auto size = [&](int place, std::size_t usual) {
    return argc > place ? static_cast<std::size_t>(std::atoll(argv[place])) : usual;
  };
  const auto demo = load_document(data_folder() / "demo" / "transplanter.fulmox");
  if (!demo) return 1;
  const Axis axis = plain_axis(*demo);
  Invented invented(17);
  Library library;
  library.add("motor", invented.motors(axis["motor"], size(2, 1000)));
  library.add("gearhead", invented.heads(axis["gearhead"], size(3, 80)));
  library.add("drive", invented.drives(axis["drive"], size(4, 300)));
  MatchSpace space = match_space(axis, library);
  std::erase_if(space.heads, [](const PartChoice& head) { return head.none(); });
  const Json script = answer_of(argv[1], told(axis, demo->house_rules, space));
  MatchRun run;
  run.settle = 0;
  const auto begin = Clock::now();
  MatchResult found = search(axis, demo->house_rules, space, run);
  Settler settle(axis, demo->house_rules, space);
  const auto order = ranked(space, found.fits, usual_weights(), {}, settle, 100).order;
  const double seconds = milliseconds(Clock::now() - begin) / 1000.0;
  const double share = 100.0 * static_cast<double>(found.fits.size()) / found.tried;
  std::printf("search, one thread: %.3g combinations, %.2f %% fit, %.3f s, %.3g a second\n", found.tried,
              share, seconds, found.tried / seconds);
  if (!script.is_object()) {
    std::printf("the NumPy script gave no answer: is python3-numpy there?\n");
    return 0;
  }
  const double plain = script["seconds"].get<double>();
  std::printf("NumPy script, one thread: %zu fit, %.3f s; the search is %.2g times as fast; of the answer "
              "%s, %d of the "
              "first 100 differ\n",
              script["fit"].get<std::size_t>(), plain, plain / seconds,
              script["fit"].get<std::size_t>() == found.fits.size() ? "the count agrees"
                                                                    : "the COUNT DIFFERS",
              differing(script["top"], space, found.fits, order));
  return 0;
}

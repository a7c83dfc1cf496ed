// Measures the machine level: power of all axes, buses, supplies, starts; of the demo, of eight axes of two
// hundred segments, of forty axes. Prints medians and percentiles; judges nothing.

#include "bench/machines.hpp"
#include "bench/times.hpp"
#include "core/library/catalogue.hpp"
#include "core/machine/machine_run.hpp"
#include "core/machine/staggering.hpp"
#include "core/machine/supply_choice.hpp"
#include "core/support/data_folder.hpp"

#include <cstdio>

using namespace fulmox;

namespace {

void measure(const std::string& what, const Document& d, int times) {
  const MachineResult results = evaluate(d);
  bench::repeat(what + ", schedule and power", times, [&] { begin_machine(d, results); });
  bench::repeat(what + ", with every bus", times, [&] {
    MachineRun run = begin_machine(d, results);
    finish_machine(run, d);
  });
}

} // namespace

int main(int argc, char** argv) {
  if (argc > 1) bench::only = argv[1];
  const auto demo = load_document(data_folder() / "demo" / "transplanter.fulmox");
  const auto library = load_library(data_folder() / "library");
  if (!demo || !library) {
    std::fputs("no demo beside the program\n", stderr);
    return 1;
  }
  measure("the demo", *demo, 10);
  Document servo = *demo; // its 48 V bus alone: no mains pulses
  std::vector<Section>& buses = servo.lists.find("buses")->second;
  buses.erase(buses.begin() + 1, buses.end());
  measure("five axes on a regulated bus", servo, 20);
  Document eight = bench::eight_long_axes(*demo);
  measure("8 axes of 200 segments", eight, 10);
  eight.pace.type("stop_ramp", "60 ms");
  measure("8 axes of 200 segments and a controlled stop", eight, 5);
  const Document forty = bench::large(servo, 40, 12);
  bench::repeat("40 axes, each evaluated", 3, [&] { evaluate(forty); });
  measure("40 axes", forty, 3);
  const MachineRun run = run_machine(*demo, evaluate(*demo));
  const StaggerAsked asked = stagger_question(run.power, 0, *demo);
  bench::repeat("the worst return of every bus of the demo", 3, [&] {
    MachineRun again = run;
    finish_returns(again);
  });
  bench::repeat("starts with the least peak, five cycles", 5, [&] { stagger_front(asked); });
  bench::repeat("supplies tried on the 48 V bus", 2, [&] { supply_trials(run, 0, *demo, *library); });
  return 0;
}

#include "core/demand/compliance.hpp"

#include "core/quantity/constants.hpp"

#include <array>
#include <cmath>
#include <limits>

namespace fulmox {
namespace {

/// Builds a chain from the motor's side.
class ChainBuilder {
public:
  void inertia(double j) { here_ += j; }
  void spring(double k) {
    if (std::isnan(k)) return; // rigid
    if (here_ > 0.0) {
      chain_.inertias.push_back(here_);
      chain_.stiffnesses.push_back(k);
      here_ = 0.0;
    } else if (!chain_.stiffnesses.empty()) { // nothing between two springs: one softer spring
      double& before = chain_.stiffnesses.back();
      before = before * k / (before + k);
    }
  }
  SpringChain take() {
    if (here_ > 0.0)
      chain_.inertias.push_back(here_);
    else if (!chain_.stiffnesses.empty())
      chain_.stiffnesses.pop_back(); // nothing swings behind it
    return std::move(chain_);
  }

private:
  SpringChain chain_;
  double here_ = 0.0;
};

// Book forms: one spring k between two inertias stands for the chain as solved.
double antiresonance(double stiffness, double load) { return std::sqrt(stiffness / load) / constants::tau; }
double bandwidth_left(double antiresonance, double share) { return antiresonance / share; }
double resonance(double stiffness, double motor, double load) {
  return std::sqrt(stiffness * (1.0 / motor + 1.0 / load)) / constants::tau;
}

} // namespace

SpringChain spring_chain(const AxisModel& model, const Axis& axis) {
  Recorder silent(false);
  const std::vector<TrainPlace> places = train_places(model, axis, silent);
  const LoadSide& load = *model.load;
  ChainBuilder chain;
  const auto seen = [](double inertia, double ratio) { return inertia * ratio * ratio; };
  double ratio = model.total_ratio();
  chain.inertia(seen(model.rotor + (model.gear.fitted ? model.gear.input_inertia.value : 0.0), ratio));
  std::size_t next_stage = 0;
  // places run from the mechanism to the motor
  for (auto place = places.rbegin(); place != places.rend(); ++place) {
    const double k =
        std::isnan(place->stiffness) ? place->stiffness.value : seen(place->stiffness, place->ratio);
    if (place->what == TrainPlace::What::gearhead) {
      chain.spring(k);
    } else if (place->what == TrainPlace::What::coupling) {
      chain.inertia(0.5 * seen(load.coupling.inertia, place->ratio));
      chain.spring(k);
      chain.inertia(0.5 * seen(load.coupling.inertia, place->ratio));
      ratio = place->ratio;
    } else if (place->what == TrainPlace::What::stage) {
      const Stage& stage = load.stages[next_stage++];
      chain.inertia(seen(stage.input_inertia, ratio));
      chain.spring(k);
      chain.inertia(seen(stage.output_inertia, place->ratio));
      ratio = place->ratio;
    }
  }
  const auto pieces = load.mechanism->inertia(load.reach, silent);
  for (const InertiaPiece& piece : pieces)
    if (load.mechanism->turns_with_shaft(piece.id)) chain.inertia(piece.at_input);
  chain.spring(load.mechanism->own_stiffness(load.reach, silent));
  for (const InertiaPiece& piece : pieces)
    if (!load.mechanism->turns_with_shaft(piece.id)) chain.inertia(piece.at_input);
  return chain.take();
}

Compliance work_out_compliance(const AxisModel& model, const Axis& axis, Recorder& recorder) {
  Compliance out{unknown_term, unknown_term};
  if (!(model.motor->inertia > 0.0)) return out;
  const SpringChain chain = spring_chain(model, axis);
  if (chain.stiffnesses.empty()) return out;
  const double held = antiresonances(chain).front(), free = resonances(chain).front();
  // the one spring between rotor and all the rest that swings alike, for the working
  double load = 0.0;
  for (std::size_t i = 1; i < chain.inertias.size(); ++i) load += chain.inertias[i];
  const double motor = chain.inertias.front();
  out.antiresonance =
      recorder.apply(book::antiresonance, "compliance.antiresonance", {{held * held * load, ""}, {load, ""}});
  if (recorder.on())
    recorder.note(
        "Lowest frequency of " + std::to_string(chain.stiffnesses.size()) +
        " springs in a row, inertias between them counted, rotor held still; k stands for all of them. "
        "Seen at the mechanism's shaft, at the worst place and payload; what has no figure counts as rigid.");
  const double both = 1.0 / motor + 1.0 / load;
  out.resonance = recorder.apply(book::resonance, "compliance.resonance",
                                 {{free * free / both, ""}, {motor, ""}, {load, ""}});
  return out;
}

namespace book {
const Formula antiresonance{
    "compliance.antiresonance",
    "Antiresonance",
    "f_a",
    "√({k}/{J_L})/2π",
    Kind::frequency,
    {{"k", "k", Kind::torsional_stiffness, "spring between motor and load", range::positive},
     {"J_L", "J_L", Kind::inertia, "beyond it", range::positive}},
    "eigenvalue of the chain, rotor held",
    calling<&fulmox::antiresonance>};
const Formula resonance{
    "compliance.resonance",
    "Resonance",
    "f_r",
    "√({k}·(1/{J_m} + 1/{J_L}))/2π",
    Kind::frequency,
    {{"k", "k", Kind::torsional_stiffness, "spring between motor and load", range::positive},
     {"J_m", "J_m", Kind::inertia, "rotor, brake and head", range::positive},
     {"J_L", "J_L", Kind::inertia, "beyond the spring", range::positive}},
    "eigenvalue of the free chain",
    calling<&fulmox::resonance>};
const Formula bandwidth_left{"compliance.bandwidth",
                             "Bandwidth that the springs leave",
                             "f_v",
                             "{f_a}/{s}",
                             Kind::frequency,
                             {{"f_a", "f_a", Kind::frequency, "antiresonance", range::positive},
                              {"s", "s", Kind::number, "antiresonance over bandwidth", {1.0, 20.0}}},
                             "house rule",
                             calling<&fulmox::bandwidth_left>};
} // namespace book

std::span<const Formula* const> compliance_formulas() {
  static const std::array list{&book::antiresonance, &book::resonance, &book::bandwidth_left};
  return list;
}

} // namespace fulmox

#include "core/motor/readings.hpp"

#include <array>
#include <cmath>
#include <limits>
#include <numbers>

namespace fulmox {
namespace {

using std::numbers::pi;
using std::numbers::sqrt2;
using std::numbers::sqrt3;
constexpr double sqrt6 = sqrt2 * sqrt3;
constexpr double half_sqrt6 = 0.5 * sqrt6;     ///< √(3/2)
constexpr double rectified = 3.0 * sqrt3 / pi; ///< mean of the line-line EMF over its upper 60°, per K
using F = ReadingFamily;

// sine waves: theory of the sinusoidal machine; blocks: mean over the 60° around the crest
constexpr std::array readings{
    ConstantReading{"kt_rms", "Kt", "per rms ampere of a line", F::torque, 3.0 / sqrt2},
    ConstantReading{"kt_peak", "Kt", "per peak ampere of a line", F::torque, 1.5},
    ConstantReading{"kt_dc", "Kt", "per DC ampere, six-step, sine EMF", F::torque, rectified},
    ConstantReading{"kt_dc_flat", "Kt", "per DC ampere, six-step, flat EMF", F::torque, 2.0, true},
    ConstantReading{"kt_q_power_wye", "Kt", "per q ampere, power-invariant, wye", F::torque, half_sqrt6},
    ConstantReading{"kt_q_power_delta", "Kt", "per q ampere, power-invariant, delta", F::torque, 3.0 / sqrt2},
    ConstantReading{"kt_q_amplitude_wye", "Kt", "per q ampere, amplitude-invariant, wye", F::torque, 1.5},
    ConstantReading{"kt_q_amplitude_delta", "Kt", "per q ampere, amplitude-invariant, delta", F::torque,
                    1.5 * sqrt3},
    ConstantReading{"kt_rms_delta", "Kt", "per rms ampere of a delta's winding", F::torque, 1.5 * sqrt6},
    ConstantReading{"ke_line_rms", "Ke", "line-line rms", F::emf, half_sqrt6},
    ConstantReading{"ke_line_peak", "Ke", "line-line peak", F::emf, sqrt3},
    ConstantReading{"ke_line_pp", "Ke", "line-line peak-to-peak", F::emf, 2.0 * sqrt3},
    ConstantReading{"ke_phase_rms", "Ke", "phase rms, wye", F::emf, 1.0 / sqrt2},
    ConstantReading{"ke_phase_peak", "Ke", "phase peak, wye", F::emf, 1.0},
    ConstantReading{"ke_dc", "Ke", "rectified, six-step", F::emf, rectified},
    ConstantReading{"kv_line_peak", "Kv", "per line-line peak volt", F::speed, sqrt3},
    ConstantReading{"kv_line_rms", "Kv", "per line-line rms volt", F::speed, half_sqrt6},
    ConstantReading{"kv_dc", "Kv", "per DC volt at no load, six-step", F::speed, rectified},
    ConstantReading{"psi_amplitude", "ψ", "amplitude-invariant, wye", F::flux, 1.0},
    ConstantReading{"psi_power", "ψ", "power-invariant, wye", F::flux, half_sqrt6},
    ConstantReading{"psi_rms", "ψ", "rms, wye", F::flux, 1.0 / sqrt2}};

} // namespace

std::span<const ConstantReading> constant_readings() { return readings; }

const ConstantReading* find_reading(std::string_view id) {
  for (const ConstantReading& reading : readings)
    if (reading.id == id) return &reading;
  return nullptr;
}

Kind kind_of(const ConstantReading& reading) {
  constexpr std::array kinds{Kind::torque_constant, Kind::emf_constant, Kind::speed_constant,
                             Kind::flux_linkage};
  return kinds[static_cast<std::size_t>(reading.family)];
}

double k_from(const ConstantReading& reading, double value, double pole_pairs) {
  if (reading.family == F::speed) return 1.0 / (value * reading.per_k);
  if (reading.family == F::flux) return value * pole_pairs / reading.per_k;
  return value / reading.per_k;
}

double value_of(const ConstantReading& reading, double k, double pole_pairs) {
  if (reading.family == F::speed) return 1.0 / (k * reading.per_k);
  if (reading.family == F::flux) return k * reading.per_k / pole_pairs;
  return k * reading.per_k;
}

double mistaken(const ConstantReading& truth, const ConstantReading& taken) {
  if (truth.family != taken.family) return std::numeric_limits<double>::quiet_NaN();
  const double ratio = truth.per_k / taken.per_k;
  return truth.family == F::speed ? 1.0 / ratio : ratio;
}

std::vector<JointReading> joint_readings(double kt, double ke, double within) {
  std::vector<JointReading> pairs;
  for (const ConstantReading& torque : readings) {
    if (torque.family != F::torque) continue;
    for (const ConstantReading& emf : readings) {
      if (emf.family != F::emf || torque.flat != emf.flat) continue;
      const double by_torque = k_from(torque, kt, 1.0), by_emf = k_from(emf, ke, 1.0);
      if (std::abs(by_torque / by_emf - 1.0) <= within)
        pairs.push_back({&torque, &emf, 0.5 * (by_torque + by_emf)});
    }
  }
  return pairs;
}

SpunConstant spun_constant(const SpinTest& test) {
  // crest of the fundamental between two leads, and of the wave itself; flat: 120° flat phases
  const double crest = test.read_as == SpinTest::Volts::rms     ? 0.0
                       : test.read_as == SpinTest::Volts::crest ? test.volts
                                                                : 0.5 * test.volts;
  const double flat_crest = test.read_as == SpinTest::Volts::rms ? test.volts * 3.0 / std::sqrt(5.0) : crest;
  const double sine_crest = test.read_as == SpinTest::Volts::rms ? sqrt2 * test.volts : crest;
  // between two leads the flat wave rises, stays and falls for 60° each: its first harmonic is 6√3/π² of its
  // crest
  constexpr double first_harmonic = 6.0 * sqrt3 / (pi * pi);
  SpunConstant out;
  out.speed = 2.0 * pi * test.frequency / test.pole_pairs;
  const double fundamental = test.flat ? first_harmonic * flat_crest : sine_crest;
  out.k = fundamental / (sqrt3 * out.speed);
  out.ke_line = (test.flat ? flat_crest : sine_crest) / out.speed;
  const double meter = 0.01 / sqrt3, frequency = 0.001 / sqrt3, magnets = 10.0 / sqrt3 * 0.0012;
  out.uncertainty = 2.0 * std::sqrt(meter * meter + frequency * frequency + magnets * magnets);
  return out;
}

} // namespace fulmox

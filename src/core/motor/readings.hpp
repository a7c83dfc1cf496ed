#pragma once
#include "core/quantity/kind.hpp"

#include <optional>
#include <span>
#include <string_view>
#include <vector>

namespace fulmox {

/// What a number on a data sheet may mean. All follow from K, the crest of the back-EMF of one phase of the
/// equivalent wye per mechanical rad/s.
enum class ReadingFamily : std::uint8_t { torque, emf, speed, flux };

struct ConstantReading {
  std::string_view id;     ///< as typed on a command line
  std::string_view symbol; ///< "Kt"
  std::string_view label;  ///< which ampere, which volt
  ReadingFamily family = ReadingFamily::torque;
  double per_k = 1.0; ///< value/K; of speeds volts per K whose inverse it is; of flux value·p/K
  bool flat = false;  ///< holds for a flat back-EMF, whose phase crest K is; all others for a sine
};

/// Every reading, torque constants first.
std::span<const ConstantReading> constant_readings();
const ConstantReading* find_reading(std::string_view id);

Kind kind_of(const ConstantReading& reading);
/// K in V·s/rad from a value > 0 in SI (a speed constant in rad/s per volt); NaN for a flux without pole
/// pairs.
double k_from(const ConstantReading& reading, double value, double pole_pairs);
/// The reading's value for a K.
double value_of(const ConstantReading& reading, double k, double pole_pairs);

/// By what a value is off when it is taken for another reading of the same family: K taken over K true.
double mistaken(const ConstantReading& truth, const ConstantReading& taken);

/// A torque and an EMF constant without their readings: the pairs whose K agree within a share. Agreement
/// alone does not fix K.
struct JointReading {
  const ConstantReading *torque, *emf;
  double k = 0.0; ///< mean of the two
};
std::vector<JointReading> joint_readings(double kt, double ke, double within);

/// What a bench tells of a spun motor: frequency of its leads, volts between two of them.
struct SpinTest {
  enum class Volts : std::uint8_t { rms, crest, peak_to_peak };
  double frequency = 0.0; ///< Hz, electrical
  double volts = 0.0;
  Volts read_as = Volts::rms;
  bool flat = false; ///< shape of the wave between two leads
  double pole_pairs = 1.0;
};
struct SpunConstant {
  double k = 0.0;           ///< V·s/rad, of the fundamental
  double ke_line = 0.0;     ///< V·s/rad, crest between two leads as the wave is
  double speed = 0.0;       ///< rad/s, of the shaft
  double uncertainty = 0.0; ///< relative, expanded (k = 2): 1 % meter, 0.1 % frequency, 10 K of the magnets
};
/// Frequency, volts and pole pairs must be > 0.
SpunConstant spun_constant(const SpinTest& test);

} // namespace fulmox

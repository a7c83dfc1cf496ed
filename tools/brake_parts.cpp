// Holding brakes for the motor shaft, spring-applied, 24 V; invented, of plausible size (from memory).

#include "tools/invented.hpp"

#include "core/brake/brake.hpp"

#include <cmath>
#include <cstdio>

namespace fulmox::tools {

Parts brakes() {
  struct Row {
    double torque, inertia, coil, delay, energy, max_rpm, mass; // N·m, kg·cm², W, ms, J, rpm, kg
  };
  constexpr Row rows[] = {{0.16, 0.004, 5, 25, 3, 6000, 0.12}, {0.32, 0.007, 6, 25, 6, 6000, 0.18},
                          {0.7, 0.02, 7, 30, 12, 6000, 0.3},   {1.3, 0.035, 8, 35, 22, 6000, 0.42},
                          {2.5, 0.12, 10, 40, 60, 6000, 0.7},  {4.5, 0.25, 12, 45, 110, 5500, 1.0},
                          {8, 0.9, 16, 50, 240, 5000, 1.8},    {16, 2.4, 19, 60, 480, 4500, 2.9},
                          {32, 7.5, 24, 75, 900, 3500, 4.8},   {60, 18, 32, 90, 1700, 3000, 8.0}};
  Parts parts;
  for (const Row& r : rows) {
    char part[32];
    std::snprintf(part, sizeof part, "HB-%04d", static_cast<int>(std::lround(100.0 * r.torque)));
    parts.push_back(Sheet(brake_section())
                        .type("part_number", part)
                        .type("maker", "Quillard (invented)")
                        .type("fitted", "yes")
                        .type("torque", number(r.torque) + " N.m")
                        .type("inertia", number(r.inertia) + " kg.cm2")
                        .type("power", number(r.coil) + " W")
                        .type("delay", number(r.delay) + " ms")
                        .type("in_motion", "60 %")
                        .type("stop_energy", number(r.energy) + " J")
                        .type("stops", "2000")
                        .type("max_speed", number(r.max_rpm) + " rpm")
                        .type("mass", number(r.mass) + " kg")
                        .take());
  }
  return parts;
}

} // namespace fulmox::tools

#pragma once
#include "core/library/catalogue.hpp"
#include "core/library/part_library.hpp"
#include "core/quantity/format.hpp"

#include <random>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox::bench {

/// A figure of a part times some factor, in its usual unit.
inline void scale(Section& part, std::string_view field, double factor) {
  if (!part.has(field) || part.blank(field)) return;
  const FieldSpec& spec = part.spec().fields[*part.spec().index_of(field)];
  constexpr int digits = 6;
  part.type(field, format(part.term(field) * factor, spec.kind, UnitSet::si, digits).text(),
            Origin::data_sheet);
}

inline Parts many(const Parts& shipped, std::size_t number, const std::vector<std::string_view>& fields,
                  std::mt19937& random) {
  std::uniform_real_distribution<double> factor(0.7, 1.4);
  Parts all;
  for (std::size_t i = 0; i < number; ++i) {
    Section part = shipped[i % shipped.size()];
    part.type("part_number", part.text("part_number") + "/" + std::to_string(i), Origin::data_sheet);
    for (const std::string_view field : fields) scale(part, field, factor(random));
    all.push_back(std::move(part));
  }
  return all;
}

/// Servo motors, gearheads and their drives made of the shipped parts with their figures moved; seeded.
inline Library large_library(const Library& shipped, std::size_t motors, std::size_t heads,
                             std::size_t drives) {
  std::mt19937 random(12);
  Parts servos, servo_drives;
  for (const Section& motor : shipped.of("motor"))
    if (motor.spec().id == "motor") servos.push_back(motor);
  for (const Section& drive : shipped.of("drive"))
    if (drive.text("part_number").starts_with("E")) servo_drives.push_back(drive);
  Library library;
  library.add("motor", many(servos, motors, {"inertia", "price", "mass"}, random));
  library.add("gearhead",
              many(shipped.of("gearhead"), heads, {"ratio", "inertia", "nominal_torque", "price"}, random));
  library.add("drive", many(servo_drives, drives, {"continuous_current", "price", "standby"}, random));
  return library;
}

} // namespace fulmox::bench

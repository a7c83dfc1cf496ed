// Conversions against GNU units (Debian package "units"), an independent unit database.

#include "core/quantity/parse.hpp"

#include <catch2/catch.hpp>

#include <array>
#include <cstdio>
#include <string>

using namespace fulmox;

namespace {

/// What GNU units says one `from` is in `to`.
double gnu_units(const std::string& from, const std::string& to) {
  const std::string command = "units --terse -o '%.15g' '" + from + "' '" + to + "' 2>&1";
  FILE* pipe = popen(command.c_str(), "r");
  REQUIRE(pipe != nullptr);
  std::array<char, 128> buffer{};
  const char* line = fgets(buffer.data(), buffer.size(), pipe);
  pclose(pipe);
  REQUIRE(line != nullptr);
  INFO(command << " -> " << line);
  return std::stod(line);
}

struct Case {
  const char* ours;
  Kind kind;
  const char* theirs;
  const char* si;
};

// "lbf in" stands for a product in GNU units; our text uses a point.
constexpr Case cases[] = {
    {"1 mm", Kind::length, "mm", "m"},
    {"1 um", Kind::length, "micron", "m"},
    {"1 in", Kind::length, "inch", "m"},
    {"1 ft", Kind::length, "ft", "m"},
    {"1 yd", Kind::length, "yard", "m"},
    {"1 mil", Kind::length, "mil", "m"},
    {"1 thou", Kind::length, "mil", "m"},
    {"40 uin", Kind::length, "40 microinch", "m"},
    {"1 g", Kind::mass, "gram", "kg"},
    {"1 lb", Kind::mass, "lb", "kg"},
    {"1 oz", Kind::mass, "oz", "kg"},
    {"1 t", Kind::mass, "tonne", "kg"},
    {"1 slug", Kind::mass, "slug", "kg"},
    {"1 min", Kind::time, "min", "s"},
    {"1 h", Kind::time, "hour", "s"},
    {"1 ms", Kind::time, "ms", "s"},
    {"1 deg", Kind::angle, "degree", "radian"},
    {"1 arcmin", Kind::angle, "arcmin", "radian"},
    {"1 arcsec", Kind::angle, "arcsec", "radian"},
    {"1 rev", Kind::angle, "revolution", "radian"},
    {"1 rpm", Kind::angular_speed, "rpm", "radian/s"},
    {"1 rev/s", Kind::angular_speed, "revolution/s", "radian/s"},
    {"1 m/min", Kind::speed, "m/min", "m/s"},
    {"1 in/s", Kind::speed, "in/s", "m/s"},
    {"1 gn", Kind::acceleration, "gravity", "m/s^2"},
    {"1 lbf", Kind::force, "lbf", "N"},
    {"1 ozf", Kind::force, "oz force", "N"},
    {"1 kgf", Kind::force, "kgf", "N"},
    {"1 kN", Kind::force, "kN", "N"},
    {"40 ozf.in", Kind::torque, "40 oz force in", "N m"},
    {"1 lbf.in", Kind::torque, "lbf in", "N m"},
    {"1 lbf.ft", Kind::torque, "lbf ft", "N m"},
    {"1 kgf.cm", Kind::torque, "kgf cm", "N m"},
    {"1 mN.m", Kind::torque, "mN m", "N m"},
    {"3 kg.cm2", Kind::inertia, "3 kg cm^2", "kg m^2"},
    {"1 g.cm2", Kind::inertia, "g cm^2", "kg m^2"},
    {"1 lb.in2", Kind::inertia, "lb in^2", "kg m^2"},
    {"1 ozf.in.s2", Kind::inertia, "oz force in s^2", "kg m^2"},
    {"1 hp", Kind::power, "hp", "W"},
    {"1 PS", Kind::power, "metrichorsepower", "W"},
    {"1 Wh", Kind::energy, "W hour", "J"},
    {"1 kWh", Kind::energy, "kWh", "J"},
    {"1 mH", Kind::inductance, "mH", "H"},
    {"1 uF", Kind::capacitance, "uF", "F"},
    {"1 mOhm", Kind::resistance, "milliohm", "ohm"},
    {"1 V/krpm", Kind::emf_constant, "V/(1000 rpm)", "V s/radian"},
    {"1 lb/in3", Kind::density, "lb/in^3", "kg/m^3"},
    {"1 N.m/arcmin", Kind::torsional_stiffness, "N m/arcmin", "N m/radian"},
};

} // namespace

TEST_CASE("conversions agree with GNU units") {
  static_assert(std::size(cases) >= 30);
  for (const Case& c : cases) {
    INFO(c.ours);
    const auto ours = parse_quantity(c.ours, c.kind);
    REQUIRE(ours);
    CHECK(ours->value == Approx(gnu_units(c.theirs, c.si)).epsilon(1e-9));
  }
}

TEST_CASE("temperature scales agree with GNU units") {
  CHECK(parse_quantity("40 degC", Kind::temperature)->value ==
        Approx(gnu_units("tempC(40)", "K")).epsilon(1e-12));
  CHECK(parse_quantity("104 degF", Kind::temperature)->value ==
        Approx(gnu_units("tempF(104)", "K")).epsilon(1e-12));
}

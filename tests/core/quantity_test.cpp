#include "core/quantity/constants.hpp"
#include "core/quantity/format.hpp"
#include "core/quantity/parse.hpp"
#include "core/quantity/units.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <random>

using namespace fulmox;

namespace {
double si(const char* text, Kind kind, const char* fallback = "") {
  INFO(text);
  const auto q = parse_quantity(text, kind, fallback);
  if (!q) FAIL(q.problem().text());
  return q->value;
}
std::string refusal(const char* text, Kind kind) {
  INFO(text);
  const auto q = parse_quantity(text, kind);
  REQUIRE_FALSE(q);
  CHECK_FALSE(q.problem().remedy.empty());
  return q.problem().text();
}
using Catch::Contains;
} // namespace

TEST_CASE("numbers and expressions with units") {
  CHECK(si("5 mm", Kind::length) == Approx(0.005));
  CHECK(si("5mm", Kind::length) == Approx(0.005));
  CHECK(si("2*60 kg", Kind::mass) == Approx(120.0));
  CHECK(si("2*4.5 kg", Kind::mass) == Approx(9.0));
  CHECK(si("(2+3)*1.5 kg", Kind::mass) == Approx(7.5));
  CHECK(si("2+3 kg", Kind::mass) == Approx(5.0));
  CHECK(si("1/3", Kind::share) == Approx(1.0 / 3.0));
  CHECK(si("10/4 kg", Kind::mass) == Approx(2.5));
  CHECK(si("2 kg + 500 g", Kind::mass) == Approx(2.5));
  CHECK(si("2 kg - 500 g", Kind::mass) == Approx(1.5));
  CHECK(si("-150 mm", Kind::length) == Approx(-0.15));
  CHECK(si("−150 mm", Kind::length) == Approx(-0.15));
  CHECK(si("1.5e-4 kg.m2", Kind::inertia) == Approx(1.5e-4));
  CHECK(si("3 kg·cm²", Kind::inertia) == Approx(3e-4));
  CHECK(si("3 kgcm2", Kind::inertia) == Approx(3e-4));
  CHECK(si("5 m/s", Kind::speed) == Approx(5.0));
  CHECK(si("5 m / 2 s", Kind::speed) == Approx(2.5));
  CHECK(si("9.81 m/s2", Kind::acceleration) == Approx(9.81));
  CHECK(si("9.81 m/s^2", Kind::acceleration) == Approx(9.81));
  CHECK(si("9.81 m·s⁻²", Kind::acceleration) == Approx(9.81));
  CHECK(si("2*pi*10 mm", Kind::length) == Approx(0.0628318531));
  CHECK(si("2^3 kg", Kind::mass) == Approx(8.0));
  CHECK(si("40 degC", Kind::temperature) == Approx(313.15));
  CHECK(si("104 °F", Kind::temperature) == Approx(313.15));
  CHECK(si("30°", Kind::angle) == Approx(M_PI / 6));
  CHECK(si("80 %", Kind::share) == Approx(0.8));
  CHECK(si("10 mm/rev", Kind::lead) == Approx(0.010));
  CHECK(si("10 mm", Kind::lead) == Approx(0.010));
  CHECK(si("1500 rpm", Kind::angular_speed) == Approx(1500 * M_PI / 30));
  CHECK(si("25 rev/s", Kind::angular_speed) == Approx(50 * M_PI));
}

TEST_CASE("bare numbers take the unit of the field, and only then") {
  CHECK(si("9", Kind::mass, "kg") == Approx(9.0));
  CHECK(si("2*4.5", Kind::mass, "lb") == Approx(9.0 * constants::pound));
  CHECK(si("9 g", Kind::mass, "kg") == Approx(0.009));
  CHECK_THAT(refusal("9", Kind::mass), Contains("unit is missing"));
}

TEST_CASE("a motor constant is typed with its unit or bare") {
  for (const char* text : {"0.09", "0.09 N·m/√W", "0.09 N.m/√W", "90e-3 Nm/sqrt(W)"})
    CHECK(parse_quantity(text, Kind::motor_constant)->value == Approx(0.09));
  CHECK(parse_quantity("0.09 N·m/√W ±10 %", Kind::motor_constant)->tolerance.half_width == Approx(0.009));
  CHECK(parse_quantity("0.09", Kind::motor_constant)->bare);
  CHECK(*with_unit("0.09", Kind::motor_constant, "N·m/√W") == "0.09 N·m/√W");
  CHECK(*with_unit("0.09 N·m/√W", Kind::motor_constant, "N·m/√W") == "0.09 N·m/√W");
  for (const char* text : {"0.09 N.m", "0.09 N·m/√W N·m/√W", "√W"})
    CHECK_FALSE(parse_quantity(text, Kind::motor_constant));
  CHECK_FALSE(parse_quantity("0.09 N·m/√W", Kind::torque));
}

TEST_CASE("tolerances") {
  CHECK(parse_quantity("0.05 ±20%", Kind::number)->tolerance.half_width == Approx(0.01));
  CHECK(parse_quantity("6 kg ± 200 g", Kind::mass)->tolerance.half_width == Approx(0.2));
  CHECK(parse_quantity("6 kg +- 0.1", Kind::mass)->tolerance.half_width == Approx(0.1));
  CHECK(parse_quantity("40 degC ± 5", Kind::temperature)->tolerance.half_width == Approx(5.0));
  CHECK_FALSE(parse_quantity("6 kg ± 5 mm", Kind::mass));
}

TEST_CASE("what cannot be meant is refused with a place and a remedy") {
  CHECK_THAT(refusal("0,5 kg", Kind::mass), Contains("comma") && Contains("column 2"));
  CHECK_THAT(refusal("5 kg", Kind::length), Contains("a length"));
  CHECK_THAT(refusal("5 J", Kind::torque), Contains("an energy") && Contains("a torque"));
  CHECK_THAT(refusal("5 Nm", Kind::energy), Contains("a torque"));
  CHECK_THAT(refusal("50 Hz", Kind::angular_speed), Contains("speed of rotation"));
  CHECK_THAT(refusal("6o kg", Kind::mass), Contains("unknown unit 'o'"));
  CHECK_THAT(refusal("5 furlong", Kind::length), Contains("furlong"));
  CHECK_THAT(refusal("1/0 kg", Kind::mass), Contains("division by zero"));
  CHECK_THAT(refusal("(2*3 kg", Kind::mass), Contains("bracket"));
  CHECK_THAT(refusal("2 kg + 3 mm", Kind::mass), Contains("different dimension"));
  CHECK_THAT(refusal("5 5 kg", Kind::mass), Contains("cannot read"));
  CHECK_THAT(refusal("1e999 kg", Kind::mass), Contains("too large"));
  CHECK_THAT(refusal("9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^"
                     "9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9*9^9 kg",
                     Kind::mass),
             Contains("not finite"));
  CHECK_THAT(refusal(std::string(5000, '(').c_str(), Kind::mass), Contains("deeply"));
  CHECK_THAT(refusal("", Kind::mass), Contains("nothing"));
  CHECK_THAT(refusal("2*", Kind::mass), Contains("missing"));
  CHECK_THAT(refusal("40 degC + 2 K", Kind::temperature), Contains("°C"));
}

TEST_CASE("no text crashes the parser") {
  std::mt19937 engine(5);
  const std::string pieces[] = {"1", "2.5", "e", "-", "+", "*", "/", "(", ")", "kg",   "mm",  ".",
                                ",", "°C",  "²", "±", "%", " ", "π", "^", "µ", "\xff", "N·m", "e5"};
  for (int i = 0; i < 20000; ++i) {
    std::string text;
    const int length = static_cast<int>(engine() % 9);
    for (int k = 0; k < length; ++k) text += pieces[engine() % std::size(pieces)];
    for (const Kind kind : {Kind::mass, Kind::temperature, Kind::share}) {
      const auto q = parse_quantity(text, kind, engine() % 2 ? "kg" : "");
      if (q) CHECK(std::isfinite(q->value));
    }
  }
}

TEST_CASE("formatting: three figures, sensible prefix, no surprises at the edges") {
  CHECK(format(0.3265, Kind::torque).text() == "327 mN·m");
  CHECK(format(12.0, Kind::torque).text() == "12.0 N·m");
  CHECK(format(0.9996, Kind::torque).text() == "1.00 N·m");
  CHECK(format(-0.15, Kind::length).text() == "−150 mm");
  CHECK(format(0.0, Kind::force).text() == "0 N");
  CHECK(format(0.0, Kind::length).text() == "0 mm");
  CHECK(format(313.15, Kind::temperature).text() == "40.0 °C");
  CHECK(format(3.7e-5, Kind::inertia).text() == "370 g·cm²");
  CHECK(format(404.0, Kind::angular_speed).text() == "3860 rpm");
  CHECK(format(M_PI / 2, Kind::angle).text() == "90.0°");
  CHECK(format(0.254, Kind::length, UnitSet::inch).text() == "10.0 in");
  CHECK(format(std::nan(""), Kind::torque).text() == "– N·m");
  CHECK(significant(1234.0) == "1230");
  CHECK(significant(999.9) == "1000");
  CHECK(significant(0.009996) == "0.0100");
  CHECK(significant(1.0 / 3.0, 6) == "0.333333");
}

TEST_CASE("what is shown can be typed back and means the same within its figures") {
  std::mt19937 engine(11);
  std::uniform_real_distribution<double> exponent(-6.0, 5.0);
  for (int kind_index = 0; kind_index < static_cast<int>(Kind::count_); ++kind_index) {
    const Kind kind = static_cast<Kind>(kind_index);
    if (kind == Kind::torque_squared_time || kind == Kind::current_squared_time || kind == Kind::temperature)
      continue;
    for (const UnitSet set : {UnitSet::si, UnitSet::inch})
      for (int i = 0; i < 20; ++i) {
        const double value = std::pow(10.0, exponent(engine));
        const std::string shown = format(value, kind, set, 6).text();
        INFO(shown);
        const auto back = parse_quantity(shown, kind);
        if (!back) FAIL(back.problem().text());
        CHECK(back->value == Approx(value).epsilon(1e-5));
      }
  }
}

TEST_CASE("every unit of the table is read, and no two share a symbol") {
  for (const Unit& unit : unit_table()) {
    const auto found = find_unit(unit.symbol);
    REQUIRE(found);
    CHECK(found->factor == unit.factor);
  }
}

TEST_CASE("a bound shown with three figures keeps the bound, and a round one stays as it is") {
  CHECK(at_most(4.26667, Kind::acceleration) == "4.26 m/s²");
  CHECK(at_least(4.26667, Kind::acceleration) == "4.27 m/s²");
  CHECK(at_most(0.2, Kind::speed) == "200 mm/s");
  CHECK(at_least(0.2, Kind::speed) == "200 mm/s");
  CHECK(at_least(0.99995, Kind::speed) == "1.00 m/s");
  CHECK(at_most(0.99995, Kind::speed) == "999 mm/s");
  CHECK(at_most(2.0 / 3.0, Kind::number) == "0.666");
  CHECK(at_least(0.0, Kind::speed) == format(0.0, Kind::speed).text());
  std::mt19937 engine(12);
  std::uniform_real_distribution<double> decade(-3.0, 2.0);
  for (int i = 0; i < 500; ++i) {
    const double speed = std::pow(10.0, decade(engine));
    const double least = si(at_least(speed, Kind::speed).c_str(), Kind::speed);
    const double most = si(at_most(speed, Kind::speed).c_str(), Kind::speed);
    INFO(speed);
    CHECK(least >= speed * (1.0 - 1e-8));
    CHECK(least <= speed * 1.011);
    CHECK(most <= speed * (1.0 + 1e-8));
    CHECK(most >= speed * 0.989);
  }
}

TEST_CASE("fields take units as the trade writes them") {
  // ozf·in, lbf·in, lbf·ft, kgf·cm in N·m: NIST SP 811 (2008), appendix B.8
  for (const char* unit : {"oz-in", "oz.in", "oz·in", "ozin", "in-oz"})
    CHECK(si((std::string("40 ") + unit).c_str(), Kind::torque) == Approx(40.0 * 7.061552e-3).epsilon(1e-6));
  for (const char* unit : {"in-lb", "in.lb", "lb-in", "lb.in", "lbin"})
    CHECK(si((std::string("8 ") + unit).c_str(), Kind::torque) == Approx(8.0 * 0.1129848).epsilon(1e-6));
  for (const char* unit : {"ft-lb", "lb-ft", "ft.lb", "lb.ft"})
    CHECK(si((std::string("2 ") + unit).c_str(), Kind::torque) == Approx(2.0 * 1.355818).epsilon(1e-6));
  for (const char* unit : {"kg.cm", "kg-cm", "kg·cm"})
    CHECK(si((std::string("3") + unit).c_str(), Kind::torque) == Approx(3.0 * 0.0980665).epsilon(1e-9));
  CHECK(si("5 tpi", Kind::lead) == Approx(5.08e-3));
  CHECK(si("5/in", Kind::lead) == Approx(5.08e-3));
  CHECK(si("2 rev/in", Kind::lead) == Approx(12.7e-3));
  CHECK(si("4", Kind::lead, "tpi") == Approx(6.35e-3));
  CHECK(si("0.5 g", Kind::acceleration) == Approx(0.5 * 9.80665));
  const double thousand = 1000.0 * constants::tau / 60.0;
  for (const char* text :
       {"1000 1/min", "1000/min", "1000 min^-1", "1000 min⁻¹", "1000 min-1", "1000 r/min", "2*500 1/min"})
    CHECK(si(text, Kind::angular_speed) == Approx(thousand));
  CHECK(si("10 rps", Kind::angular_speed) == Approx(10.0 * constants::tau));
  // each with its spread, in the same unit
  const auto spread = [](const char* text, Kind kind) { return parse_quantity(text, kind, "N.m"); };
  CHECK(spread("40 ± 2 oz-in", Kind::torque)->value == Approx(40.0 * 7.061552e-3).epsilon(1e-6));
  CHECK(spread("40 ± 2 oz-in", Kind::torque)->tolerance.half_width ==
        Approx(2.0 * 7.061552e-3).epsilon(1e-6));
  CHECK(spread("5 ± 1 kg.cm", Kind::torque)->value == Approx(5.0 * 0.0980665));
  CHECK(parse_quantity("-5 mm ±10 %", Kind::length)->tolerance.half_width == Approx(0.5e-3));
  CHECK(parse_quantity("5 tpi ±2 %", Kind::lead)->tolerance.half_width == Approx(0.02 * 5.08e-3));
}

TEST_CASE("units of the trade mean nothing where they are not plain") {
  CHECK(si("500 g", Kind::mass) == Approx(0.5));
  CHECK(si("3 oz", Kind::mass) == Approx(3 * 0.028349523125));
  CHECK_THAT(refusal("40 oz-in", Kind::mass), Contains("oz-in") || Contains("dimension"));
  CHECK_THAT(refusal("1000/s", Kind::angular_speed), Contains("unit")); // rad/s or rev/s: say which
  CHECK_THAT(refusal("50 Hz", Kind::angular_speed), Contains("unit"));
  CHECK_THAT(refusal("5 kg", Kind::acceleration), Contains("unit"));
  CHECK_THAT(refusal("5 ± 0.1 tpi", Kind::lead), Contains("thread"));
  CHECK_THAT(refusal("5 tpi ± 0.1 mm", Kind::lead), Contains("thread"));
  CHECK_THAT(refusal("5 tpi ± 0.1", Kind::lead), Contains("thread"));
  CHECK_THAT(refusal("0 tpi", Kind::lead), Contains("finite"));
  CHECK_THAT(refusal("5/in", Kind::length), Contains("unit"));
  // the message tells the column of what was typed
  CHECK_THAT(refusal("40 oz-inn", Kind::torque), Contains("column 7"));
}

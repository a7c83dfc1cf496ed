#include "core/form/field.hpp"
#include "core/form/section.hpp"
#include "core/motion/segments.hpp"
#include "core/quantity/parse.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <random>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

const FieldSpec mass_field = needed("mass", "Mass", "m", Kind::mass, range::positive, "5 kg", "");
const FieldSpec share_field = needed("share", "Share", "", Kind::share, range::not_negative, "1 %", "");
const FieldSpec torque_field = needed("torque", "Torque", "T", Kind::torque, range::any, "1 N.m", "");
const FieldSpec warmth_field = needed("warmth", "Warmth", "", Kind::temperature, range::any, "20 degC", "");
const FieldSpec number_field = needed("number", "Number", "", Kind::number, range::any, "1", "");

/// Types `text` where `last` stood, as the window does.
Entry typed_over(const FieldSpec& spec, std::string_view last, std::string_view text) {
  return make_entry(spec, text, usual_unit(spec, make_entry(spec, last)));
}

/// What is kept means the same when a file brings it back: value, spread and the unit of the next number.
void check_kept(const FieldSpec& spec, const Entry& entry) {
  const Entry again = make_entry(spec, entry.text);
  INFO("'" << entry.text << "'");
  CHECK(again.text == entry.text);
  CHECK(again.faulty() == entry.faulty());
  if (entry.faulty() || entry.blank()) return;
  CHECK(again.value == entry.value);
  CHECK(again.tolerance.half_width == entry.tolerance.half_width);
  CHECK(usual_unit(spec, again) == usual_unit(spec, entry));
}

} // namespace

TEST_CASE("texts typed over others keep their meaning") {
  const Entry percent = typed_over(share_field, "1 %", "2 ±50%");
  CHECK(percent.value == Approx(0.02));
  CHECK(percent.tolerance.half_width == Approx(0.01));
  check_kept(share_field, percent);

  for (const char* text :
       {"6 ± 0.1 kg", "6 +- 0.1 kg", "6+/-0.1", "6\u2009±\u20090.1", "6\u00a0kg ± 100\u202fg"}) {
    const Entry entry = typed_over(mass_field, "5 kg", text);
    INFO(text);
    REQUIRE_FALSE(entry.faulty());
    CHECK(entry.value == Approx(6.0));
    CHECK(entry.tolerance.half_width == Approx(0.1));
    check_kept(mass_field, entry);
  }
  // the unit that was typed wins over the one that stood there
  CHECK(typed_over(mass_field, "500 g", "6 ± 0.1 kg").value == Approx(6.0));
  CHECK(typed_over(mass_field, "500 g", "600 ± 10").value == Approx(0.6));
  CHECK(typed_over(mass_field, "3 kg + 2 kg", "7").value == Approx(7.0));
  CHECK(typed_over(mass_field, "(3 + 2) lb", "7").value == Approx(7.0 * 0.45359237));
  CHECK(typed_over(mass_field, "5 kg", "2*(3+1)").value == Approx(8.0));
  CHECK(typed_over(mass_field, "5 kg", "(2)+(3)").value == Approx(5.0));
  CHECK(typed_over(warmth_field, "20 degC", "-5 ± 3").value == Approx(268.15));
  CHECK(typed_over(warmth_field, "68 degF", "50").value == Approx(283.15));
}

TEST_CASE("a spread is there, one, and not negative") {
  for (const char* text :
       {"6 kg ±", "6 kg +- ", "6 kg ± 1 ± 2", "6 +- 1 ± 2 kg", "6 kg ± -1", "6 kg ± 1e308*10"}) {
    INFO(text);
    const auto read = parse_quantity(text, Kind::mass);
    REQUIRE_FALSE(read);
    CHECK(read.problem().where == "tolerance");
    CHECK_FALSE(read.problem().remedy.empty());
  }
}

TEST_CASE("powers of units stay where they are") {
  std::string power = "5 kg";
  for (int i = 0; i < 256; ++i) power += "*1 m";
  CHECK_FALSE(parse_quantity(power, Kind::mass));
  CHECK_FALSE(parse_quantity("5 kg*m^9*m^9*m^9*m^9*m^9*m^9", Kind::mass));
  CHECK_FALSE(parse_quantity("5 m^-2147483648", Kind::length));
  CHECK_FALSE(parse_quantity("5 m^2147483647", Kind::length));
  CHECK(parse_quantity("5 m^3/m^2", Kind::length)->value == Approx(5.0));
}

TEST_CASE("columns count characters, spaces of any kind are one") {
  CHECK_THAT(parse_quantity("µm·µm,5", Kind::length).problem().where, Contains("column 6"));
  CHECK_THAT(parse_quantity("5\u00a0\u2009 furlong", Kind::length).problem().where, Contains("column 5"));
}

TEST_CASE("long texts are answered at once, in a short message") {
  std::string spaces;
  for (int i = 0; i < 149000; ++i) spaces += "\u00a0";
  CHECK(parse_quantity("5" + spaces + "kg", Kind::mass)->value == Approx(5.0));
  CHECK(parse_quantity(std::string(1000000, 'x'), Kind::mass).problem().text().size() < 300);
  CHECK(parse_quantity("5 kg " + std::string(1000000, '5'), Kind::mass).problem().text().size() < 300);
  CHECK_FALSE(parse_quantity(std::string(100000, '('), Kind::mass));
  CHECK_FALSE(parse_quantity(std::string(100000, '-'), Kind::mass));
}

TEST_CASE("any text a field accepts means the same when it is read again") {
  std::mt19937 engine(88);
  const std::string pieces[] = {"1",  "2.5",    "3",      "0.1", "e2",  "-",   "+",  "*",  "/",  "(",
                                ")",  "kg",     "g",      "lb",  "mm",  "N.m", ".",  "°C", "K",  "²",
                                "±",  "+-",     "+/-",    "%",   " ",   "π",   "^2", "µ",  "mN", "·",
                                "\n", "\u2009", "\u00a0", "t",   "rev", "−",   "5 ", "7",  "kg", "±",
                                " %", "9",      "ozf",    ".in", "Ncm", "1/",  "2",  "±5%"};
  const FieldSpec* specs[] = {&mass_field, &share_field, &torque_field, &warmth_field, &number_field};
  const char* last[] = {"5 kg",    "500 g", "1 %",         "0.5", "1 N.m", "2 ozf.in",
                        "20 degC", "68 °F", "3 kg + 2 kg", "",    "300 K"};
  int accepted = 0;
  for (int i = 0; i < rounds(200000); ++i) {
    const FieldSpec& spec = *specs[engine() % std::size(specs)];
    std::string text;
    for (int k = 1 + static_cast<int>(engine() % 7); k > 0; --k) text += pieces[engine() % std::size(pieces)];
    const Entry entry = typed_over(spec, last[engine() % std::size(last)], text);
    if (entry.faulty() || entry.blank()) continue;
    ++accepted;
    const Entry again = make_entry(spec, entry.text);
    const bool same = !again.faulty() && again.text == entry.text && again.value == entry.value &&
                      again.tolerance == entry.tolerance &&
                      usual_unit(spec, again) == usual_unit(spec, entry);
    if (!same) FAIL_CHECK("'" << text << "' kept as '" << entry.text << "' in " << spec.id);
  }
  CHECK(accepted > rounds(5000));
}

TEST_CASE("counted things are whole") {
  Axis axis = demo().axes[0];
  add_segment(axis, "repeat", {{"count", "1.5"}});
  const auto found = faults(axis);
  REQUIRE(found.size() == 1);
  CHECK_THAT(found.front().text(), Contains("whole number") && Contains("10000"));
}

TEST_CASE("groups are nested twenty deep and no deeper, however many a file holds") {
  const auto nested = [](int deep) {
    Axis axis = demo().axes[0];
    const auto many = static_cast<std::size_t>(deep);
    Section once(*find_segment_spec("repeat", motion_of(axis)));
    once.type("count", "1");
    axis.cycle.insert(axis.cycle.begin(), many, once);
    axis.cycle.insert(axis.cycle.end(), many, Section(*find_segment_spec("end", motion_of(axis))));
    number_sections(axis);
    return axis;
  };
  CHECK(evaluate(nested(20), house_rules()));
  for (const int deep : {21, 12300}) {
    const auto refused = evaluate(nested(deep), house_rules());
    REQUIRE_FALSE(refused);
    CHECK_THAT(refused.problem().text(), Contains("nested too deeply"));
  }
}

#include "core/drive/formulas.hpp"
#include "core/drive/stepper_drive.hpp"
#include "core/library/house_rule_sets.hpp"
#include "core/motor/brushed.hpp"
#include "core/motor/constants.hpp"
#include "core/motor/servo.hpp"
#include "core/motor/six_step.hpp"
#include "core/motor/stepper.hpp"
#include "core/quantity/constants.hpp"
#include "core/support/csv.hpp"
#include "core/support/text_file.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {
std::string refusal(const std::string& text) {
  const PartsRead read = read_parts(text, servo_motor_section(), "motors.csv");
  REQUIRE_FALSE(read.problems.empty());
  CHECK_FALSE(read.problems.front().remedy.empty());
  return read.problems.front().text();
}
} // namespace

TEST_CASE("CSV: quotes, line ends, comments, byte order mark") {
  const auto rows = read_csv("\xEF\xBB\xBF# comment\r\na,\"b,\"\"c\"\"\"\r\n\r\n1,\n");
  REQUIRE(rows);
  REQUIRE(rows->size() == 2);
  CHECK((*rows)[0][1].text == "b,\"c\"");
  CHECK((*rows)[0][0].line == 2);
  CHECK((*rows)[1][1].text.empty());
  CHECK((*rows)[1][0].line == 4);
  CHECK_THAT(read_csv("a,\"b\nc").problem().text(), Contains("line 1") && Contains("closed"));
  CHECK_THAT(read_csv("a\n\"b\"c").problem().text(), Contains("line 2"));
  CHECK(csv_cell("a,\"b\"") == "\"a,\"\"b\"\"\"");
}

TEST_CASE("a library that is wrong is refused with file, line and column") {
  CHECK_THAT(refusal(""), Contains("motors.csv") && Contains("empty"));
  CHECK_THAT(refusal("maker,frame [mm]\nX,40\n"), Contains("part_number") && Contains("missing"));
  CHECK_THAT(refusal("part_number,maker,flavour\nA,X,1\n"), Contains("line 1") && Contains("flavour"));
  CHECK_THAT(refusal("part_number,maker,frame [kg]\nA,X,1\n"), Contains("frame [kg]"));
  CHECK_THAT(refusal("part_number,maker,frame [mm\nA,X,1\n"), Contains("bracket"));
  CHECK_THAT(refusal("part_number,maker,maker\nA,X,1\n"), Contains("twice"));
  CHECK_THAT(refusal("part_number,maker,frame [mm]\nA,X,40\nA,X,60\n"),
             Contains("line 3") && Contains("line 2"));
  CHECK_THAT(refusal("part_number,maker,frame [mm]\nA,X,4o\n"), Contains("line 2") && Contains("frame"));
  CHECK_THAT(refusal("part_number,maker,frame [mm]\nA,X,-40\n"), Contains("greater than 0"));
  CHECK_THAT(refusal("part_number,maker,frame [mm]\nA,X\n"), Contains("2 cells") && Contains("3"));
  CHECK_THAT(refusal("part_number,maker,frame [mm]\n,X,40\n"), Contains("part number is missing"));
  CHECK_THAT(refusal("part_number,maker,peak_curve\nA,X,0 rpm: 1 N.m; 0 rpm: 2 N.m\n"), Contains("rising"));
}

TEST_CASE("cells that say the same mean the same in their own column, and are wrong in each line") {
  const PartsRead read = read_parts("part_number,maker,frame [mm],length [cm],price\n"
                                    "A,X,40,40,1o\nB,X,40,40,7\nC,X,4o,40,7\nD,X,4o,40,1o\n",
                                    servo_motor_section(), "motors.csv");
  REQUIRE(read.parts.size() == 2);
  for (const Section& part : read.parts) {
    CHECK(part.term("frame") == Approx(0.04));
    CHECK(part.term("length") == Approx(0.4));
  }
  CHECK(read.parts[0].blank("price"));
  CHECK(read.parts[1].term("price") == 7.0);
  std::string all;
  for (const Problem& problem : read.problems) all += problem.text() + "\n";
  CHECK_THAT(all, Contains("line 2, column \"price\"") && Contains("line 4, column \"frame\"") &&
                      Contains("line 5, column \"frame\""));
  CHECK(read.problems.size() == 3); // a line is named by what is wrong first
}

TEST_CASE("what is written is read back the same") {
  const Parts motors = parts_of_form("motor", servo_motor_section());
  const std::string text = write_parts(
      motors, {"part_number", "maker", "frame [mm]", "inertia [kg.cm2]", "peak_curve", "kt_per"}, "note");
  const PartsRead read = read_parts(text, servo_motor_section(), "motors.csv");
  REQUIRE(read.problems.empty());
  const Parts& back = read.parts;
  REQUIRE(back.size() == motors.size());
  for (std::size_t i = 0; i < motors.size(); ++i) {
    CHECK(back[i].term("inertia") == Approx(motors[i].term("inertia")).epsilon(1e-12));
    CHECK(back[i].entry("peak_curve").curve == motors[i].entry("peak_curve").curve);
  }
}

TEST_CASE("the shipped library is as large as promised") {
  CHECK(parts_of_form("motor", servo_motor_section()).size() >= 40);
  CHECK(library().of("gearhead").size() >= 20);
  CHECK(library().of("drive").size() >= 20);
  CHECK(library().of("coupling").size() >= 12);
  CHECK(library().of("surroundings").size() >= 12);
  CHECK(parts_of_form("motor", stepper_motor_section()).size() >= 30);
  CHECK(parts_of_form("motor", five_phase_section()).size() >= 5);
  CHECK(parts_of_form("motor", six_step_motor_section()).size() >= 15);
  CHECK(parts_of_form("motor", brushed_motor_section()).size() >= 10);
  CHECK(parts_of_form("motor", closed_stepper_section()).size() >= 10);
  CHECK(parts_of_form("drive", bipolar_drive_section()).size() +
            parts_of_form("drive", unipolar_drive_section()).size() +
            parts_of_form("drive", five_phase_drive_section()).size() >=
        15);
  std::set<double> frames;
  for (const Section& motor : parts_of_form("motor", servo_motor_section()))
    frames.insert(motor.term("frame"));
  CHECK(frames.size() == 5);
  for (const SlotSpec* slot : part_slots())
    for (const Section& part : library().of(slot->id)) {
      CHECK_THAT(part.text("maker"), Contains("invented"));
      CHECK(part.term("price") > 0.0);
    }
}

TEST_CASE("a supply is chosen without touching the air around the motor") {
  Axis axis = plain_axis();
  axis["surroundings"].type("ambient", "33 °C");
  axis["surroundings"].type("altitude", "1500 m");
  choose_part(axis, "surroundings", *library().find("surroundings", "PW48-100"));
  CHECK(axis["surroundings"].text("ambient") == "33 °C");
  CHECK(axis["surroundings"].term("altitude") == 1500.0);
  CHECK(axis["surroundings"].term("bus") == 48.0);
  CHECK(axis["surroundings"].term("supply_current") == 10.0);
  choose_part(axis, "surroundings", *library().find("surroundings", "PW24-025"));
  CHECK(axis["surroundings"].term("bus") == 24.0);
  CHECK(axis["surroundings"].text("ambient") == "33 °C");
}

TEST_CASE("every motor is consistent with itself") {
  for (const Section& part : parts_of_form("motor", servo_motor_section())) {
    INFO(part.text("part_number"));
    Recorder silent(false);
    const ServoMotor motor = ServoMotor::from(part, silent);
    REQUIRE(motor.has_circuit());
    // Kt and Ke
    CHECK(motor.kt_given == Approx(kt_from_ke(motor.ke_given)).epsilon(0.005));
    // continuous curve against the heat path, at every point of the curve
    for (const CurvePoint& point : motor.continuous) {
      const double model = continuous_torque(
          motor.kt, motor.resistance, part.term("winding_limit"), part.term("catalogue_ambient"),
          part.term("r_winding_case"), part.term("r_case_ambient"), motor.hysteresis, motor.eddy, point[0]);
      CHECK(point[1] == Approx(model).epsilon(0.03));
    }
    // standstill peak against current, with at most 10 % saturation
    CHECK(motor.peak.front()[1] <= motor.kt * motor.peak_current * 1.001);
    CHECK(motor.peak.front()[1] >= motor.kt * motor.peak_current * 0.9);
    // peak curve against the voltage-limited model on the catalogue's bus
    const std::string number = part.text("part_number");
    const double bus = std::stod(number.substr(number.rfind('-') + 1, 3));
    for (const CurvePoint& point : motor.peak) {
      const SineMachine machine{motor.k, motor.resistance / 2, motor.inductance / 2, motor.pole_pairs};
      const double i_q = best_current(machine, point[0], voltage_limit(bus, 0.95),
                                      std::sqrt(2.0) * motor.peak_current, false)
                             .q;
      // above the rated current straight to the maker's peak point: it saturates
      const double rms = i_q / std::sqrt(2.0), rated = motor.kt * motor.rated_current;
      const double most = motor.peak.front()[1] + motor.drag(0.0);
      const double air_gap = rms <= motor.rated_current
                                 ? motor.kt * rms
                                 : rated + (rms - motor.rated_current) * (most - rated) /
                                               (motor.peak_current - motor.rated_current);
      CHECK(point[1] == Approx(air_gap - motor.drag(point[0])).epsilon(0.05));
    }
    // rated power between 50 W and 5 kW, plausible thermal data
    const double rated_speed = motor.continuous[2][0];
    const double power = motor.continuous[2][1] * rated_speed;
    CHECK(power > 45.0);
    CHECK(power < 5200.0);
    CHECK(copper_loss(motor.rated_current, warm_resistance(motor.resistance, part.term("winding_limit"))) <
          0.8 * power);
    CHECK(part.term("winding_time") < part.term("case_time"));
    CHECK(motor.max_speed == Approx(motor.peak.back()[0]));
    CHECK(part.term("brake_torque") >= 1.0 * motor.continuous[2][1]);
  }
}

TEST_CASE("gearheads, drives and couplings keep the order of their ratings") {
  for (const Section& gear : library().of("gearhead")) {
    INFO(gear.text("part_number"));
    CHECK(gear.term("nominal_torque") < gear.term("peak_torque"));
    CHECK(gear.term("peak_torque") < gear.term("emergency_torque"));
    CHECK(gear.term("mean_speed") < gear.term("max_speed"));
  }
  for (const Section& drive : library().of("drive")) {
    INFO(drive.text("part_number"));
    if (drive.has("continuous_current")) CHECK(drive.term("continuous_current") < drive.term("peak_current"));
    CHECK(drive.term("bus_min") < drive.term("bus_max"));
    CHECK(drive.term("bus_max") < drive.term("overvoltage"));
  }
  for (const Section& coupling : library().of("coupling"))
    CHECK(coupling.term("bore_min") < coupling.term("bore_max"));
}

TEST_CASE("every column is described in docs/libraries.md") {
  const auto described = read_text_file(source_folder() / "docs" / "libraries.md", 1U << 20U);
  REQUIRE(described);
  for (const SlotSpec* slot : part_slots()) {
    const SlotKind kind = slot->kinds().front();
    const std::size_t start = described->find("## " + std::string(kind.library));
    REQUIRE(start != std::string::npos);
    const auto from = [&](std::size_t at) {
      return described->substr(at, described->find("\n## ", at + 3) - at);
    };
    const std::string chapter = from(described->find("## Every library")) + from(start);
    for (const FieldSpec& field : kind.form->fields) {
      INFO(kind.library << ": " << field.id);
      CHECK_THAT(chapter, Contains(std::string(field.id)));
    }
  }
}

TEST_CASE("three sets of house rules are shipped, each with its reason") {
  const auto sets = load_house_rules(source_folder() / "data" / "house-rules");
  REQUIRE(sets);
  REQUIRE(sets->size() >= 3);
  for (const Section& rules : *sets) {
    CHECK(faults(rules).empty());
    CHECK(rules.text("reason").size() > 20);
  }
}

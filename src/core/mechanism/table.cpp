#include "core/mechanism/linear_drive.hpp"
#include "core/mechanism/mechanisms.hpp"
#include "core/mechanism/rotary_load.hpp"
#include "core/quantity/constants.hpp"

#include <cmath>

namespace fulmox {
namespace {

/// A table or index disc about a vertical axis, seen from above.
class Table final : public Turning {
public:
  Table(Parts parts, const Section& table, Recorder& recorder)
      : Turning(std::move(parts), recorder), diameter_(table.term("diameter")),
        stations_(static_cast<int>(std::lround(table.term_or("stations", 0.0)))) {}

  Drawing draw(const Pose& pose) const override {
    Drawing d;
    const double r = 0.5 * diameter_;
    d.circle(Ink::frame, {0.0, 0.0}, r);
    for (int k = 0; k < std::min(stations_, 72); ++k) {
      const double at = constants::tau * k / stations_;
      d.line(Ink::hint, {0.86 * r * std::cos(at), 0.86 * r * std::sin(at)},
             {r * std::cos(at), r * std::sin(at)});
    }
    const Drawing load = draw_pieces(parts().load.pieces, pose.position);
    d.shapes.insert(d.shapes.end(), load.shapes.begin(), load.shapes.end());
    d.line(Ink::load, {0.0, 0.0}, {r * std::cos(pose.position), r * std::sin(pose.position)});
    if (!std::isnan(parts().load.payload_radius))
      d.circle(Ink::load,
               {parts().load.payload_radius * std::cos(pose.position),
                parts().load.payload_radius * std::sin(pose.position)},
               0.06 * r);
    draw_motor_end(d, pose, {0.0, 0.0});
    d.measure({-r, 0.0}, {r, 0.0}, -1.15 * r, "mechanism.diameter", diameter_);
    return d;
  }

private:
  double diameter_;
  int stations_;
};

Expected<std::unique_ptr<Mechanism>> build(const MechanismInput& input, Recorder& recorder) {
  auto load = RotaryLoad::from(input, recorder);
  if (!load) return load.problem();
  Turning::Parts parts;
  parts.load = std::move(*load);
  return made<Table>(std::move(parts), input.mechanism, recorder);
}

} // namespace

const MechanismSpec& table_mechanism() {
  static const MechanismSpec spec{
      {"table",
       "Rotary table",
       {needed("diameter", "Diameter", "D", Kind::length, range::positive, "400 mm", "For the picture only."),
        optional("stations", "Stations", "n", Kind::number, range::whole(1.0, 1000.0),
                 "Of an index disc; for the picture only."),
        journal_field()}},
      &rotary_load_section,
      about_an_axis,
      true,
      &build,
      "A table or index disc about a vertical axis."};
  return spec;
}

} // namespace fulmox

#include "core/evaluation/book.hpp"

#include "core/evaluation/capability.hpp"

#include "core/bus/formulas.hpp"
#include "core/bus/limit_formulas.hpp"
#include "core/demand/accuracy.hpp"
#include "core/demand/compliance.hpp"
#include "core/demand/demand.hpp"
#include "core/demand/resting.hpp"
#include "core/demand/train.hpp"
#include "core/drive/formulas.hpp"
#include "core/gearhead/gearhead.hpp"
#include "core/heat/formulas.hpp"
#include "core/limits/limit.hpp"
#include "core/load/piece.hpp"
#include "core/mechanism/crank.hpp"
#include "core/mechanism/linear_drive.hpp"
#include "core/mechanism/rotary_load.hpp"
#include "core/mechanism/screw_formulas.hpp"
#include "core/mechanism/spring_formulas.hpp"
#include "core/mechanism/wheel_pull.hpp"
#include "core/motion/formulas.hpp"
#include "core/motor/constants.hpp"
#include "core/motor/dc_formulas.hpp"
#include "core/motor/envelope.hpp"
#include "core/motor/interior_formulas.hpp"
#include "core/motor/six_step_formulas.hpp"
#include "core/motor/stepper_formulas.hpp"
#include "core/rotation/rotation.hpp"
#include "core/stage/stage.hpp"
#include "core/stops/formulas.hpp"

#include <vector>

namespace fulmox {

std::span<const Formula* const> formula_book() {
  static const auto all = [] {
    std::vector<const Formula*> list;
    for (const auto chapter :
         {motion_formulas(),     piece_formulas(),      linear_load_formulas(), screw_formulas(),
          wheel_formulas(),      conveyor_formulas(),   rotary_formulas(),      crank_formulas(),
          stage_formulas(),      rotation_formulas(),   gearhead_formulas(),    mounting_formulas(),
          demand_formulas(),     train_formulas(),      resting_formulas(),     motor_constant_formulas(),
          envelope_formulas(),   interior_formulas(),   heat_formulas(),        spring_formulas(),
          compliance_formulas(), accuracy_formulas(),   stop_formulas(),        pull_formulas(),
          dc_formulas(),         block_formulas(),      stepper_formulas(),     drive_formulas(),
          limit_formulas(),      capability_formulas(), bus_formulas(),         bus_limit_formulas()})
      list.insert(list.end(), chapter.begin(), chapter.end());
    return list;
  }();
  return all;
}

const Formula* find_formula(std::string_view id) {
  for (const Formula* formula : formula_book())
    if (formula->id == id) return formula;
  return nullptr;
}

} // namespace fulmox

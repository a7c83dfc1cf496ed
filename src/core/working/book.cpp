#include "core/working/book.hpp"

#include "core/demand/demand.hpp"
#include "core/drive/drive.hpp"
#include "core/gearhead/gearhead.hpp"
#include "core/limits/limit.hpp"
#include "core/mechanism/linear_load.hpp"
#include "core/mechanism/rotation.hpp"
#include "core/mechanism/screw.hpp"
#include "core/motion/trapezoid.hpp"
#include "core/motor/constants.hpp"
#include "core/motor/envelope.hpp"

#include <vector>

namespace fulmox {

std::span<const Formula* const> formula_book() {
  static const auto all = [] {
    std::vector<const Formula*> list;
    for (const auto chapter :
         {motion_formulas(), linear_load_formulas(), screw_formulas(), rotation_formulas(),
          gearhead_formulas(), demand_formulas(), motor_constant_formulas(), envelope_formulas(),
          drive_formulas(), limit_formulas()})
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

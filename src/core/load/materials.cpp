#include "core/load/materials.hpp"

#include <array>

namespace fulmox {

std::span<const Material> materials() {
  static constexpr std::array list{Material{"steel", "Steel, 7850 kg/m³", 7850.0},
                                   Material{"stainless", "Stainless steel, 7900 kg/m³", 7900.0},
                                   Material{"cast_iron", "Cast iron, 7200 kg/m³", 7200.0},
                                   Material{"aluminium", "Aluminium, 2700 kg/m³", 2700.0},
                                   Material{"titanium", "Titanium, 4500 kg/m³", 4500.0},
                                   Material{"brass", "Brass, 8500 kg/m³", 8500.0},
                                   Material{"bronze", "Bronze, 8800 kg/m³", 8800.0},
                                   Material{"magnesium", "Magnesium, 1800 kg/m³", 1800.0},
                                   Material{"carbon_fibre", "Carbon-fibre laminate, 1600 kg/m³", 1600.0},
                                   Material{"glass", "Glass, 2500 kg/m³", 2500.0},
                                   Material{"pom", "POM, 1410 kg/m³", 1410.0},
                                   Material{"polyamide", "Polyamide 6, 1140 kg/m³", 1140.0},
                                   Material{"polyethylene", "Polyethylene, 950 kg/m³", 950.0},
                                   Material{"acrylic", "Acrylic glass, 1190 kg/m³", 1190.0},
                                   Material{"rubber", "Rubber, 1200 kg/m³", 1200.0},
                                   Material{"wood", "Hardwood, 700 kg/m³", 700.0},
                                   Material{"water", "Water, 1000 kg/m³", 1000.0}};
  return list;
}

double density_of(std::string_view id) {
  for (const Material& material : materials())
    if (material.id == id) return material.density;
  return std::numeric_limits<double>::quiet_NaN();
}

FieldSpec material_field() {
  std::vector<Choice> choices;
  for (const Material& material : materials()) choices.push_back({material.id, material.label});
  return one_of("material", "Material", std::move(choices), "Gives the density unless one is typed below.");
}

} // namespace fulmox

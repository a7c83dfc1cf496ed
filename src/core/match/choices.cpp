#include "core/match/choices.hpp"

#include "core/form/slot.hpp"
#include "core/support/in_parts.hpp"

#include <algorithm>
#include <array>
#include <span>
#include <tuple>

namespace fulmox {
namespace {

double number_in(const Section& section, std::string_view field) { return section.term_if(field); }

std::string text_in(const Section& section, std::string_view field) {
  return section.has(field) ? section.text(field) : std::string();
}

PartChoice choice_of(Section section) {
  PartChoice choice{std::move(section), "", "", ""};
  choice.maker = text_in(choice.section, "maker");
  choice.number = text_in(choice.section, "part_number");
  choice.price = number_in(choice.section, "price");
  choice.mass = number_in(choice.section, "mass");
  choice.length = number_in(choice.section, "length");
  choice.lead_time = number_in(choice.section, "lead_time");
  choice.stock = number_in(choice.section, "stock");
  return choice;
}

/// What is set for the motor that is fitted now says nothing about another one.
void leave_open(Section& section) {
  constexpr std::array<std::string_view, 2> currents{"current_setting", "current_limit"};
  for (const std::string_view field : currents)
    if (section.has(field)) section.type(field, "");
}

/// The ways in which a stepper with these leads can be connected; the motor refuses the others itself. Which
/// drive takes which of them is a limit like any other.
std::vector<std::string_view> connections(const Section& motor) {
  const std::string& leads = motor.text("leads");
  if (leads == "4") return {"series"};
  if (leads == "5") return {"unipolar"};
  if (leads == "6") return {"series", "half", "unipolar"};
  return {"series", "parallel", "half", "unipolar"};
}

/// A part in each way in which it can be used.
void add_ways(std::vector<PartChoice>& all, PartChoice choice) {
  if (!choice.section.has("connection") || !choice.section.has("leads")) {
    all.push_back(std::move(choice));
    return;
  }
  const FieldSpec& field = choice.section.spec().fields[*choice.section.spec().index_of("connection")];
  for (const std::string_view way : connections(choice.section)) {
    PartChoice one = choice;
    one.section.type("connection", way);
    const auto told = std::find_if(field.choices.begin(), field.choices.end(),
                                   [&](const Choice& c) { return c.id == way; });
    one.setting = told != field.choices.end() ? told->label : way;
    all.push_back(std::move(one));
  }
}

/// Whether an axis may do without a part there.
bool may_be_empty(std::string_view slot) { return slot == "gearhead"; }

} // namespace

std::string PartChoice::name() const { return setting.empty() ? number : number + ", " + setting; }

std::vector<PartChoice> choices_for(const Axis& axis, std::string_view slot, const Parts& parts,
                                    unsigned threads) {
  constexpr std::size_t worth_a_thread = 500; // parts
  const auto read = [&](std::size_t from, std::size_t to) {
    std::vector<PartChoice> some;
    Axis with = axis;
    for (const Section& part : std::span(parts).subspan(from, to - from)) {
      with[slot] = axis[slot];
      choose_part(with, slot, part);
      Section section = with[slot];
      leave_open(section);
      add_ways(some, choice_of(std::move(section)));
    }
    return some;
  };
  std::vector<PartChoice> all = in_parts(parts.size(), threads, worth_a_thread, read);
  if (may_be_empty(slot)) {
    Section blank(*find_slot(slot)->kinds().front().form);
    blank.path = slot;
    all.insert(all.begin(), choice_of(std::move(blank)));
  }
  std::stable_sort(all.begin(), all.end(), [](const PartChoice& a, const PartChoice& b) {
    return std::tie(a.maker, a.number, a.setting) < std::tie(b.maker, b.number, b.setting);
  });
  return all;
}

Section kept_settings(const Section& section) {
  Section kept(section.spec());
  kept.path = section.path;
  for (std::size_t i = 0; i < section.size(); ++i)
    if (section.field(i).setting) kept.put(i, section.entry(i));
  leave_open(kept);
  return kept;
}

PartChoice choice_now(const Axis& axis, std::string_view slot) { return choice_of(axis[slot]); }

} // namespace fulmox

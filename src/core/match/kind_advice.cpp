// The recommendation in words: what rules a kind out, what speaks for and against it, what is in doubt.

#include "core/brake/brake.hpp"
#include "core/evaluation/corners.hpp"
#include "core/match/kind_turns.hpp"
#include "core/quantity/format.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

using Side = KindReason::Side;

/// What an adviser looks at.
struct Case {
  const Duty& duty;
  UnitSet units;
  double attention;
};

/// What rules a kind out, whatever else it can do: its sentence; "" where nothing does.
std::string excluded(const KindCandidate& c, const Duty& duty) {
  if (!c.judged) return "Not judged: " + c.problem.what;
  if (!c.fits) {
    const std::string_view limit = c.over.empty() ? c.trial.worst.text() : c.over.front().label;
    return std::isfinite(c.trial.used) ? "Nothing of it fits: the nearest, " + c.parts() + ", uses " +
                                             std::string(limit) + " to " + whole_percent(c.trial.used) + "."
                                       : "Nothing of it fits: " + std::string(limit) + ".";
  }
  if (c.kind->traits == nullptr) return "";
  for (std::size_t i = 0; i < place_count; ++i)
    if (duty.is_there[i] && c.kind->traits->place[i].bears == Bears::no)
      return std::string(word_of(static_cast<Place>(i))) + ": " +
             std::string(c.kind->traits->place[i].reason) + ".";
  return "";
}

/// A doubt about a kind, or what speaks against it, by itself; "" where it does not apply.
struct Rule {
  std::string_view id;
  Side side;
  std::string (*say)(const KindCandidate& c, const Case& in);
};

std::string tight(const KindCandidate& c, const Case& in) {
  if (c.trial.used <= in.attention) return "";
  return "Only " + whole_percent(1.0 / c.trial.used - 1.0) + " are left at " + std::string(c.trial.worst) +
         ".";
}

std::string falls(const KindCandidate& c, const Case&) {
  const bool detent = c.evaluation->model->motor->keeps_current();
  const double pull = std::abs(c.evaluation->demand.holding.free);
  const Brake& brake = c.evaluation->model->brake;
  if (pull == 0.0 || (brake.fitted && !std::isnan(brake.torque))) return "";
  if (brake.fitted) return "Whether a brake holds the load without power is not known: its sheet tells none.";
  return detent && c.axis["motor"].term_if("detent") > pull
             ? "Its detent alone holds the load without power: no protection for people."
             : "Without power nothing holds the load: plan a brake.";
}

/// Every axis here goes to positions.
std::string blind(const KindCandidate& c, const Case&) {
  return c.evaluation->find("accuracy.resolution") == nullptr
             ? "Its sheet tells no encoder: positions need one, whose price is not in the sum."
             : "";
}

std::string silent(const KindCandidate& c, const Case&) {
  return c.kind->traits != nullptr && c.kind->traits->loses_steps
             ? "Where it loses steps nobody is told: home it often, or choose one with an encoder."
             : "";
}

std::string wears(const KindCandidate& c, const Case& in) {
  if (c.kind->traits == nullptr || !c.kind->traits->has_brushes) return "";
  const auto hours = life_of(c);
  const double wanted = in.duty.hours * in.duty.years;
  if (!(wanted > hours[0])) return "";
  return "Brushes last some " + std::to_string(std::lround(hours[0])) + " to " +
         std::to_string(std::lround(hours[1])) + " h, the machine is to run " +
         std::to_string(std::lround(wanted)) + " h: they are changed on the way.";
}

std::string hard_to_tune(const KindCandidate& c, const Case&) {
  constexpr double above = 5.0; // inertia ratio; common practice
  const double ratio = c.evaluation->demand.inertia_ratio;
  if (c.kind->traits == nullptr || c.kind->traits->loses_steps || !(ratio > above)) return "";
  return "The load outweighs the rotor " + std::to_string(std::lround(ratio)) + " times: expect to tune it.";
}

std::string unpriced(const KindCandidate& c, const Case&) {
  if (!std::isnan(price_of_all(c))) return "";
  if (std::isnan(own_brake_price(c.axis["brake"], c.axis["motor"])))
    return "The motor's sheet tells no price of its brake: what it costs is not known.";
  return "A part has no price: what it costs is not known.";
}

std::string only_with(const KindCandidate& c, const Case& in) {
  std::string text;
  if (c.kind->traits == nullptr) return text;
  for (std::size_t i = 0; i < place_count; ++i)
    if (const PlaceWord& word = c.kind->traits->place[i];
        in.duty.is_there[i] && word.bears == Bears::only_with)
      text += (text.empty() ? "" : " ") + std::string(word_of(static_cast<Place>(i))) + ": only with " +
              std::string(word.reason) + ".";
  return text;
}

std::string unjudged(const KindCandidate& c, const Case&) {
  return c.trial.unjudged.empty()
             ? ""
             : std::string(c.trial.unjudged) + " could not be judged: a value is missing on its sheet.";
}

constexpr std::array rules{
    Rule{"tight", Side::doubt, &tight},           Rule{"unjudged", Side::doubt, &unjudged},
    Rule{"falls", Side::against, &falls},         Rule{"silent", Side::against, &silent},
    Rule{"blind", Side::against, &blind},         Rule{"wears", Side::against, &wears},
    Rule{"tuning", Side::against, &hard_to_tune}, Rule{"unpriced", Side::doubt, &unpriced},
    Rule{"only_with", Side::doubt, &only_with}};

/// Figures by which two kinds are told apart, where they lie further than a tenth from each other.
constexpr std::array<std::string_view, 9> compared_by{"hold",   "price",     "all_years",  "energy", "margin",
                                                      "torque", "rest_heat", "resolution", "wires"};

const KindFigureSpec& spec_of(std::string_view id) {
  return *std::find_if(kind_figures().begin(), kind_figures().end(),
                       [&](const KindFigureSpec& spec) { return spec.id == id; });
}

/// "Price: 412 against 655 of Servo motor" for each figure in which one kind does better than the other.
std::vector<std::string> better_in(const KindCandidate& one, const KindCandidate& other, const Case& in) {
  std::vector<std::string> all;
  for (const std::string_view id : compared_by) {
    const KindFigureSpec& spec = spec_of(id);
    const KindFigure a = spec.figure(one, in.duty, in.units), b = spec.figure(other, in.duty, in.units);
    constexpr double clearly = 1.1;
    const bool less = spec.better == KindFigureSpec::Better::less;
    const double low = less ? a.value : b.value, high = less ? b.value : a.value;
    if (std::isnan(low) || std::isnan(high) || !(high > clearly * low)) continue;
    all.push_back(std::string(spec.label) + ": " + a.text + " against " + b.text + " of " + other.name() +
                  ".");
  }
  return all;
}

/// What goes beyond a limit where the typed spreads make it worst; "" where nothing does.
std::string at_the_corners(const KindCandidate& c, const Section& house_rules, const KindsRun& run) {
  if (!has_spread(c.axis)) return "";
  const auto found = corners(c.axis, house_rules, run.wanted ? Wanted(run.wanted) : Wanted(always_wanted));
  if (!found) return "";
  for (const LimitCorner& corner : found->limits)
    if (corner.now != LimitState::over && corner.state == LimitState::over)
      return std::string(corner.label) + " goes to " + whole_percent(corner.worst) +
             " where the typed spreads make it worst";
  return "";
}

/// What is not known well and would make the second kind the one to take; gives the greatest of these doubts.
std::string doubt_order(KindsCompared& compared, const std::vector<std::size_t>& eligible,
                        const Section& house_rules, const KindsRun& run) {
  if (eligible.size() < 2) return "";
  auto turns = kind_turns(compared.kinds[eligible[0]], compared.kinds[eligible[1]], house_rules, run);
  // where they are as good as each other their order tells nothing
  if (compared.second) std::erase_if(turns, [](const KindTurn& turn) { return !turn.breaks; });
  constexpr std::size_t told = 3;
  for (std::size_t i = 0; i < std::min(told, turns.size()); ++i)
    compared.reasons.push_back({Side::doubt, eligible[0], turns[i].text});
  return turns.empty() ? "" : turns.front().text;
}

std::vector<School> schools_for(const KindsCompared& compared) {
  bool brushed = false, brushless = false, open = false, closed = false, servo = false;
  for (const KindCandidate& c : compared.kinds) {
    if (!c.judged || c.kind->traits == nullptr) continue;
    brushed = brushed || c.kind->traits->has_brushes;
    brushless = brushless || !c.kind->traits->has_brushes;
    open = open || c.kind->traits->loses_steps;
    closed = closed || c.kind->traits == &closed_stepper_traits();
    servo = servo || c.kind->traits == &servo_traits();
  }
  std::vector<School> all;
  if (brushed && brushless)
    all.push_back(
        {"Brushes or none",
         "Brushed: a simple drive, two wires, and for short duty the brushes outlast the machine.",
         "Brushless: bearings decide its life, no sparks and no dust, but drive and feedback cost more."});
  if (open && closed)
    all.push_back({"Open or closed loop",
                   "Open with a factor of 1.5 to 2 on the torque: cheap, nothing to tune.",
                   "Closed: it knows where it is, catches up, and tells when it cannot."});
  if (open && servo)
    all.push_back({"Stepper or servo", "Stepper below some 1000 rpm and with a steady load.",
                   "Servo as soon as energy, noise or overload matter."});
  if (servo)
    all.push_back({"Inertia ratio", "One to one, or up to 5: it answers fast and needs little tuning.",
                   "Up to 10 and beyond with a stiff coupling and a modern drive; the house rules decide."});
  return all;
}

/// The sentence at the end: which one, by what, and the doubts.
std::string in_words(const KindsCompared& compared, const std::vector<std::size_t>& eligible,
                     const Case& in) {
  const auto listed = [](const std::vector<std::string>& sentences) {
    std::string text; // the table has all
    for (std::size_t i = 0; i < std::min<std::size_t>(sentences.size(), 2); ++i) text += " " + sentences[i];
    return text;
  };
  if (eligible.empty()) {
    const KindCandidate* nearest = nullptr;
    for (const KindCandidate& c : compared.kinds)
      if (c.judged && !c.fits && (nearest == nullptr || c.trial.used < nearest->trial.used)) nearest = &c;
    if (nearest == nullptr) return "No kind can be recommended: see what rules each out.";
    return "No kind fits the axis as it stands. " + nearest->title +
           " comes nearest: " + std::string(nearest->trial.worst) +
           ". Ways out says what would have to change.";
  }
  const KindCandidate& first = compared.kinds[eligible.front()];
  if (eligible.size() == 1) return "Take " + first.name() + ": the only kind that fits and may stand there.";
  const KindCandidate& next = compared.kinds[eligible[1]];
  const auto for_first = better_in(first, next, in), for_next = better_in(next, first, in);
  if (compared.second)
    return "Take " + first.name() + " or " + next.name() + ": by your weights they lie within a tenth. For " +
           first.name() + ":" + (for_first.empty() ? " nothing by a tenth." : listed(for_first)) + " For " +
           next.name() + ":" + (for_next.empty() ? " nothing by a tenth." : listed(for_next));
  return "Take " + first.name() + " before " + next.name() + ", by your weights." + listed(for_first) +
         (for_next.empty() ? "" : " Against it:" + listed(for_next));
}

} // namespace

void advise(KindsCompared& compared, const Section& house_rules, const Duty& duty, const KindsRun& run) {
  const Case in{duty, run.units, house_rules.term("attention")};
  std::vector<std::size_t> eligible;
  for (std::size_t i = 0; i < compared.kinds.size(); ++i) {
    const KindCandidate& c = compared.kinds[i];
    if (std::string why = excluded(c, duty); !why.empty())
      compared.reasons.push_back({Side::excludes, i, std::move(why)});
    else
      eligible.push_back(i);
    if (!c.judged || !c.fits) continue;
    for (const Rule& rule : rules)
      if (std::string said = rule.say(c, in); !said.empty())
        compared.reasons.push_back({rule.side, i, std::move(said)});
  }
  std::stable_sort(eligible.begin(), eligible.end(), [&](std::size_t a, std::size_t b) {
    return compared.kinds[a].standing < compared.kinds[b].standing;
  });
  if (!eligible.empty()) compared.first = eligible.front();
  if (eligible.size() > 1) {
    const Standing &a = compared.kinds[eligible[0]].standing, &b = compared.kinds[eligible[1]].standing;
    constexpr double as_good = 1.1;
    if (a.missing == b.missing && b.sum <= as_good * a.sum) compared.second = eligible[1];
  }
  for (std::size_t place = 0; place < eligible.size(); ++place) {
    const std::size_t i = eligible[place], rival = place == 0 ? 1 : 0;
    if (rival >= eligible.size()) break;
    for (std::string& said : better_in(compared.kinds[i], compared.kinds[eligible[rival]], in))
      compared.reasons.push_back({Side::speaks_for, i, std::move(said)});
  }
  compared.advice = in_words(compared, eligible, in);
  std::string without_encoder;
  for (const auto& named : {compared.first, compared.second})
    if (named && !blind(compared.kinds[*named], in).empty())
      without_encoder += (without_encoder.empty() ? " of " : " and of ") + compared.kinds[*named].name();
  if (!without_encoder.empty())
    compared.advice +=
        " No encoder on the sheet" + without_encoder + ": positions need one, whose price is not in the sum.";
  std::string doubt;
  constexpr std::size_t looked_at = 2;
  for (std::size_t place = 0; place < std::min(looked_at, eligible.size()); ++place)
    if (const std::string worst = at_the_corners(compared.kinds[eligible[place]], house_rules, run);
        !worst.empty()) {
      compared.reasons.push_back({Side::doubt, eligible[place], worst + "."});
      if (place == 0) doubt = worst + ".";
    }
  // that another kind would hold says more than that this one does not
  if (std::string turn = doubt_order(compared, eligible, house_rules, run); !turn.empty())
    doubt = std::move(turn);
  if (!doubt.empty()) compared.advice += " In doubt: " + doubt;
  compared.schools = schools_for(compared);
}

} // namespace fulmox

#include "app/working/axis_working.hpp"

#include "app/session/session.hpp"

namespace fulmox::app {

const std::vector<Step>* AxisWorking::steps() const {
  const Evaluation* e = session_.evaluation();
  return e != nullptr ? &e->steps : nullptr;
}

std::string_view AxisWorking::step_behind(std::string_view result) const {
  const Evaluation* e = session_.evaluation();
  const Step* step = e != nullptr ? e->step_behind(result) : nullptr;
  return step != nullptr ? step->id : std::string_view{};
}

std::string AxisWorking::input_behind(const Step&, const Term& term) const {
  const bool known = !describe_path(session_.document(), session_.axis_index(), term.ref).empty();
  return known ? std::string(term.ref) : std::string();
}

QString AxisWorking::remark() const {
  if (session_.problem().what.empty()) return {};
  return "These are the last good results; the present input cannot be worked out.";
}

} // namespace fulmox::app

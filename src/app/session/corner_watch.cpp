#include "app/session/corner_watch.hpp"

#include "app/session/session.hpp"

#include <algorithm>

namespace fulmox::app {

CornerWatch::CornerWatch(Session& session) : session_(session) {
  constexpr int quiet = 40; // ms without an edit: until then the processor belongs to what is painted
  pause_.setSingleShot(true);
  pause_.setInterval(quiet);
  connect(&pause_, &QTimer::timeout, this, &CornerWatch::work_out);
  connect(&session, &Session::changed, this, [this](Changes what) {
    if (what & results_changed) renew();
  });
}

const LimitCorner* CornerWatch::worse(std::string_view limit) const {
  if (!corners_) return nullptr;
  const auto found = std::find_if(corners_->limits.begin(), corners_->limits.end(),
                                  [&](const LimitCorner& corner) { return corner.id == limit; });
  return found != corners_->limits.end() && !found->at.empty() ? &*found : nullptr;
}

void CornerWatch::renew() {
  session_.jobs().cancel("corners");
  pause_.stop();
  const Evaluation* e = session_.evaluation();
  const bool other = axis_ != session_.axis_index();
  axis_ = session_.axis_index();
  // what is tried is judged as typed: its corners follow once it is taken over
  if (corners_ && (other || e == nullptr || !session_.trial().isEmpty())) {
    corners_.reset();
    emit found();
  }
  if (e == nullptr || session_.stale() || !session_.trial().isEmpty()) return;
  if (!has_spread(session_.axis()))
    take(as_typed(e->limits));
  else if (corners_)
    pause_.start();
  else
    work_out();
}

void CornerWatch::look() {
  if (!pause_.isActive()) return;
  pause_.stop();
  work_out();
}

void CornerWatch::take(Corners corners) {
  corners_ = std::move(corners);
  emit found();
}

void CornerWatch::work_out() {
  session_.jobs().start("corners", [this, axis = session_.axis(),
                                    rules = session_.document().house_rules](const JobLink& link) {
    auto result = fulmox::corners(axis, rules, [&] { return link.wanted(); });
    if (result)
      link.deliver([this, result = std::move(*result)]() mutable { take(std::move(result)); });
    else // given up, or not to be worked out
      link.deliver([this] { take({}); });
  });
}

} // namespace fulmox::app

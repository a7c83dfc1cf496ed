#include "app/match/match_ways.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"

namespace fulmox::app {
namespace {

const QString ways_job = "match ways";

std::string_view id_of_limit(std::string_view label) {
  for (const LimitSpec* spec : limit_specs())
    if (spec->label == label) return spec->id;
  return {};
}

} // namespace

MatchWays::MatchWays(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("match_ways");
  setAccessibleName("What would have to change");
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 2, 0, 0);
  all->setSpacing(2);
  told_ = wrapped_label("match_ways_told", "soft");
  told_->setFont(face(-1));
  all->addWidget(told_);
  list_ = new WayList;
  list_->setMinimumHeight(90);
  all->addWidget(list_, 1);
  connect(list_, &WayList::taken, this, &MatchWays::taken);
}

void MatchWays::clear() {
  asked_.reset();
  session_.jobs().cancel(ways_job);
  list_->clear();
  told_->setText("Mark one to see what would have to change for it to fit.");
}

void MatchWays::look_at(const Axis& axis, std::string_view limit) {
  if (asked_ && *asked_ == axis) return;
  clear();
  asked_ = axis;
  const std::string_view id = id_of_limit(limit);
  if (id.empty()) return;
  told_->setText("Looking for what would have to change…");
  session_.jobs().start(ways_job, [this, axis, id,
                                   rules = session_.document().house_rules](const JobLink& link) {
    WayOptions options; // no parts: they are what is searched here
    options.wanted = [&] { return link.wanted(); };
    const auto found = std::make_shared<const Expected<WaysOut>>(ways_out(axis, rules, id, options));
    link.deliver([this, found] {
      if (!*found) return told_->setText(qt(found->problem().text()));
      const QString above = list_->show(**found);
      told_->setText(qt((*found)->label) + " " + share_used((*found)->used) + " with these parts. " + above);
    });
  });
}

} // namespace fulmox::app

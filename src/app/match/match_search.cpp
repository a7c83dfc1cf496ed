#include "app/match/match_search.hpp"

#include "app/session/session.hpp"

#include <sys/resource.h>
#include <thread>
#include <unistd.h>

namespace fulmox::app {
namespace {

const QString search_job = "match";
/// Of more the window settles those it shows.
constexpr std::size_t settled_at_once = 1000;

/// Gives way to the window: what is typed is seen at once although every core is at work.
void step_back() {
  constexpr int patience = 10;
  setpriority(PRIO_PROCESS, static_cast<id_t>(gettid()), patience);
}

} // namespace

std::vector<std::size_t> MatchAnswer::order(const Weights& weights, const Filter& filter) const {
  constexpr std::size_t rows = 60; // as many as a tall window shows
  return ranked(space, std::span<Trial>(result.fits), weights, filter, *settle, rows);
}

MatchSearch::MatchSearch(Session& session, QObject* parent) : QObject(parent), session_(session) {
  connect(&session.jobs(), &Jobs::progressed, this, [this](const QString& name) {
    if (name == search_job) emit progressed();
  });
  connect(&session.jobs(), &Jobs::finished, this, [this](const QString& name) {
    if (name == search_job) emit progressed();
  });
}

bool MatchSearch::running() const { return session_.jobs().running(search_job); }
double MatchSearch::progress() const { return session_.jobs().progress(search_job); }

void MatchSearch::stop() {
  if (!running()) return;
  session_.jobs().cancel(search_job);
  asked_.reset(); // half an answer belongs to nothing
  emit progressed();
}

void MatchSearch::also(AlsoSearched also, const Weights& weights) {
  also_ = also;
  asked_.reset();
  renew(weights);
}

/// What is fitted in the places that are searched does not matter to the answer.
Axis MatchSearch::asked_axis() const {
  Axis axis = session_.axis();
  const auto any = [&](std::string_view slot) { axis[slot] = kept_settings(axis[slot]); };
  for (const std::string_view slot : {"motor", "gearhead", "drive"}) any(slot);
  if (also_.brake) any("brake");
  if (also_.coupling) any("coupling");
  return axis;
}

void MatchSearch::renew(const Weights& weights) {
  if (!session_.has_axis()) return;
  const bool other = of_axis_ != session_.axis_index();
  of_axis_ = session_.axis_index();
  if (other) {
    answer_.reset(); // another axis: nothing of the one before may be put into it
    asked_.reset();
    emit found();
  }
  Axis asked = asked_axis();
  const Section& rules = session_.document().house_rules;
  if (asked_ && *asked_ == asked && asked_rules_ && *asked_rules_ == rules) return;
  asked_ = std::move(asked);
  asked_rules_ = rules;
  old_ = answer_ != nullptr;
  session_.jobs().start(search_job, [this, axis = session_.axis(), rules, library = session_.library(),
                                     also = also_, weights](const JobLink& link) {
    const auto space = std::make_shared<const MatchSpace>(match_space(axis, library, also));
    MatchRun run;
    run.threads = std::max(1U, std::thread::hardware_concurrency());
    run.wanted = [&] { return link.wanted(); };
    run.progress = [&](double share) { link.progress(share); };
    run.begins = step_back;
    run.settle = settled_at_once;
    const auto hand_over = [&](const MatchResult& result) {
      auto answer = std::make_shared<const MatchAnswer>(
          MatchAnswer{*space, result, std::make_shared<Settler>(axis, rules, *space)});
      // what is listed first is settled here: the window has nothing to work out
      (void)answer->order(weights, {});
      link.deliver([this, answer] { take(answer); });
    };
    run.first = [&](const MatchResult& result) { hand_over(result); };
    hand_over(search(axis, rules, *space, run));
  });
  emit progressed();
}

void MatchSearch::take(std::shared_ptr<const MatchAnswer> answer) {
  answer_ = std::move(answer);
  old_ = false;
  emit found();
}

} // namespace fulmox::app

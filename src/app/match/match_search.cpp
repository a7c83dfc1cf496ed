#include "app/match/match_search.hpp"

#include "app/session/session.hpp"
#include "core/match/try_again.hpp"

#include <chrono>
#include <thread>
#include <utility>

namespace fulmox::app {
namespace {

const QString search_job = "match";
/// Of more the window settles those it shows.
constexpr std::size_t settled_at_once = 1000;
/// The best of an answer that are tried again before everything is: no longer than a tenth of a second.
constexpr std::size_t tried_again = 400;

double seconds_since(std::chrono::steady_clock::time_point begin) {
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
}

} // namespace

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
  take_so_far(nullptr);
  emit progressed();
}

void MatchSearch::also(AlsoSearched also, const ListAsked& asked) {
  also_ = also;
  asked_.reset();
  renew(asked);
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

void MatchSearch::renew(const ListAsked& list) {
  if (!session_.has_axis()) return;
  const bool other = of_axis_ != session_.axis_index();
  of_axis_ = session_.axis_index();
  if (other) {
    answer_.reset(); // another axis: nothing of the one before may be put into it
    so_far_.reset();
    asked_.reset();
    emit found();
  }
  Axis asked = asked_axis();
  const Section& rules = session_.document().house_rules;
  if (asked_ && *asked_ == asked && asked_rules_ && *asked_rules_ == rules) return;
  asked_ = std::move(asked);
  asked_rules_ = rules;
  old_ = answer_ != nullptr;
  const auto before = answer_ != nullptr && answer_->seconds > patience_ ? answer_ : nullptr;
  session_.jobs().start(search_job, [this, axis = session_.axis(), rules, library = session_.library(),
                                     also = also_, list, before, patience = patience_](const JobLink& link) {
    const auto begin = std::chrono::steady_clock::now();
    MatchRun run;
    run.threads = std::max(1U, std::thread::hardware_concurrency());
    const auto space = std::make_shared<const MatchSpace>(match_space(axis, library, also, run.threads));
    run.wanted = [&] { return link.wanted(); };
    run.progress = [&](double share) { link.progress(share); };
    run.begins = step_back;
    run.settle = settled_at_once;
    const auto answer_of = [&](MatchResult result) {
      return MatchAnswer{*space, std::move(result), std::make_shared<Settler>(axis, rules, *space)};
    };
    if (before && same_parts(before->space, *space, before->best)) {
      auto so_far =
          std::make_shared<const MatchAnswer>(answer_of(try_again(axis, rules, *space, before->best, run)));
      link.deliver([this, so_far] { take_so_far(so_far); });
    } else {
      run.some = [&](MatchResult some) {
        auto so_far = std::make_shared<const MatchAnswer>(answer_of(std::move(some)));
        (void)so_far->list(list); // the window has nothing to work out
        if (!so_far->last->order.empty()) link.deliver([this, so_far] { take_so_far(so_far); });
      };
      run.patience = patience;
    }
    const auto hand_over = [&](MatchResult result) {
      MatchAnswer answer = answer_of(std::move(result));
      const auto& order = answer.list(list).order; // the window has nothing to work out
      for (std::size_t i = 0; i < std::min(order.size(), tried_again); ++i)
        answer.best.push_back(answer.result.fits.parts(order[i]));
      answer.seconds = seconds_since(begin);
      auto handed = std::make_shared<const MatchAnswer>(std::move(answer));
      link.deliver([this, handed] { take(handed); });
    };
    run.first = [&](const MatchResult& result) { hand_over(result); };
    hand_over(search(axis, rules, *space, run));
  });
  emit progressed();
}

void MatchSearch::take(std::shared_ptr<const MatchAnswer> answer) {
  auto before = std::exchange(answer_, std::move(answer));
  so_far_.reset();
  old_ = false;
  emit found();
  // a million combinations take a frame to be forgotten
  QThreadPool::globalInstance()->start([before = std::move(before)]() mutable { before.reset(); });
}

void MatchSearch::take_so_far(std::shared_ptr<const MatchAnswer> answer) {
  if (answer == so_far_) return;
  so_far_ = std::move(answer);
  emit found();
}

} // namespace fulmox::app

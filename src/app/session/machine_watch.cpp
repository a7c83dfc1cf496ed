#include "app/session/machine_watch.hpp"

#include "app/session/session.hpp"

#include <QElapsedTimer>

#include <cmath>

namespace fulmox::app {

constexpr int voltages_felt = 40; // ms from which on waiting for the voltages is felt

/// Whether all that a machine's schedule and buses depend on is the same. Copies share what did not change.
static bool same_machine(const Document& a, const Document& b) {
  return a.axes == b.axes && a.pace == b.pace && a.duty == b.duty && a.house_rules == b.house_rules &&
         a.lists == b.lists && a.units == b.units;
}

MachineWatch::MachineWatch(Session& session) : session_(session) {
  constexpr int quiet = 150; // ms without an edit, while nobody looks
  pause_.setSingleShot(true);
  pause_.setInterval(quiet);
  connect(&pause_, &QTimer::timeout, this, &MachineWatch::work_out);
  patience_.setSingleShot(true);
  patience_.setInterval(voltages_felt);
  connect(&patience_, &QTimer::timeout, this, [this] {
    if (quick_.run != nullptr)
      take(std::move(quick_), State::old);
    else
      emit found(); // that what is shown is old
  });
  connect(&session, &Session::changed, this, [this](Changes what) {
    if (what & (Changes(Change::axis) | Change::machine | Change::rules)) renew();
  });
}

void MachineWatch::renew() {
  const Document& machine = session_.document();
  if (asked_ && same_machine(*asked_, machine)) return;
  asked_ = machine;
  state_ = State::old;
  session_.jobs().cancel("machine");
  quick_ = {};
  patience_.start();
  pause_.stop();
  if (seen_)
    work_out();
  else if (!machine.lists.find("buses")->second.empty())
    pause_.start();
}

void MachineWatch::look() {
  if (!old() || session_.jobs().running("machine")) return;
  pause_.stop();
  work_out();
}

void MachineWatch::set_seen(bool seen) {
  seen_ = seen;
  if (seen) look();
}

/// The axis in view was worked out just now.
MachineResult MachineWatch::known_results() const {
  MachineResult known = results_;
  if (const SharedResult present = session_.present_result()) known.push_back(present);
  return known;
}

/// The result known before where the axis and what it gets are the same.
static SharedResult judged_as_fed(const Document& machine, std::size_t axis, const FedVolts& volts,
                                  const MachineResult& known) {
  const Axis fed = as_fed(machine.axes[axis], volts);
  const bool same = axis < known.size() && known[axis] != nullptr &&
                    known[axis]->belongs_to(fed, machine.house_rules) && known[axis]->units == machine.units;
  return same ? known[axis] : fulmox::work_out(fed, machine.house_rules, machine.units);
}

void MachineWatch::work_out() {
  QElapsedTimer clock;
  clock.start();
  session_.jobs().start("machine", [this, clock, machine = session_.document(), known = known_results(),
                                    known_fed = fed_, before = run_, number = ++runs_](const JobLink& link) {
    MachineResult results = evaluate(machine, known);
    auto quick = std::make_shared<MachineRun>(begin_machine(machine, results, before.get()));
    quick->number = number;
    link.deliver([this, quick, results] {
      if (patience_.isActive() && soon_)
        quick_ = {quick, results};
      else
        take({quick, results}, State::old);
    });
    if (!link.wanted()) return;
    auto whole = std::make_shared<MachineRun>(*quick);
    finish_machine(*whole, machine, [&] { return link.wanted(); });
    if (!whole->complete) return;
    // voltages are shown before every axis is judged at them
    link.deliver([this, whole, results, soon = clock.elapsed() < voltages_felt] {
      soon_ = soon;
      take({whole, results}, State::judging);
    });
    MachineResult fed(machine.axes.size());
    for (std::size_t i = 0; i < whole->fed.size() && link.wanted(); ++i)
      if (!std::isnan(whole->fed[i].low)) fed[i] = judged_as_fed(machine, i, whole->fed[i], known_fed);
    link.deliver([this, whole, results, fed] {
      fed_ = fed;
      take({whole, results}, State::known);
    });
    auto last = std::make_shared<MachineRun>(*whole);
    finish_returns(*last, [&] { return link.wanted(); });
    if (link.wanted()) link.deliver([this, last, results] { take({last, results}, State::known); });
  });
}

void MachineWatch::take(Known known, State state) {
  patience_.stop();
  state_ = state;
  run_ = std::move(known.run);
  results_ = std::move(known.results);
  emit found();
}

} // namespace fulmox::app

#include "app/machine/starts_page.hpp"

#include "app/session/session.hpp"
#include "app/session/words.hpp"
#include "app/study/table.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/quantity/format.hpp"

#include <QVBoxLayout>

namespace fulmox::app {
namespace {

const QString starts_job = "starts";

} // namespace

StartsPage::StartsPage(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), worst_(wrapped_label("starts_worst", "")),
      told_(wrapped_label("starts_told", "soft")), caution_(wrapped_label("starts_caution", "soft")),
      returns_(new QCheckBox("Count on what comes back (braking of one axis feeds another)")),
      table_(reading_table({"Machine cycle", "Parts an hour", "Peak", "if starts vary", "no starts below"})),
      starts_(reading_table({"Block", "Start now", "Start then"})),
      put_in_(outlined_button("starts_put_in", "Take these starts")) {
  setObjectName("starts_page");
  returns_->setObjectName("starts_returns");
  returns_->setToolTip(
      "Braking laid under another axis's peak is gone when starts vary, or when the machine stops "
      "in the middle of its cycle.");
  table_->setObjectName("starts_front");
  table_->setAccessibleName("Peak of the bus against the length of the machine's cycle");
  starts_->setObjectName("starts_blocks");
  starts_->setAccessibleName("Starts of the blocks");
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(8, 4, 8, 8);
  all->setSpacing(6);
  all->addWidget(heading("If all axes meet"));
  all->addWidget(worst_);
  all->addWidget(heading("Starts with the least peak"));
  all->addWidget(told_);
  all->addWidget(returns_);
  all->addWidget(table_, 2);
  all->addWidget(starts_, 3);
  all->addWidget(put_in_, 0, Qt::AlignLeft);
  all->addWidget(caution_);
  connect(returns_, &QCheckBox::toggled, this, [this] {
    asked_run_.reset();
    start();
  });
  connect(table_, &QTableWidget::itemSelectionChanged, this, &StartsPage::tell);
  connect(put_in_, &QPushButton::clicked, this, &StartsPage::put_in);
  connect(&session.jobs(), &Jobs::finished, this, [this](const QString& name) {
    if (name == starts_job) tell();
  });
}

void StartsPage::show_bus(std::shared_ptr<const MachineRun> run, std::size_t bus) {
  if (bus != bus_) front_.clear();
  run_ = std::move(run);
  bus_ = bus;
  const bool known = run_ != nullptr && run_->power.problem.what.empty() && bus_ < run_->power.buses.size();
  if (!known) {
    front_.clear();
    worst_->setText("There is no schedule yet.");
    return tell();
  }
  const BusPower& power = run_->power.buses[bus_];
  QString text = "Now " + told(power.peak.watts, Kind::power) + " at " + told(power.peak.time, Kind::time) +
                 "; if every axis had its greatest power at the same moment, " +
                 told(power.worst_peak, Kind::power) + ".";
  if (bus_ < run_->buses.size())
    text += " What comes back: at most " + told(power.reflected.greatest, Kind::energy) + " at once now, " +
            told(run_->buses[bus_].worst_returned, Kind::energy) + " at the worst alignment.";
  worst_->setText(text);
  start();
}

void StartsPage::start() {
  if (run_ == nullptr || !run_->power.problem.what.empty() || bus_ >= run_->power.buses.size()) return;
  if (asked_run_ == run_) return tell();
  asked_run_ = run_;
  StaggerAsked asked = stagger_question(run_->power, bus_, session_.document());
  asked.count_on_returns = returns_->isChecked();
  session_.jobs().start(starts_job, [this, asked](const JobLink& link) {
    StaggerAsked question = asked;
    question.wanted = [&] { return link.wanted(); };
    auto front = stagger_front(question);
    if (!link.wanted()) return;
    link.deliver([this, asked, front = std::move(front)]() mutable { take(asked, std::move(front)); });
  });
  tell();
}

void StartsPage::take(StaggerAsked asked, std::vector<StaggerPoint> front) {
  asked_ = std::move(asked);
  front_ = std::move(front);
  table_->setRowCount(static_cast<int>(front_.size()));
  for (std::size_t i = 0; i < front_.size(); ++i) {
    const Staggered& found = front_[i].found;
    const int row = static_cast<int>(i);
    constexpr double hour = 3600.0;
    const double parts = session_.document().pace.term("parts") / found.cycle * hour;
    set_cell(table_, row, 0,
             told(found.cycle, Kind::time) + (front_[i].longer > 0.0
                                                  ? ", + " + told(front_[i].longer, Kind::time)
                                                  : QString(", as now")));
    set_cell(table_, row, 1, qt(significant(parts, 4)));
    set_cell(table_, row, 2, told(found.peak, Kind::power), true);
    set_cell(table_, row, 3, told(found.with_jitter, Kind::power));
    set_cell(table_, row, 4, told(found.bound, Kind::power));
  }
  if (!front_.empty()) table_->selectRow(0);
  tell();
}

void StartsPage::tell() {
  const auto row = static_cast<std::size_t>(std::max(0, table_->currentRow()));
  const bool known = row < front_.size();
  put_in_->setEnabled(known);
  starts_->setRowCount(0);
  if (session_.jobs().running(starts_job))
    told_->setText("Being searched…");
  else if (!known)
    told_->setText("Nothing to move on this bus.");
  if (!known) {
    if (front_.empty()) table_->setRowCount(0);
    return;
  }
  const Staggered& found = front_[row].found;
  if (!session_.jobs().running(starts_job))
    told_->setText("From " + told(found.before, Kind::power) + " to " + told(found.peak, Kind::power) +
                   ", greatest values of every thousandth of the cycle added: not below the truth. No starts "
                   "bring it below " +
                   told(found.bound, Kind::power) + ".");
  caution_->setText(
      "If every start is off by ± " + told(asked_.jitter, Kind::time) + " in the worst way: " +
      told(found.with_jitter, Kind::power) + ", as it is now " + told(found.before_with_jitter, Kind::power) +
      ". Do not trust braking to the millisecond: a stop in the middle of the cycle takes it away.");
  int line = 0;
  for (std::size_t b = 0; b < asked_.blocks.size(); ++b) {
    if (!asked_.moves[b]) continue;
    starts_->setRowCount(line + 1);
    const bool moved = found.offsets[b] != asked_.blocks[b].offset;
    set_cell(starts_, line, 0,
             qt(asked_.blocks[b].name) + (asked_.blocks[b].after.empty() ? "" : ", after what it waits for"),
             moved);
    set_cell(starts_, line, 1, told(asked_.blocks[b].offset, Kind::time));
    set_cell(starts_, line, 2, told(found.offsets[b], Kind::time), moved);
    ++line;
  }
}

void StartsPage::put_in() {
  const auto row = static_cast<std::size_t>(std::max(0, table_->currentRow()));
  if (row >= front_.size() || run_ == nullptr) return;
  StaggerAsked asked = asked_;
  asked.longer = front_[row].longer;
  const Staggered found = front_[row].found;
  session_.edit("Take starts", "", [&](Document& d) { take_starts(d, run_->power, asked, found); });
}

} // namespace fulmox::app

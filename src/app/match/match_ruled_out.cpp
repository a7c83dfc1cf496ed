#include "app/match/match_ruled_out.hpp"

#include "app/match/match_model.hpp"
#include "app/session/session.hpp"
#include "app/session/words.hpp"
#include "app/study/table.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/match/remarks.hpp"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include <algorithm>
#include <chrono>
#include <limits>
#include <thread>
#include <tuple>

namespace fulmox::app {
namespace {

const QString job = "match ruled out";
// of a long list, and of a large library: more than anybody reads, and waits for
constexpr std::size_t most_rows = 200;
constexpr auto longest_work = std::chrono::seconds(20);

enum Column : std::uint8_t { part_column, nearest_column, limit_column, used_column };

QString name_of_part(const MatchSpace& space, const PartPlace& part) {
  const PartChoice& choice = choices_of(space, part.slot)[part.place];
  if (!choice.none()) return QString::fromStdString(choice.name());
  return part.slot == "gearhead" ? QString("direct") : "no " + qt(part.slot);
}

/// The others of a combination: "TP60-7 · EM325-010".
QString others(const MatchSpace& space, const Combination& parts, std::string_view slot) {
  QStringList all;
  for (const std::string_view other : searched_slots(space))
    if (other != slot) all << name_of_part(space, {other, parts.*place_in(other)});
  return all.join(" · ");
}

/// "Inertia ratio 102 %, Coupling bores 116 %."
QString broken(const Miss& miss) {
  QStringList all;
  for (const Verdict::Over& over : miss.over) all << qt(over.label) + " " + percent_used(over.used);
  return all.join(", ") + ".";
}

} // namespace

MatchRuledOut::MatchRuledOut(Session& session, QWidget* parent)
    : QWidget(parent), session_(session),
      limits_(reading_table({"Limit that rules out", "combinations", "of all tried"})),
      parts_(reading_table({"Fits nowhere", "nearest with", "its worst limit", "used"})) {
  limits_->setObjectName("match_killers");
  limits_->setAccessibleName("Limits that rule out");
  parts_->setObjectName("match_rejected");
  parts_->setAccessibleName("Parts that fit nowhere, and what comes nearest");
  for (const int column : {nearest_column, limit_column})
    parts_->horizontalHeaderItem(column)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  parts_->horizontalHeader()->setSectionResizeMode(part_column, QHeaderView::Stretch);
  parts_->horizontalHeader()->setSectionResizeMode(nearest_column, QHeaderView::Stretch);
  slots_ = choice_box("match_rejected_slot", "Kind of part", {});
  search_ = new QLineEdit;
  search_->setObjectName("match_rejected_search");
  search_->setAccessibleName("A part that is looked for");
  search_->setPlaceholderText("a part number or maker");
  search_->setClearButtonEnabled(true);
  count_ = new QLabel;
  count_->setObjectName("match_rejected_count");
  count_->setProperty("role", "soft");
  count_->setFont(face(-1));
  told_ = wrapped_label("match_rejected_told", "soft");
  told_->setFont(face(-1));
  auto* row = new QHBoxLayout;
  row->setSpacing(6);
  row->addWidget(heading("Why not this part?"));
  row->addWidget(slots_);
  row->addWidget(search_, 1);
  row->addWidget(count_);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(4);
  all->addWidget(limits_, 2);
  all->addLayout(row);
  all->addWidget(parts_, 3);
  all->addWidget(told_);
  connect(slots_, &QComboBox::activated, this, &MatchRuledOut::list_parts);
  connect(search_, &QLineEdit::textChanged, this, &MatchRuledOut::list_parts);
  connect(parts_, &QTableWidget::itemSelectionChanged, this, [this] {
    if (const auto part = marked(); part && !known_.contains(*part)) work_out();
    tell();
  });
}

void MatchRuledOut::hideEvent(QHideEvent* event) {
  session_.jobs().cancel(job); // nobody reads it
  QWidget::hideEvent(event);
}

void MatchRuledOut::show(std::shared_ptr<const MatchAnswer> answer, bool old) {
  if (answer != answer_) known_.clear();
  answer_ = std::move(answer);
  old_ = old;
  show_limits();
  offer_slots();
  list_parts();
}

void MatchRuledOut::show_limits() {
  const auto limits = answer_ ? ruled_out(answer_->result) : std::vector<Killer>();
  limits_->setRowCount(answer_ ? static_cast<int>(limits.size() + answer_->result.unusable.size()) : 0);
  if (!answer_) return;
  int row = 0;
  for (const auto& [limit, combinations] : limits) {
    set_cell(limits_, row, 0, qt(limit));
    set_cell(limits_, row, 1, grouped(combinations));
    set_cell(limits_, row++, 2, QString::number(100.0 * combinations / answer_->result.tried, 'f', 1) + " %");
  }
  for (const Unusable& part : answer_->result.unusable) {
    set_cell(limits_, row, 0,
             "Cannot be tried: " + QString::fromStdString(part.name) + ", " + qt(part.problem.text()));
    set_cell(limits_, row, 1, "");
    set_cell(limits_, row++, 2, "");
  }
}

void MatchRuledOut::offer_slots() {
  const QString chosen = slots_->currentData().toString();
  slots_->clear();
  if (!answer_) return;
  for (const std::string_view slot : searched_slots(answer_->space))
    slots_->addItem(qt(find_slot(slot)->part_title()), qt(slot));
  slots_->setCurrentIndex(std::max(0, slots_->findData(chosen)));
}

void MatchRuledOut::list_parts() {
  const std::optional<PartPlace> before = marked();
  rows_.clear();
  all_ = called_so_ = 0;
  if (answer_ && slots_->count() > 0) {
    const std::string slot = slots_->currentData().toString().toStdString();
    const MatchSpace& space = answer_->space;
    for (const PartPlace& part : rejected_parts(space, answer_->result.fits, find_slot(slot)->id)) {
      ++all_;
      const QString words =
          name_of_part(space, part) + " " + QString::fromStdString(choices_of(space, slot)[part.place].maker);
      if (!words.contains(search_->text().trimmed(), Qt::CaseInsensitive)) continue;
      if (++called_so_ <= most_rows) rows_.push_back(part);
    }
    nearest_first();
    count_->setText(QString("%1 of %2 fit nowhere")
                        .arg(grouped(static_cast<double>(all_)),
                             grouped(static_cast<double>(choices_of(space, slot).size()))));
  }
  {
    const QSignalBlocker quiet(parts_);
    parts_->clearSelection();
    parts_->setRowCount(static_cast<int>(rows_.size()));
    for (int row = 0; row < parts_->rowCount(); ++row) fill(row);
    if (const auto found = std::find(rows_.begin(), rows_.end(), before); found != rows_.end())
      parts_->selectRow(static_cast<int>(found - rows_.begin()));
  }
  work_out();
  tell();
}

/// What is known by how near it comes, what is not in the order of the library behind it.
void MatchRuledOut::nearest_first() {
  const auto distance = [&](const PartPlace& part) {
    constexpr double farthest = std::numeric_limits<double>::infinity();
    const auto found = known_.find(part);
    if (found == known_.end()) return std::tuple(2, farthest, std::size_t{0});
    const auto& miss = found->second.nearest;
    return miss ? std::tuple(0, miss->trial.used, miss->over.size())
                : std::tuple(1, farthest, std::size_t{0});
  };
  std::stable_sort(rows_.begin(), rows_.end(),
                   [&](const PartPlace& a, const PartPlace& b) { return distance(a) < distance(b); });
}

void MatchRuledOut::fill(int row) {
  const PartPlace& part = rows_[static_cast<std::size_t>(row)];
  const auto found = known_.find(part);
  QString nearest = "…", limit, used;
  if (found != known_.end()) {
    const PartOutlook& outlook = found->second;
    nearest = outlook.nearest ? others(answer_->space, outlook.nearest->trial.parts, part.slot)
                              : QString::fromStdString(outlook.why);
    if (outlook.nearest) {
      limit = qt(outlook.nearest->trial.worst);
      used = percent_used(outlook.nearest->trial.used);
    }
  }
  set_cell(parts_, row, part_column, name_of_part(answer_->space, part));
  set_cell(parts_, row, nearest_column, nearest);
  set_cell(parts_, row, limit_column, limit);
  set_cell(parts_, row, used_column, used);
  for (const int column : {nearest_column, limit_column})
    parts_->item(row, column)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  parts_->item(row, nearest_column)->setToolTip(nearest);
}

void MatchRuledOut::work_out() {
  std::vector<PartPlace> open;
  for (const PartPlace& part : rows_)
    if (!known_.contains(part)) open.push_back(part);
  if (const auto first = std::find(open.begin(), open.end(), marked()); first != open.end())
    std::rotate(open.begin(), first, first + 1); // somebody waits for it
  if (open.empty() || old_) return session_.jobs().cancel(job);
  session_.jobs().start(job, [this, open, answer = answer_, axis = session_.axis(),
                              rules = session_.document().house_rules](const JobLink& link) {
    MatchRun run;
    run.threads = std::max(1U, std::thread::hardware_concurrency());
    run.wanted = [&] { return link.wanted(); };
    run.begins = step_back;
    const auto end = std::chrono::steady_clock::now() + longest_work;
    for (const PartPlace& part : open) {
      if (std::chrono::steady_clock::now() > end) return;
      const auto outlook =
          std::make_shared<const PartOutlook>(outlook_of(axis, rules, answer->space, part, run));
      if (!link.wanted()) return; // of a search that was stopped nothing counts
      link.deliver([this, answer, part, outlook] {
        if (answer != answer_) return;
        known_[part] = *outlook;
        for (std::size_t row = 0; row < rows_.size(); ++row)
          if (rows_[row] == part) fill(static_cast<int>(row));
        tell();
      });
    }
    link.deliver([this, answer] { // not before: nobody reads what moves about
      if (answer == answer_) list_parts();
    });
  });
}

std::optional<PartPlace> MatchRuledOut::marked() const {
  const auto chosen = parts_->selectionModel()->selectedRows();
  const auto row = chosen.isEmpty() ? rows_.size() : static_cast<std::size_t>(chosen.front().row());
  return row < rows_.size() ? std::optional(rows_[row]) : std::nullopt;
}

/// Of the part that is marked all that it breaks.
void MatchRuledOut::tell() {
  QString text = rows_.empty() ? (all_ == 0 ? "Each of them fits with something."
                                            : "None of those that fit nowhere is called so.")
                 : called_so_ > rows_.size()
                     ? QString("The first %1 are listed; look for one by its number.").arg(rows_.size())
                     : "Mark one to see all limits that it breaks where it comes nearest.";
  if (!answer_) text.clear();
  if (const auto part = marked())
    if (const auto found = known_.find(*part); found != known_.end()) {
      const PartOutlook& outlook = found->second;
      text = outlook.nearest ? combination_name(answer_->space, outlook.nearest->trial.parts) +
                                   " does not fit: " + broken(*outlook.nearest)
                             : QString::fromStdString(outlook.why);
    }
  told_->setText(text);
}

} // namespace fulmox::app

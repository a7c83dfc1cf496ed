#include "app/match/match_model.hpp"

#include "app/session/session.hpp"
#include "app/session/words.hpp"
#include "app/theme/theme.hpp"

#include "core/match/remarks.hpp"
#include "core/quantity/format.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

/// As many rows tell in which unit a figure is read best.
constexpr std::size_t rows_for_units = 500;

/// The worst limit has columns of its own.
std::span<const Yardstick> figured() { return yardsticks().subspan(1); }

bool to_the_right(int column) {
  return column == MatchModel::used_column || column >= MatchModel::first_figure;
}

QString name_or(const PartChoice& choice, const char* none) {
  return choice.none() ? QString(none) : QString::fromStdString(choice.name());
}

const Miss* miss_of(const MatchAnswer& answer, const Trial& trial) {
  for (const Miss& miss : answer.result.misses)
    if (miss.trial.parts == trial.parts) return &miss;
  return nullptr;
}

/// The input that a limit lacks, as it is called: "Motor, torque constant".
QString lacking(const MatchSpace& space, const Trial& trial) {
  const std::string_view wanted = trial.wanted, slot = wanted.substr(0, wanted.find('.'));
  const std::string_view field = wanted.substr(std::min(slot.size() + 1, wanted.size()));
  const Combination& p = trial.parts;
  for (const PartChoice* part : {&space.motors[p.motor], &space.heads[p.head], &space.drives[p.drive],
                                 &space.brakes[p.brake], &space.couplings[p.coupling]})
    if (part->section.path == slot) return QString::fromStdString(describe_path(part->section, field));
  return qt(wanted);
}

} // namespace

QString combination_name(const MatchSpace& space, const Combination& parts) {
  return QString::fromStdString(name_of(space, parts));
}

QString grouped(double number) {
  return QLocale(QLocale::English).toString(number, 'f', 0).replace(',', ' ');
}

QString told_of(const MatchAnswer& answer, const Trial& trial, bool miss) {
  QString text = combination_name(answer.space, trial.parts);
  if (const Miss* found = miss ? miss_of(answer, trial) : nullptr) {
    text += "\nDoes not fit:";
    for (const Verdict::Over& over : found->over)
      text += "\n" + qt(over.label) + " " + percent_used(over.used);
  } else {
    text += "\nFits. Its worst limit: " + qt(trial.worst) + ", " + percent_used(trial.used) + ".";
  }
  if (const auto smaller = smaller_does_better(answer.space, answer.result, trial, answer.settle.get()))
    text += "\nA smaller motor does better here: " +
            QString::fromStdString(answer.space.motors[smaller->motor].name()) + ", " +
            percent_used(smaller->used) + ". This one's own rotor, " +
            QString::number(smaller->inertia, 'g', 2) +
            " times its inertia, takes more than its torque gives.";
  if (!trial.wanted.empty())
    text += "\nNot judged: " + qt(trial.unjudged) + ". Missing: " + lacking(answer.space, trial) + ".";
  return text;
}

void MatchModel::show(std::shared_ptr<const MatchAnswer> answer, std::vector<std::size_t> rows, bool misses,
                      UnitSet units) {
  beginResetModel();
  answer_ = std::move(answer);
  rows_ = std::move(rows);
  misses_ = misses;
  figures_.clear();
  std::vector<double> largest(figured().size());
  for (std::size_t i = 0; i < std::min(rows_.size(), rows_for_units); ++i) {
    const Trial one = known(static_cast<int>(i));
    for (std::size_t k = 0; k < largest.size(); ++k) {
      const double value = figured()[k].value(answer_->space, one);
      if (std::isfinite(value)) largest[k] = std::max(largest[k], value);
    }
  }
  for (std::size_t k = 0; k < largest.size(); ++k) {
    const Yardstick& yardstick = figured()[k];
    const DisplayUnit& unit = display_unit(largest[k], yardstick.kind, units);
    // two lines at most: more of them would take rows from the list
    const QString label = qt(yardstick.label);
    figures_.push_back(
        {unit.symbol.empty() ? QString(label).replace(' ', '\n') : label + '\n' + qt(unit.symbol),
         unit.factor, unit.offset});
  }
  endResetModel();
}

Trial MatchModel::known(int row) const {
  const std::size_t place = rows_[static_cast<std::size_t>(row)];
  return misses_ ? answer_->result.misses[place].trial : answer_->result.fits[place];
}

Trial MatchModel::trial(int row) const {
  return misses_ ? known(row) : answer_->fit(rows_[static_cast<std::size_t>(row)]);
}

int MatchModel::row_of(const Combination& parts) const {
  if (!misses_) {
    const auto place = answer_ != nullptr ? answer_->result.fits.place_of(parts) : std::nullopt;
    const auto row = place ? std::find(rows_.begin(), rows_.end(), *place) : rows_.end();
    return row == rows_.end() ? -1 : static_cast<int>(row - rows_.begin());
  }
  for (int row = 0; row < rowCount(); ++row)
    if (known(row).parts == parts) return row;
  return -1;
}

int MatchModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

int MatchModel::columnCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : first_figure + static_cast<int>(figured().size());
}

QString MatchModel::text(const Trial& trial, int column) const {
  const MatchSpace& space = answer_->space;
  if (column == motor_column) return QString::fromStdString(space.motors[trial.parts.motor].name());
  if (column == head_column) return name_or(space.heads[trial.parts.head], "direct");
  if (column == drive_column) return QString::fromStdString(space.drives[trial.parts.drive].name());
  if (column == used_column) return (trial.fits ? "" : "✕ ") + percent_used(trial.used);
  if (column == worst_column) return qt(trial.worst);
  const auto i = static_cast<std::size_t>(column - first_figure);
  const Yardstick& yardstick = figured()[i];
  const double value = yardstick.value(space, trial);
  if (!std::isfinite(value)) return "–";
  return qt(significant(value / figures_[i].factor - figures_[i].offset));
}

QVariant MatchModel::data(const QModelIndex& index, int role) const {
  const Trial one = trial(index.row());
  if (role == Qt::DisplayRole) return text(one, index.column());
  if (role == Qt::TextAlignmentRole)
    return QVariant(Qt::AlignVCenter | (to_the_right(index.column()) ? Qt::AlignRight : Qt::AlignLeft));
  if (role == Qt::ToolTipRole) return told_of(*answer_, one, misses_);
  if (role == Qt::ForegroundRole && !one.fits && index.column() == used_column) return theme().alarm;
  return {};
}

QVariant MatchModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal) return {};
  if (role == Qt::TextAlignmentRole)
    return QVariant(Qt::AlignBottom | (to_the_right(section) ? Qt::AlignRight : Qt::AlignLeft));
  if (role == Qt::ToolTipRole && section >= first_figure)
    return qt(figured()[static_cast<std::size_t>(section - first_figure)].help);
  if (role != Qt::DisplayRole) return {};
  constexpr std::array<const char*, first_figure> titles{"Motor", "Gearhead", "Drive", "used", "worst limit"};
  if (section < first_figure) return titles[static_cast<std::size_t>(section)];
  const auto i = static_cast<std::size_t>(section - first_figure);
  return i < figures_.size() ? figures_[i].title : QString();
}

} // namespace fulmox::app

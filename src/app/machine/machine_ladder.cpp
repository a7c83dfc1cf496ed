#include "app/machine/machine_ladder.hpp"

#include "app/ladder/rung_delegate.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/quantity/format.hpp"
#include "core/working/explain.hpp"

#include <QVBoxLayout>

#include <cmath>

namespace fulmox::app {
namespace {

constexpr int bus_role = Qt::UserRole + 40, time_role = Qt::UserRole + 41, input_role = Qt::UserRole + 42;

} // namespace

MachineLadder::MachineLadder(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), told_(wrapped_label("machine_ladder_told", "soft")),
      remarks_(wrapped_label("machine_remarks", "soft")), rungs_(new QListWidget) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(2);
  auto* title = new QLabel("Limits of the machine");
  title->setFont(face(0, true));
  title->setContentsMargins(8, 8, 8, 4);
  all->addWidget(title);
  told_->setContentsMargins(8, 0, 8, 4);
  all->addWidget(told_);
  rungs_->setObjectName("machine_ladder");
  rungs_->setAccessibleName("Limits of the machine");
  auto* delegate = new RungDelegate(rungs_);
  rungs_->setItemDelegate(delegate);
  rungs_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  rungs_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  all->addWidget(rungs_, 1);
  remarks_->setContentsMargins(8, 4, 8, 8);
  remarks_->setFont(face(-1));
  all->addWidget(remarks_);
  const auto choose = [this](const QListWidgetItem* item) {
    if (item->data(heading_role).toBool()) return;
    emit chosen(item->data(bus_role).toULongLong(), item->data(time_role).toDouble(),
                item->data(input_role).toString());
  };
  connect(rungs_, &QListWidget::itemClicked, this, choose);
  connect(rungs_, &QListWidget::itemActivated, this, choose);
}

void MachineLadder::set_bus(std::size_t bus) {
  if (bus == bus_) return;
  bus_ = bus;
  fill();
}

void MachineLadder::show_machine(std::shared_ptr<const MachineRun> run, bool old) {
  run_ = std::move(run);
  told_->setText(old ? "Being worked out; shown are the last ones." : "");
  told_->setVisible(old);
  fill();
}

void MachineLadder::add_heading(const QString& text) {
  auto* item = new QListWidgetItem;
  item->setData(heading_role, true);
  item->setData(label_role, text);
  item->setData(state_role, static_cast<int>(LimitState::clear));
  item->setData(limit_role, -1);
  item->setFlags(Qt::ItemIsEnabled);
  rungs_->addItem(item);
}

/// Numbers, moment, rule, and below them the working.
QString MachineLadder::tip_of(const Limit& limit, std::size_t bus) const {
  if (limit.state == LimitState::not_judged) return qt(limit.reason) + "\nClick to go to the missing value.";
  QString tip;
  if (!std::isnan(limit.demand))
    tip =
        qt(format(limit.demand, limit.kind).text()) + " of " + qt(format(limit.capacity, limit.kind).text());
  if (limit.moment)
    tip += (tip.isEmpty() ? "" : "\n") + QString("binds at ") +
           qt(format(limit.moment->time, Kind::time).text());
  tip += (tip.isEmpty() ? "" : "\n") + qt(limit.rule);
  if (limit.step.empty() || limit.id == "machine.rate" || bus >= run_->buses.size()) return tip;
  return tip + "\n\n" + qt(explain(run_->buses[bus].steps, limit.step, session_.document().units)).trimmed();
}

/// Where the governing or missing value is typed: on this bus, in an axis on it, or of the machine.
QString MachineLadder::input_of(const Limit& limit, std::size_t bus) const {
  const std::string_view input = limit.input;
  if (input.empty() || input.starts_with("pace.") || input.find('.') != std::string_view::npos)
    return qt(input);
  const auto& buses = session_.document().lists.find("buses")->second;
  for (const Section& section : buses)
    if (bus < run_->power.buses.size() && section.text("name") == run_->power.buses[bus].name)
      return qt(section.path) + "." + qt(input);
  return {};
}

void MachineLadder::add_rung(const Limit& limit, std::size_t bus) {
  auto* item = new QListWidgetItem;
  item->setData(used_role, limit.used);
  item->setData(state_role, static_cast<int>(limit.state));
  item->setData(label_role, qt(limit.label));
  item->setData(stale_role, false);
  item->setData(attention_role, Rules(session_.document().house_rules).term("attention").value);
  item->setData(heading_role, false);
  item->setData(share_role, limit.state == LimitState::not_judged ? QString("–")
                            : std::isinf(limit.used)              ? QString("∞")
                                                                  : used_told(limit.used));
  item->setData(worst_role, limit.used);
  item->setData(corner_role, QString());
  item->setData(limit_role, rungs_->count());
  item->setData(bus_role, static_cast<qulonglong>(bus));
  item->setData(time_role, limit.moment ? limit.moment->time : std::nan(""));
  item->setData(input_role, input_of(limit, bus));
  item->setToolTip(tip_of(limit, bus));
  item->setData(Qt::AccessibleTextRole,
                qt(limit.label) + ", " + qt(word(limit.state)) + ", " + item->data(share_role).toString());
  rungs_->addItem(item);
}

void MachineLadder::fill() {
  rungs_->clear();
  remarks_->clear();
  remarks_->hide();
  if (run_ == nullptr) return;
  if (run_->rate) add_rung(*run_->rate, bus_);
  const auto of_bus = [&](std::size_t b) {
    add_heading("Bus " + qt(run_->power.buses[b].name));
    if (b >= run_->buses.size()) return;
    for (const Limit& limit : run_->buses[b].limits) add_rung(limit, b);
  };
  if (bus_ < run_->power.buses.size()) of_bus(bus_);
  for (std::size_t b = 0; b < run_->power.buses.size(); ++b)
    if (b != bus_) of_bus(b);
  QStringList lines;
  for (const Problem& remark : run_->power.remarks) lines << qt(remark.text());
  if (!lines.isEmpty()) {
    constexpr qsizetype most = 4;
    const QString more =
        lines.size() > most ? "\n… and " + QString::number(lines.size() - most) + " more" : QString();
    remarks_->setText(lines.mid(0, most).join("\n") + more);
    remarks_->setToolTip(lines.join("\n"));
    remarks_->show();
  }
}

} // namespace fulmox::app

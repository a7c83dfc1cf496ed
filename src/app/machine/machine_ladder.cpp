#include "app/machine/machine_ladder.hpp"

#include "app/ladder/rung_delegate.hpp"
#include "app/machine/machine_working.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "app/widgets/steady_text.hpp"
#include "core/quantity/format.hpp"

#include <QVBoxLayout>

#include <algorithm>
#include <cmath>
#include <numeric>
#include <tuple>

namespace fulmox::app {
namespace {

constexpr int bus_role = Qt::UserRole + 40, time_role = Qt::UserRole + 41, input_role = Qt::UserRole + 42,
              step_role = Qt::UserRole + 43, of_machine_role = Qt::UserRole + 44;

constexpr const char* its_title = "Limits of the machine";

} // namespace

MachineLadder::MachineLadder(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), title_(new SteadyText("machine_ladder_title", "")),
      remarks_(wrapped_label("machine_remarks", "soft")), rungs_(new QListWidget) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(2);
  // of one height whatever it says: nothing moves when the words change
  title_->set_font(face(0, true));
  title_->setContentsMargins(8, 8, 8, 4);
  title_->setFixedHeight(QFontMetrics(face(0, true)).height() + 12);
  title_->set_text(its_title);
  all->addWidget(title_);
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
    if (item->data(heading_role).toBool()) {
      emit chosen(item->data(bus_role).toULongLong(), std::nan(""), "");
      return;
    }
    // the list is filled anew for the bus of the rung: what it says is read before
    const QListWidgetItem rung(*item);
    emit chosen(rung.data(bus_role).toULongLong(), rung.data(time_role).toDouble(),
                rung.data(input_role).toString());
    ask_for_working(rung);
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
  title_->set_text(old ? "Being worked out…" : its_title);
  title_->setToolTip(old ? "Shown are the last ones." : "");
  if (old && run_ != nullptr && run_->complete && run != nullptr && !run->complete) return;
  const bool same =
      run_ != nullptr && run != nullptr && run->number == run_->number && run->complete == run_->complete;
  run_ = std::move(run);
  if (!same) fill();
}

/// A line that opens its bus.
void MachineLadder::add_heading(const QString& text, std::size_t bus) {
  auto* item = new QListWidgetItem;
  item->setData(heading_role, true);
  item->setData(label_role, text);
  item->setData(state_role, static_cast<int>(LimitState::clear));
  item->setData(limit_role, -1);
  item->setData(bus_role, static_cast<qulonglong>(bus));
  item->setFlags(Qt::ItemIsEnabled);
  item->setToolTip("Click to see this bus.");
  rungs_->addItem(item);
}

void MachineLadder::ask_for_working(const QListWidgetItem& item) {
  const QString step = item.data(step_role).toString();
  if (step.isEmpty()) return;
  if (item.data(of_machine_role).toBool())
    emit working_wanted(std::nullopt, step);
  else
    emit working_wanted(item.data(bus_role).toULongLong(), step);
}

void MachineLadder::show_working() {
  const QListWidgetItem* now = rungs_->currentItem();
  for (int i = 0; i < rungs_->count() && (now == nullptr || now->data(step_role).toString().isEmpty()); ++i)
    now = rungs_->item(i);
  if (now != nullptr) ask_for_working(*now);
}

/// Numbers, moment and rule.
QString MachineLadder::tip_of(const Limit& limit) {
  if (limit.state == LimitState::not_judged) return qt(limit.reason) + "\nClick to go to the missing value.";
  QString tip;
  if (!std::isnan(limit.demand))
    tip =
        qt(format(limit.demand, limit.kind).text()) + " of " + qt(format(limit.capacity, limit.kind).text());
  if (limit.moment)
    tip += (tip.isEmpty() ? "" : "\n") + QString("binds at ") +
           qt(format(limit.moment->time, Kind::time).text());
  tip += (tip.isEmpty() ? "" : "\n") + qt(limit.rule);
  return limit.step.empty() ? tip : tip + "\nClick for its working.";
}

void MachineLadder::add_rung(const Limit& limit, std::size_t bus, bool of_machine) {
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
  item->setData(input_role, QString::fromStdString(governing_input(session_, limit, bus)));
  item->setData(step_role, qt(limit.step));
  item->setData(of_machine_role, of_machine);
  item->setToolTip(tip_of(limit));
  item->setData(Qt::AccessibleTextRole,
                qt(limit.label) + ", " + qt(word(limit.state)) + ", " + item->data(share_role).toString());
  rungs_->addItem(item);
}

/// Those on which a limit is over come first, then the one in view, then by their worst limit.
std::vector<std::size_t> MachineLadder::order_of_buses() const {
  std::vector<std::size_t> order(run_->power.buses.size());
  std::iota(order.begin(), order.end(), std::size_t{0});
  const auto rank = [&](std::size_t b) {
    double worst = 0.0;
    if (b < run_->buses.size())
      for (const Limit& limit : run_->buses[b].limits)
        if (limit.state != LimitState::not_judged) worst = std::max(worst, limit.used);
    return std::tuple{worst <= 1.0, b != bus_, -worst};
  };
  std::stable_sort(order.begin(), order.end(),
                   [&](std::size_t a, std::size_t b) { return rank(a) < rank(b); });
  return order;
}

/// All limits of the bus in view; of another what is not clear, and how many are.
void MachineLadder::add_bus(std::size_t bus) {
  add_heading("Bus " + qt(run_->power.buses[bus].name), bus);
  if (bus >= run_->buses.size()) return;
  int clear = 0;
  for (const Limit& limit : run_->buses[bus].limits) {
    if (bus == bus_ || limit.state != LimitState::clear)
      add_rung(limit, bus, false);
    else
      ++clear;
  }
  if (clear > 0) add_heading(QString::number(clear) + " clear", bus);
}

void MachineLadder::fill() {
  rungs_->clear();
  QStringList lines;
  if (run_ != nullptr) {
    if (run_->rate) add_rung(*run_->rate, bus_, true);
    for (const std::size_t b : order_of_buses()) add_bus(b);
    for (const Problem& remark : run_->power.remarks) lines << qt(remark.text());
  }
  constexpr qsizetype most = 4;
  const QString more =
      lines.size() > most ? "\n… and " + QString::number(lines.size() - most) + " more" : QString();
  const QString told = lines.mid(0, most).join("\n") + more;
  if (remarks_->text() != told)
    remarks_->setText(told); // a label told the same is laid out anew all the same
  remarks_->setToolTip(lines.join("\n"));
  remarks_->setVisible(!lines.isEmpty());
}

} // namespace fulmox::app

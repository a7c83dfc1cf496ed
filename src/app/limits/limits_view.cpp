#include "app/limits/limits_view.hpp"

#include "app/ladder/rung_delegate.hpp"
#include "app/session/corner_watch.hpp"
#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/study/table.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/quantity/format.hpp"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include <cmath>

namespace fulmox::app {
namespace {

constexpr int path_role = Qt::UserRole;

QString where(const LimitCorner& limit) {
  QStringList all;
  for (const CornerInput& input : limit.at) all << qt(input.label) + " " + qt(input.where());
  return all.join("; ");
}

} // namespace

LimitsView::LimitsView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), told_(wrapped_label("corners_told", "soft")),
      open_(wrapped_label("forgotten_told", "soft")), proposed_(wrapped_label("protect_told", "soft")),
      take_(outlined_button("protect_take", "Set it")),
      corners_(reading_table({"Limit", "typed", "worst", "there", "mainly by"})),
      forgotten_(new QListWidget) {
  setObjectName("limits_view");
  corners_->setObjectName("corners_table");
  corners_->setAccessibleName("Limits at the corners of the typed spreads");
  corners_->setToolTip("A row activated leads to the spread that does most.");
  corners_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
  corners_->horizontalHeader()->setSectionResizeMode(4, QHeaderView::Stretch);
  corners_->horizontalHeaderItem(4)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  forgotten_->setObjectName("forgotten_list");
  forgotten_->setAccessibleName("Often forgotten and still open");
  forgotten_->setToolTip("A line activated leads to its input.");
  forgotten_->setWordWrap(true);
  constexpr int between_lines = 3;
  forgotten_->setSpacing(between_lines);
  forgotten_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(8, 8, 8, 8);
  all->setSpacing(6);
  all->addWidget(heading("Limits at the corners of what is typed"));
  all->addWidget(told_);
  all->addWidget(corners_, 3);
  auto* proposal = new QHBoxLayout;
  proposal->addWidget(proposed_, 1);
  proposal->addWidget(take_);
  all->addLayout(proposal);
  take_->setToolTip("Types it into the drive as its peak current set.");
  connect(take_, &QPushButton::clicked, this, &LimitsView::take_proposal);
  all->addWidget(heading("Often forgotten"));
  all->addWidget(open_);
  all->addWidget(forgotten_, 2);
  connect(corners_, &QTableWidget::itemActivated, this, [this](const QTableWidgetItem* item) {
    const auto row = static_cast<std::size_t>(item->row());
    if (row < mainly_.size() && !mainly_[row].empty()) emit session_.input_requested(qt(mainly_[row]));
  });
  const auto lead = [this](const QListWidgetItem* item) {
    emit session_.input_requested(item->data(path_role).toString());
  };
  connect(forgotten_, &QListWidget::itemActivated, this, lead);
  connect(forgotten_, &QListWidget::itemClicked, this, lead);
  new Refresher(session, this, results_changed | Change::machine, [this](Changes) { refresh(); });
  connect(&session.corner_watch(), &CornerWatch::found, this, [this] {
    if (isVisible()) show_corners();
  });
}

void LimitsView::refresh() {
  show_forgotten();
  show_proposal();
  show_corners();
}

void LimitsView::show_corners() {
  if (session_.evaluation() == nullptr) {
    corners_->setRowCount(0);
    told_->setText("The axis cannot be worked out yet.");
    return;
  }
  if (!session_.corner_watch().corners()) return; // on their way
  const Corners& found = *session_.corner_watch().corners();
  QString text;
  if (found.spreads.empty())
    text = "No input carries a spread yet. Type one behind a value, like \"0.2 N.m/A ±10%\": every limit is "
           "then judged "
           "at its worst corner. Usual: torque constant ±10 %, friction ±50 %.";
  else
    text =
        QString("%1 %2 with a spread, %3 combinations judged. Nominal clear and worst corner over is over.")
            .arg(found.spreads.size())
            .arg(found.spreads.size() == 1 ? "input" : "inputs")
            .arg(found.tried);
  if (found.lost > 0) text += QString(" %1 combinations cannot be worked out.").arg(found.lost);
  told_->setText(text);
  mainly_.clear();
  corners_->setRowCount(static_cast<int>(found.limits.size()));
  for (int row = 0; row < corners_->rowCount(); ++row) {
    const LimitCorner& limit = found.limits[static_cast<std::size_t>(row)];
    const bool turned = limit.state != limit.now;
    set_cell(corners_, row, 0, qt(limit.label), turned);
    set_cell(corners_, row, 1, used_told(limit.nominal));
    set_cell(corners_, row, 2, used_told(limit.worst), turned);
    set_cell(corners_, row, 3, qt(word(limit.state)), turned);
    set_cell(corners_, row, 4,
             limit.mainly.empty() ? QString() : "   " + qt(describe_path(session_.axis(), limit.mainly)));
    corners_->item(row, 4)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    for (int column = 0; column < corners_->columnCount(); ++column)
      corners_->item(row, column)->setToolTip(where(limit));
    mainly_.push_back(limit.mainly);
  }
}

void LimitsView::show_proposal() {
  const Evaluation* e = session_.evaluation();
  const ResultValue* proposed = e != nullptr ? e->find("protect.current") : nullptr;
  const bool settable = session_.axis()["drive"].has("current_limit");
  proposed_->setVisible(proposed != nullptr);
  take_->setVisible(proposed != nullptr && settable && !session_.read_only());
  if (proposed != nullptr)
    proposed_->setText("The motor can give more than gearhead and coupling bear: a current limit of " +
                       qt(format(proposed->value, Kind::current).text()) + " on the drive spares them.");
}

void LimitsView::take_proposal() {
  const Evaluation* e = session_.evaluation();
  const ResultValue* proposed = e != nullptr ? e->find("protect.current") : nullptr;
  if (proposed == nullptr) return;
  // rounded down: never more than is borne
  const double amperes = std::floor(proposed->value * 100.0) / 100.0;
  session_.type("drive", "current_limit", QString::number(amperes, 'f', 2) + " A");
  session_.seal();
}

void LimitsView::show_forgotten() {
  forgotten_->clear();
  const Evaluation* e = session_.evaluation();
  if (e == nullptr) {
    open_->setText({});
    return;
  }
  for (const Forgotten& item : often_forgotten(session_.axis(), *e)) {
    auto* line = new QListWidgetItem(qt(item.title) + " — " + qt(item.why) + "  (" +
                                     qt(describe_path(session_.axis(), item.input)) + ")");
    line->setData(path_role, qt(item.input));
    forgotten_->addItem(line);
  }
  open_->setText(forgotten_->count() == 0
                     ? "Nothing of it is open."
                     : QString("%1 not answered yet; each leads to its input.").arg(forgotten_->count()));
}

} // namespace fulmox::app

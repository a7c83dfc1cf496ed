#include "app/study/what_if_page.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"

#include <QScrollArea>
#include <QVBoxLayout>

#include <cmath>

namespace fulmox::app {
namespace {

constexpr int half_range = 100;
enum Column { name_column, first_effect, slider_column = first_effect + 3 };

/// "+9.0" for what the upper end of the tolerance does in percent; the lower end, marked, where the upper one
/// cannot be worked out.
QString change(double low, double high, double now) {
  const bool upper = std::isfinite(high);
  const double percent = 100.0 * ((upper ? high : low) / now - 1.0);
  if (!std::isfinite(percent)) return "–";
  constexpr double rounds_to_nothing = 0.05;
  if (std::abs(percent) < rounds_to_nothing) return "0";
  return QString::asprintf(std::abs(percent) < 100.0 ? "%+.1f" : "%+.0f", percent).replace('-', "−") +
         (upper ? "" : "↓");
}

QString exponent(double slope) {
  return std::isnan(slope) ? QString("–") : QString::asprintf("%+.2f", slope).replace('-', "−");
}

QLabel* column_title(const QString& text, const QString& tip) {
  auto* label = new QLabel(text);
  label->setFont(face(-2));
  label->setProperty("role", "soft");
  label->setToolTip(tip);
  label->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  return label;
}

} // namespace

void WhatIfPage::Row::show(bool on) const {
  name->setVisible(on);
  tolerance->setVisible(on);
  slider->setVisible(on);
  for (QLabel* effect : effects) effect->setVisible(on);
}

WhatIfPage::WhatIfPage(Session& session, QWidget* parent) : StudyPage(session, parent) {
  setObjectName("what_if_page");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(6, 4, 2, 4);
  layout->setSpacing(4);
  note_ = new QLabel;
  note_->setObjectName("what_if_note");
  note_->setWordWrap(true);
  note_->setFont(face(-1));
  layout->addWidget(note_);
  auto* scroll = new QScrollArea;
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setWidgetResizable(true);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  table_ = new QWidget;
  auto* column = new QVBoxLayout(table_);
  column->setContentsMargins(0, 0, 4, 0);
  grid_ = new QGridLayout;
  grid_->setHorizontalSpacing(6);
  grid_->setVerticalSpacing(0);
  grid_->setColumnStretch(name_column, 1);
  const QString what = ", in % at the upper end of the tolerance";
  grid_->addWidget(column_title("peak %", "Change of the peak torque" + what), 0, first_effect);
  grid_->addWidget(column_title("rms %", "Change of the rms torque" + what), 0, first_effect + 1);
  grid_->addWidget(column_title("ratio %", "Change of the inertia ratio" + what), 0, first_effect + 2);
  column->addLayout(grid_);
  column->addStretch();
  scroll->setWidget(table_);
  layout->addWidget(scroll, 1);
}

void WhatIfPage::make_row() {
  const std::size_t index = rows_.size();
  const int line = 1 + 2 * static_cast<int>(index);
  Row row;
  row.name = new QPushButton;
  row.name->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
  row.name->setStyleSheet("text-align: left; padding: 0 2px");
  row.name->setFlat(true);
  connect(row.name, &QPushButton::clicked, this, [this, index] {
    emit session().input_requested(QString::fromStdString(rows_[index].influence.path));
  });
  row.tolerance = new QLabel;
  row.tolerance->setFont(face(-2));
  row.tolerance->setProperty("role", "soft");
  row.tolerance->setContentsMargins(4, 0, 0, 5);
  row.tolerance->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
  row.tolerance->setObjectName("tolerance_" + QString::number(index));
  row.slider = new QSlider(Qt::Horizontal);
  row.slider->setRange(-half_range, half_range);
  row.slider->setObjectName("swing_" + QString::number(index));
  row.slider->setFixedWidth(72);
  connect(row.slider, &QSlider::valueChanged, this, [this, index](int position) { swing(index, position); });
  connect(row.slider, &QSlider::sliderReleased, this, [this, index] { rows_[index].slider->setValue(0); });
  // the name has the line to itself: some are long
  grid_->addWidget(row.name, line, name_column, 1, slider_column);
  grid_->addWidget(row.slider, line, slider_column, 2, 1, Qt::AlignVCenter);
  grid_->addWidget(row.tolerance, line + 1, name_column);
  for (std::size_t k = 0; k < row.effects.size(); ++k) {
    auto* effect = new QLabel;
    effect->setFont(face(-1));
    effect->setAlignment(Qt::AlignRight | Qt::AlignTop);
    effect->setObjectName(QString("effect_%1_%2").arg(index).arg(k));
    grid_->addWidget(effect, line + 1, first_effect + static_cast<int>(k));
    row.effects[k] = effect;
  }
  rows_.push_back(std::move(row));
}

void WhatIfPage::swing(std::size_t row, int position) {
  const Influence& influence = rows_[row].influence;
  if (position == 0)
    session().what_if(influence.path, std::nullopt);
  else
    session().what_if(influence.path,
                      influence.value + influence.tolerance * static_cast<double>(position) / half_range);
}

void WhatIfPage::hideEvent(QHideEvent* event) {
  StudyPage::hideEvent(event);
  session().what_if("", std::nullopt);
}

void WhatIfPage::fill_row(Row& row, const Influence& influence) const {
  row.influence = influence;
  const QSignalBlocker quiet(row.slider);
  row.slider->setValue(0);
  row.slider->setAccessibleName("Swing " + QString::fromStdString(influence.label));
  row.name->setText(QString::fromStdString(influence.label));
  row.name->setToolTip("Go to this input.\nChange in % per % of it: peak " + exponent(influence.peak) +
                       ", rms " + exponent(influence.rms) + ", inertia ratio " + exponent(influence.ratio));
  row.tolerance->setText("± " +
                         qt(format(influence.tolerance, influence.kind, session().document().units).text()) +
                         (influence.tolerance_typed ? "" : "*"));
  const Demand& now = session().evaluation()->demand;
  row.effects[0]->setText(change(influence.peak_low, influence.peak_high, now.peak_torque));
  row.effects[1]->setText(change(influence.rms_low, influence.rms_high, now.rms_torque));
  row.effects[2]->setText(change(influence.ratio_low, influence.ratio_high, now.inertia_ratio));
}

StudyPage::Work WhatIfPage::question() {
  if (!session().has_axis() || session().evaluation() == nullptr) return {};
  return [this, axis = session().axis()](const JobLink& link) -> Show {
    auto found = sensitivities(axis, [&] { return link.wanted(); });
    return [this, found = std::move(found)] { fill(found); };
  };
}

void WhatIfPage::fill(const Expected<std::vector<Influence>>& found) {
  if (!session().has_axis() || session().evaluation() == nullptr) return;
  table_->setVisible(static_cast<bool>(found));
  if (!found) {
    note_->setText(qt(found.problem().text()));
    return;
  }
  note_->setText(
      "What each input does over its tolerance (* a tenth where none is typed), the strongest first. "
      "Drag a slider and watch the limits; it springs back.");
  while (rows_.size() < found->size()) make_row();
  for (std::size_t i = 0; i < rows_.size(); ++i) {
    rows_[i].show(i < found->size());
    if (i < found->size()) fill_row(rows_[i], (*found)[i]);
  }
}

} // namespace fulmox::app

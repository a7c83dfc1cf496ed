#include "app/study/what_if_page.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"

#include <QGridLayout>

#include <cmath>

namespace fulmox::app {
namespace {

constexpr std::size_t most_rows = 9;
constexpr int half_range = 100;

QString exponent(double slope) {
  return std::isnan(slope) ? QString("–") : QString::asprintf("%+.2f", slope).replace('-', "−");
}

} // namespace

WhatIfPage::WhatIfPage(Session& session, QWidget* parent) : StudyPage(session, parent) {
  setObjectName("what_if_page");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(6, 4, 6, 4);
  layout->setSpacing(2);
  note_ = new QLabel;
  note_->setObjectName("what_if_note");
  note_->setWordWrap(true);
  note_->setFont(face(-1));
  layout->addWidget(note_);
  list_ = new QVBoxLayout;
  list_->setSpacing(2);
  layout->addLayout(list_);
  layout->addStretch();
}

void WhatIfPage::make_row() {
  const std::size_t index = rows_.size();
  Row row;
  row.box = new QWidget;
  auto* grid = new QGridLayout(row.box);
  grid->setContentsMargins(0, 1, 0, 1);
  grid->setSpacing(0);
  row.name = new QPushButton;
  row.name->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
  row.name->setStyleSheet("text-align: left; padding: 0 2px");
  row.name->setFlat(true);
  connect(row.name, &QPushButton::clicked, this, [this, index] {
    emit session().input_wanted(QString::fromStdString(rows_[index].influence.path));
  });
  row.slider = new QSlider(Qt::Horizontal);
  row.slider->setRange(-half_range, half_range);
  row.slider->setObjectName("swing_" + QString::number(index));
  row.slider->setFixedWidth(96);
  connect(row.slider, &QSlider::valueChanged, this, [this, index](int position) { swing(index, position); });
  connect(row.slider, &QSlider::sliderReleased, this, [this, index] { rows_[index].slider->setValue(0); });
  row.effect = new QLabel;
  row.effect->setFont(face(-2));
  row.effect->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
  row.effect->setObjectName("effect_" + QString::number(index));
  row.effect->setProperty("role", "soft");
  grid->addWidget(row.name, 0, 0);
  grid->addWidget(row.slider, 0, 1);
  grid->addWidget(row.effect, 1, 0, 1, 2);
  grid->setColumnStretch(0, 1);
  list_->addWidget(row.box);
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

void WhatIfPage::work_out() {
  if (!session().has_axis()) return;
  const auto found = sensitivities(session().axis());
  if (!found) {
    note_->setText(qt(found.problem().text()));
    for (Row& row : rows_) row.box->hide();
    return;
  }
  note_->setText("Inputs by what they move over their tolerance, a tenth where none is typed (*). Drag a "
                 "slider and watch "
                 "the limits; it springs back. Peak, rms, inertia ratio J: % of change per % of input.");
  const std::size_t count = std::min(most_rows, found->size());
  while (rows_.size() < count) make_row();
  const UnitSet units = session().document().units;
  for (std::size_t i = 0; i < rows_.size(); ++i) {
    rows_[i].box->setVisible(i < count);
    if (i >= count) continue;
    const Influence& influence = (*found)[i];
    rows_[i].influence = influence;
    const QSignalBlocker quiet(rows_[i].slider);
    rows_[i].slider->setValue(0);
    rows_[i].slider->setAccessibleName("Swing " + QString::fromStdString(influence.label));
    rows_[i].name->setText(QString::fromStdString(influence.label));
    rows_[i].name->setToolTip("Go to this input");
    rows_[i].effect->setText(QString("%1 %  ± %2%3  peak %4  rms %5  J %6")
                                 .arg(100.0 * influence.swing, 0, 'f', 1)
                                 .arg(qt(format(influence.tolerance, influence.kind, units).text()),
                                      influence.tolerance_typed ? "" : "*", exponent(influence.peak),
                                      exponent(influence.rms), exponent(influence.ratio)));
  }
}

} // namespace fulmox::app

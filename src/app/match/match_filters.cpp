#include "app/match/match_filters.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/quantity/number_text.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QSlider>
#include <QVBoxLayout>

#include <cmath>

namespace fulmox::app {
namespace {

constexpr int most_weight = 4;
constexpr const char* price_tip = "Only what costs no more than this together; what has no price stays";

QString value_told(const std::string& value) {
  return value.empty() ? "not told" : QString::fromStdString(value);
}

} // namespace

MatchFilters::MatchFilters(QWidget* parent) : QWidget(parent) {
  setObjectName("match_filters");
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(4);
  only_ = new QToolButton;
  only_->setObjectName("match_only");
  only_->setText("Only… ▾");
  only_->setAccessibleName("List only some");
  only_->setToolTip("List only some kinds, makers, sizes; beside each stands how many it leaves");
  only_->setProperty("role", "chip");
  only_->setCheckable(true);
  only_->setPopupMode(QToolButton::InstantPopup);
  only_->setMenu(new QMenu(only_));
  connect(only_->menu(), &QMenu::aboutToShow, this, qOverload<>(&MatchFilters::fill));
  row->addWidget(only_);
  price_ = number_line("match_price", "The most it may cost", "price to", 64);
  price_->setToolTip(price_tip);
  connect(price_, &QLineEdit::editingFinished, this, &MatchFilters::read_price);
  row->addWidget(price_);
  clear_ = new QToolButton;
  clear_->setText("all");
  clear_->setObjectName("match_all");
  clear_->setToolTip("List everything again");
  clear_->setProperty("role", "part");
  connect(clear_, &QToolButton::clicked, this, [this] {
    filter_ = {};
    price_->clear();
    word();
    emit changed();
  });
  row->addWidget(clear_);
  told_ = new QLabel;
  told_->setObjectName("match_only_told");
  told_->setFont(face(-2));
  told_->setProperty("role", "soft");
  told_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  row->addWidget(told_, 1);
  word();
}

void MatchFilters::word() {
  const bool any = !(filter_ == Filter{});
  only_->setChecked(!filter_.of.empty() || filter_.in_stock);
  clear_->setEnabled(any);
  told_->setText(told());
  told_->setToolTip(told());
}

void MatchFilters::fill() {
  only_->menu()->clear();
  const Counts counts = count_ ? count_() : Counts();
  for (std::size_t f = 0; f < std::min(counts.of.size(), facets().size()); ++f) {
    if (counts.of[f].size() < 2 && !filter_.of.contains(facets()[f].id)) continue;
    QMenu* menu = only_->menu()->addMenu(qt(facets()[f].label));
    menu->setObjectName("match_only_" + qt(facets()[f].id));
    fill(f, counts.of[f], *menu);
  }
  add_stock(counts.in_stock);
}

void MatchFilters::add_stock(std::size_t in_stock) {
  auto* action = only_->menu()->addAction(QString("Every part in stock   (%1)").arg(in_stock));
  action->setObjectName("match_in_stock");
  action->setCheckable(true);
  action->setChecked(filter_.in_stock);
  connect(action, &QAction::toggled, this, [this](bool on) {
    filter_.in_stock = on;
    word();
    emit changed();
  });
}

/// The values of a facet with their counts.
void MatchFilters::fill(std::size_t facet, const std::vector<FacetCount>& counts, QMenu& menu) {
  const std::string id(facets()[facet].id);
  for (const FacetCount& count : counts) {
    auto* action = menu.addAction(QString("%1   (%2)").arg(value_told(count.value)).arg(count.combinations));
    action->setObjectName("match_value_" + QString::fromStdString(count.value));
    action->setCheckable(true);
    const auto found = filter_.of.find(id);
    action->setChecked(found != filter_.of.end() && found->second.contains(count.value));
    connect(action, &QAction::toggled, this, [this, id, value = count.value](bool on) {
      auto& values = filter_.of[id];
      if (on)
        values.insert(value);
      else
        values.erase(value);
      if (values.empty()) filter_.of.erase(id);
      word();
      emit changed();
    });
  }
}

void MatchFilters::read_price() {
  const double before = filter_.most_price;
  const QString text = price_->text().trimmed();
  const auto number = read_number(text.toStdString());
  const bool good = text.isEmpty() || (number && *number >= 0.0);
  price_->setProperty("role", good ? QVariant() : QVariant("fault"));
  price_->setToolTip(good ? price_tip : "This is no price: give a number from 0 up, or nothing.");
  if (!good) return;
  filter_.most_price = text.isEmpty() ? std::numeric_limits<double>::infinity() : *number;
  word();
  if (filter_.most_price != before) emit changed();
}

void MatchFilters::only(std::string_view facet, const std::string& value) {
  filter_.of[std::string(facet)] = {value};
  word();
  emit changed();
}

QString MatchFilters::told() const {
  QStringList all;
  for (const Facet& facet : facets()) {
    const auto found = filter_.of.find(facet.id);
    if (found == filter_.of.end() || found->second.empty()) continue;
    QStringList values;
    for (const std::string& value : found->second) values << value_told(value);
    all << qt(facet.label) + ": " + values.join(", ");
  }
  if (std::isfinite(filter_.most_price)) all << "price to " + QString::number(filter_.most_price);
  if (filter_.in_stock) all << "every part in stock";
  return all.isEmpty() ? QString() : "only " + all.join("; ");
}

MatchWeights::MatchWeights(QWidget* parent) : QWidget(parent) {
  setObjectName("match_weights");
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(10);
  const Weights usual = usual_weights();
  for (const Yardstick& yardstick : yardsticks()) {
    auto* column = new QVBoxLayout;
    column->setSpacing(0);
    auto* label = new QLabel;
    label->setFont(face(-2));
    label->setProperty("role", "soft");
    auto* slider = new QSlider(Qt::Horizontal);
    slider->setRange(0, most_weight);
    slider->setPageStep(1);
    slider->setObjectName("match_weight_" + qt(yardstick.id));
    slider->setAccessibleName("Weight of " + qt(yardstick.label));
    slider->setToolTip("How much it counts in the order of the list. " + qt(yardstick.help));
    const auto tell = [label, slider, &yardstick] {
      label->setText(qt(yardstick.label) + " " +
                     (slider->value() > 0 ? QString::number(slider->value()) : "–"));
    };
    connect(slider, &QSlider::valueChanged, this, [this, tell] {
      tell();
      emit changed();
    });
    {
      const QSignalBlocker quiet(slider);
      const auto found = usual.find(yardstick.id);
      slider->setValue(found == usual.end() ? 0 : static_cast<int>(found->second));
    }
    tell();
    column->addWidget(label);
    column->addWidget(slider);
    row->addLayout(column, 1);
    sliders_.push_back(slider);
  }
}

Weights MatchWeights::weights() const {
  Weights weights;
  for (std::size_t i = 0; i < sliders_.size(); ++i)
    if (sliders_[i]->value() > 0) weights[std::string(yardsticks()[i].id)] = sliders_[i]->value();
  return weights;
}

QString MatchWeights::told() const {
  QStringList all;
  for (std::size_t i = 0; i < sliders_.size(); ++i)
    if (sliders_[i]->value() > 0)
      all << qt(yardsticks()[i].label) + " " + QString::number(sliders_[i]->value());
  return all.isEmpty() ? "nothing weighed" : all.join(", ");
}

} // namespace fulmox::app

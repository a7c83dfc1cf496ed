#include "app/givens/move_form.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "core/motion/cycle.hpp"
#include "core/quantity/format.hpp"

#include <QHBoxLayout>

#include <algorithm>
#include <cmath>

namespace fulmox::app {

MoveForm::MoveForm(Session& session, int number, QWidget* parent)
    : Fold(QString::number(number) + "  Move", parent), session_(session) {
  auto* buttons = new QHBoxLayout;
  buttons->setContentsMargins(10, 4, 26, 0);
  for (const auto& [kind, label] : {std::pair{"move", "+ Move"}, std::pair{"dwell", "+ Dwell"}}) {
    auto* button = new QToolButton;
    button->setText(label);
    button->setProperty("role", "part");
    button->setObjectName(QString("add_") + kind);
    const std::string which = kind;
    connect(button, &QToolButton::clicked, this, [this, which] { add_segment(which); });
    buttons->addWidget(button);
  }
  buttons->addStretch();
  body()->addLayout(buttons);
  connect(this, &Fold::opened, this, &MoveForm::refresh);
}

void MoveForm::add_segment(std::string_view kind) {
  const SectionSpec* spec = find_segment_spec(kind);
  session_.edit("Add " + qt(spec->title).toLower(), "", [&](Document& document) {
    Axis& axis = document.axes[session_.axis_index()];
    Section segment(*spec);
    // the natural next move goes back to the start
    double ends_at = 0.0;
    for (const Section& other : axis.cycle)
      if (other.spec().id == "move") ends_at += other.term("distance");
    if (kind == "move" && ends_at != 0.0) {
      std::string back = significant(std::abs(ends_at) * 1e3, 6) + " mm";
      if (ends_at > 0.0) back.insert(0, 1, '-');
      segment.type("distance", back);
    }
    axis.cycle.push_back(std::move(segment));
  });
}

QWidget* MoveForm::make_header(std::size_t index, const QString& title) {
  auto* header = new QWidget;
  auto* line = new QHBoxLayout(header);
  line->setContentsMargins(10, 4, 2, 0);
  line->setSpacing(0);
  auto* name = new QLabel(QString::number(index + 1) + "  " + title);
  name->setProperty("role", "title");
  line->addWidget(name);
  line->addStretch();
  const auto add = [&](const QString& text, const QString& tip, auto act) {
    auto* button = new QToolButton;
    button->setText(text);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setFixedSize(text.size() > 1 ? 40 : 22, 20);
    button->setStyleSheet("padding: 0");
    connect(button, &QToolButton::clicked, this, [this, act, tip] {
      session_.edit(tip, "", [&](Document& document) { act(document.axes[session_.axis_index()].cycle); });
    });
    line->addWidget(button);
  };
  using Cycle = std::vector<Section>;
  add("↑", "Move segment earlier", [index](Cycle& cycle) {
    if (index > 0) std::swap(cycle[index], cycle[index - 1]);
  });
  add("copy", "Copy segment", [index](Cycle& cycle) {
    Section copy = cycle[index];
    cycle.insert(cycle.begin() + static_cast<std::ptrdiff_t>(index) + 1, std::move(copy));
  });
  add("×", "Remove segment",
      [index](Cycle& cycle) { cycle.erase(cycle.begin() + static_cast<std::ptrdiff_t>(index)); });
  return header;
}

void MoveForm::rebuild() {
  segments_.clear();
  if (list_ != nullptr) attic_.retire(list_);
  list_ = new QWidget;
  auto* layout = new QVBoxLayout(list_);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(1);
  const Axis& axis = session_.axis();
  for (std::size_t i = 0; i < axis.cycle.size(); ++i) {
    const Section& section = axis.cycle[i];
    auto* box = new QWidget;
    auto* rows = new QVBoxLayout(box);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(1);
    rows->addWidget(make_header(i, qt(section.spec().title)));
    Segment segment{&section.spec(), box, {}};
    for (std::size_t k = 0; k < section.size(); ++k) {
      segment.rows.push_back(new FieldRow(session_, section.path, section.field(k)));
      rows->addWidget(segment.rows.back());
    }
    layout->addWidget(box);
    segments_.push_back(std::move(segment));
  }
  body()->insertWidget(0, list_);
}

void MoveForm::refresh() {
  if (!session_.has_axis()) return;
  const Axis& axis = session_.axis();
  const std::size_t moves = static_cast<std::size_t>(std::count_if(
      axis.cycle.begin(), axis.cycle.end(), [](const Section& s) { return s.spec().id == "move"; }));
  QString summary = "empty";
  if (moves > 0) {
    const auto first = std::find_if(axis.cycle.begin(), axis.cycle.end(),
                                    [](const Section& s) { return s.spec().id == "move"; });
    summary = QString::fromStdString(first->text("distance") + " in " + first->text("time"));
    if (moves > 1) summary += QString(" + %1 more").arg(moves - 1);
  }
  set_summary(summary);
  if (!is_open()) return;
  const bool same =
      segments_.size() == axis.cycle.size() &&
      std::equal(segments_.begin(), segments_.end(), axis.cycle.begin(),
                 [](const Segment& shown, const Section& section) { return shown.spec == &section.spec(); });
  if (!same) rebuild();
  for (std::size_t i = 0; i < segments_.size(); ++i)
    for (std::size_t k = 0; k < segments_[i].rows.size(); ++k)
      segments_[i].rows[k]->show_entry(axis.cycle[i].entry(k));
}

FieldRow* MoveForm::reveal(const std::string& section, std::string_view field) {
  set_open(true);
  for (const Segment& segment : segments_)
    for (FieldRow* row : segment.rows)
      if ((section.empty() || row->section() == section) && (field.empty() || row->field() == field))
        return row;
  return nullptr;
}

} // namespace fulmox::app

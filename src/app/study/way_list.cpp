#include "app/study/way_list.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"

#include <QToolButton>

#include <algorithm>
#include <cmath>

namespace fulmox::app {

QString share_used(double used) {
  return std::isfinite(used) && used < 10.0 ? QString::number(100.0 * used, 'f', 0) + " %"
                                            : QString("none left");
}

QString share_told(double value) {
  constexpr double beyond_sense = 3.0;
  if (!std::isfinite(value) || std::abs(value) > beyond_sense) return {};
  return QString(" (%1%2 %)").arg(value < 0.0 ? "−" : "+").arg(100.0 * std::abs(value), 0, 'f', 0);
}

QString changes_told(const Way& way, const QString& between) {
  QStringList told;
  for (const WayChange& change : way.changes)
    told << QString::fromStdString(change.label) + "  " + QString::fromStdString(change.from) + " → " +
                QString::fromStdString(change.to) + share_told(change.share);
  return told.join(between);
}

WayList::WayList(QWidget* parent) : QScrollArea(parent) {
  setFrameShape(QFrame::NoFrame);
  setWidgetResizable(true);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  auto* list = new QWidget;
  auto* column = new QVBoxLayout(list);
  column->setContentsMargins(0, 0, 4, 0);
  rows_ = new QVBoxLayout;
  rows_->setSpacing(1);
  column->addLayout(rows_);
  column->addStretch();
  setWidget(list);
}

void WayList::clear() {
  while (QLayoutItem* item = rows_->takeAt(0)) {
    delete item->widget();
    delete item;
  }
}

QLabel* WayList::add_line(const QString& text, const char* role, int step) {
  auto* label = wrapped_label("ways_line", role);
  label->setFont(face(step));
  label->setText(text);
  rows_->addWidget(label);
  return label;
}

void WayList::add_way(const Way& way, int index) {
  auto* row = new QWidget;
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(0, 3, 0, 0);
  line->setSpacing(6);
  const bool guessed =
      std::any_of(way.changes.begin(), way.changes.end(), [](const WayChange& c) { return c.guessed; });
  auto* text = wrapped_label("ways_change", "");
  text->setFont(face(-1));
  text->setText((way.about ? "about: " : "") + changes_told(way, "\nand ") + "   → " + share_used(way.used));
  line->addWidget(text, 1);
  auto* button = new QToolButton;
  button->setText("Take");
  button->setObjectName(QString("ways_take_%1").arg(index));
  button->setAccessibleName("Take: " + changes_told(way));
  button->setToolTip("Changes the axis, in one step that can be undone");
  button->setProperty("role", "part");
  connect(button, &QToolButton::clicked, this, [this, way] { emit taken(way); });
  line->addWidget(button, 0, Qt::AlignTop);
  rows_->addWidget(row);
  QStringList worse;
  for (const Moved& moved : way.worse)
    worse << qt(moved.limit) + " " + share_used(moved.before) + " → " + share_used(moved.after);
  constexpr int told_of_them = 3;
  const auto more = worse.size() - told_of_them;
  QString note = guessed ? "A guess: measure it first. " : "";
  if (!worse.isEmpty())
    note += (way.breaks ? "✕ Breaks another: " : "Worse: ") + worse.mid(0, told_of_them).join(", ") +
            (more > 0 ? QString(" and %1 more").arg(more) : "");
  if (!note.isEmpty()) add_line(note, way.breaks ? "fault" : "soft", -2)->setToolTip(worse.join("\n"));
}

QString WayList::show(const WaysOut& found) {
  clear();
  if (!found.sentence.empty()) {
    add_line("How far each comes:", "soft");
    for (const auto& stuck : found.stuck)
      add_line(QString::fromStdString(stuck.label) + " at " + QString::fromStdString(stuck.at) + ": " +
                   share_used(stuck.best),
               "soft");
    return qt(found.sentence);
  }
  int index = 0;
  for (const Way& way : found.ways) add_way(way, index++);
  return found.ways.empty() ? "Clear." : "The least change that is enough, judged again in full:";
}

} // namespace fulmox::app

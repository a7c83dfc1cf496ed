#include "app/study/ways_page.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"

#include <QScrollArea>
#include <QSignalBlocker>
#include <QToolButton>

#include <cmath>

namespace fulmox::app {
namespace {

const QString room_entry = "Room until the first limit";

QString percent(double used) {
  return std::isfinite(used) && used < 10.0 ? QString::number(100.0 * used, 'f', 0) + " %"
                                            : QString("none left");
}

QString share(double value) {
  constexpr double beyond_sense = 3.0;
  if (!std::isfinite(value) || std::abs(value) > beyond_sense) return {};
  return QString(" (%1%2 %)").arg(value < 0.0 ? "−" : "+").arg(100.0 * std::abs(value), 0, 'f', 0);
}

QString change_told(const WayChange& change) {
  return QString::fromStdString(change.label) + "  " + QString::fromStdString(change.from) + " → " +
         QString::fromStdString(change.to) + share(change.share);
}

} // namespace

WaysPage::WaysPage(Session& session, QWidget* parent) : StudyPage(session, parent) {
  setObjectName("ways_page");
  setAccessibleName("Ways out");
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(8, 4, 4, 4);
  all->setSpacing(4);
  limits_ = choice_box("ways_limit", "Limit to be cleared", {});
  limits_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
  all->addWidget(limits_);
  told_ = wrapped_label("ways_told", "soft");
  told_->setFont(face(-1));
  all->addWidget(told_);
  auto* scroll = new QScrollArea;
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setWidgetResizable(true);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list_ = new QWidget;
  auto* column = new QVBoxLayout(list_);
  column->setContentsMargins(0, 0, 4, 0);
  rows_ = new QVBoxLayout;
  rows_->setSpacing(1);
  column->addLayout(rows_);
  column->addStretch();
  scroll->setWidget(list_);
  all->addWidget(scroll, 1);
  connect(limits_, &QComboBox::activated, this, [this](int index) {
    wanted_ = limits_->itemData(index).toString().toStdString();
    outdate();
  });
}

void WaysPage::look_at(std::string_view limit) {
  wanted_ = limit;
  outdate();
}

std::string WaysPage::list_limits() {
  const QSignalBlocker quiet(limits_);
  limits_->clear();
  const Evaluation* e = session().evaluation();
  bool red = false;
  for (const Limit& limit : e->limits) {
    if (limit.state != LimitState::over && limit.state != LimitState::tight) continue;
    red = red || limit.state == LimitState::over;
    limits_->addItem(qt(limit.label) + ", " + percent(limit.used), qt(limit.id));
  }
  if (!red) limits_->addItem(room_entry, QString());
  int index = limits_->findData(QString::fromStdString(wanted_));
  if (index < 0) index = red ? 0 : limits_->count() - 1;
  limits_->setCurrentIndex(index);
  return limits_->itemData(index).toString().toStdString();
}

StudyPage::Work WaysPage::question() {
  if (!session().has_axis() || session().evaluation() == nullptr || session().stale()) {
    clear();
    told_->setText("Appears once the axis can be worked out.");
    return {};
  }
  const std::string limit = list_limits();
  const Axis axis = session().axis();
  const Section rules = session().document().house_rules;
  told_->setText("Looking…");
  if (limit.empty())
    return [this, axis, rules](const JobLink& link) -> Show {
      return [this, rooms = headroom(axis, rules, [&] { return link.wanted(); })] { show_rooms(rooms); };
    };
  return [this, axis, rules, limit, library = session().library()](const JobLink& link) -> Show {
    WayOptions options;
    options.library = &library;
    options.wanted = [&] { return link.wanted(); };
    return [this, axis, found = ways_out(axis, rules, limit, options)] { show_ways(axis, found); };
  };
}

void WaysPage::clear() {
  while (QLayoutItem* item = rows_->takeAt(0)) {
    delete item->widget();
    delete item;
  }
}

QLabel* WaysPage::add_line(const QString& text, const char* role, int step) {
  auto* label = wrapped_label("ways_line", role);
  label->setFont(face(step));
  label->setText(text);
  rows_->addWidget(label);
  return label;
}

void WaysPage::add_way(const Axis& of, const Way& way, int index) {
  auto* row = new QWidget;
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(0, 3, 0, 0);
  line->setSpacing(6);
  QStringList told;
  bool guessed = false;
  for (const WayChange& change : way.changes) {
    told << change_told(change);
    guessed = guessed || change.guessed;
  }
  auto* text = wrapped_label("ways_change", "");
  text->setFont(face(-1));
  text->setText((way.about ? "about: " : "") + told.join("\nand ") + "   → " + percent(way.used));
  line->addWidget(text, 1);
  auto* button = new QToolButton;
  button->setText("Take");
  button->setObjectName(QString("ways_take_%1").arg(index));
  button->setAccessibleName("Take: " + told.join(" and "));
  button->setToolTip("Changes the axis, in one step that can be undone");
  button->setProperty("role", "part");
  connect(button, &QToolButton::clicked, this, [this, of, way] { take(of, way); });
  line->addWidget(button, 0, Qt::AlignTop);
  rows_->addWidget(row);
  QStringList worse;
  for (const Moved& moved : way.worse)
    worse << qt(moved.limit) + " " + percent(moved.before) + " → " + percent(moved.after);
  constexpr int told_of_them = 3;
  const auto more = worse.size() - told_of_them;
  QString note = guessed ? "A guess: measure it first. " : "";
  if (!worse.isEmpty())
    note += (way.breaks ? "✕ Breaks another: " : "Worse: ") + worse.mid(0, told_of_them).join(", ") +
            (more > 0 ? QString(" and %1 more").arg(more) : "");
  if (!note.isEmpty()) add_line(note, way.breaks ? "fault" : "soft", -2)->setToolTip(worse.join("\n"));
}

void WaysPage::show_ways(const Axis& of, const Expected<WaysOut>& found) {
  clear();
  if (!found) return told_->setText(qt(found.problem().text()));
  if (!found->sentence.empty()) {
    told_->setText(qt(found->sentence));
    add_line("How far each comes:", "soft");
    for (const auto& stuck : found->stuck)
      add_line(QString::fromStdString(stuck.label) + " at " + QString::fromStdString(stuck.at) + ": " +
                   percent(stuck.best),
               "soft");
    return;
  }
  told_->setText(found->ways.empty() ? "Clear." : "The least change that is enough, judged again in full:");
  int index = 0;
  for (const Way& way : found->ways) add_way(of, way, index++);
}

void WaysPage::show_rooms(const Expected<std::vector<Room>>& rooms) {
  clear();
  if (!rooms) return told_->setText(qt(rooms.problem().text()));
  told_->setText("Every limit holds. So far each input may go alone:");
  for (const Room& room : *rooms) {
    add_line(QString::fromStdString(room.label) + "  " + QString::fromStdString(room.from) + " → " +
                 QString::fromStdString(room.to) + share(room.share),
             "")
        ->setObjectName("ways_room");
    add_line(room.unlimited ? QString("no limit within that") : "then " + qt(room.limit), "soft", -2);
  }
}

void WaysPage::take(const Axis& of, const Way& way) {
  if (!session().has_axis() || !(session().axis() == of)) return; // belongs to what was there before
  QStringList told;
  for (const WayChange& change : way.changes) told << change_told(change);
  session().seal();
  session().edit("Way out: " + told.join(" and "), "",
                 [&](Document& document) { document.axes[session().axis_index()] = way.axis; });
  session().seal();
}

} // namespace fulmox::app

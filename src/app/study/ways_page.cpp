#include "app/study/ways_page.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"

#include <QSignalBlocker>

namespace fulmox::app {
namespace {

const QString room_entry = "Room until the first limit";

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
  list_ = new WayList;
  all->addWidget(list_, 1);
  connect(list_, &WayList::taken, this, &WaysPage::take);
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
    limits_->addItem(qt(limit.label) + ", " + share_used(limit.used), qt(limit.id));
  }
  if (!red) limits_->addItem(room_entry, QString());
  int index = limits_->findData(QString::fromStdString(wanted_));
  if (index < 0) index = red ? 0 : limits_->count() - 1;
  limits_->setCurrentIndex(index);
  return limits_->itemData(index).toString().toStdString();
}

StudyPage::Work WaysPage::question() {
  if (!session().has_axis() || session().evaluation() == nullptr || session().stale()) {
    list_->clear();
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

void WaysPage::show_ways(const Axis& of, const Expected<WaysOut>& found) {
  shown_ = of;
  list_->clear();
  told_->setText(found ? list_->show(*found) : qt(found.problem().text()));
}

void WaysPage::show_rooms(const Expected<std::vector<Room>>& rooms) {
  list_->clear();
  if (!rooms) return told_->setText(qt(rooms.problem().text()));
  told_->setText("Every limit holds. So far each input may go alone:");
  for (const Room& room : *rooms) {
    list_
        ->add_line(QString::fromStdString(room.label) + "  " + QString::fromStdString(room.from) + " → " +
                       QString::fromStdString(room.to) + share_told(room.share),
                   "")
        ->setObjectName("ways_room");
    list_->add_line(room.unlimited ? QString("no limit within that") : "then " + qt(room.limit), "soft", -2);
  }
}

void WaysPage::take(const Way& way) {
  if (!session().has_axis() || !(session().axis() == shown_)) return; // belongs to what was there before
  session().seal();
  session().edit("Way out: " + changes_told(way), "",
                 [&](Document& document) { document.axes[session().axis_index()] = way.axis; });
  session().seal();
}

} // namespace fulmox::app

#include "app/givens/list_form.hpp"

#include "app/givens/segment_menu.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "core/motion/cycle.hpp"
#include "core/quantity/format.hpp"
#include "core/quantity/number_text.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QStyleOptionButton>
#include <QStylePainter>

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

QString text_of(const Section& section, std::string_view field) {
  return section.spec().index_of(field) ? QString::fromStdString(section.text(field)) : QString();
}

/// Which fields of a section show without asking: what is typed, required or of use to the chosen law.
bool wanted(const Section& section, const FieldSpec& field) {
  if (field.id == "points") return false; // a record is no text to read
  if (field.required || !section.blank(field.id)) return true;
  if (section.is("run")) return field.id == "time" || field.id == "distance";
  if (!section.is("move")) return !section.is("dwell") && field.id == "smoothing";
  const LawSpec* law = find_law(section.text("law"));
  const bool useful =
      law != nullptr && std::find(law->fields.begin(), law->fields.end(), field.id) != law->fields.end();
  return useful && field.id != "start_speed" && field.id != "end_speed" && field.id != "deceleration";
}

/// What does not fit into the line ends with an ellipsis; all of it stands in the tool tip.
class Line final : public QPushButton {
protected:
  void paintEvent(QPaintEvent* /*event*/) override {
    constexpr int around = 6;
    QStyleOptionButton option;
    initStyleOption(&option);
    option.text = fontMetrics().elidedText(text(), Qt::ElideRight, width() - around).replace("&", "&&");
    QStylePainter(this).drawControl(QStyle::CE_PushButton, option);
  }
};

} // namespace

QString summarize(const Section& section) {
  const std::string_view kind = section.spec().id;
  if (kind == "move") {
    QString text = text_of(section, "distance");
    if (!section.blank("time")) return text + " in " + text_of(section, "time");
    return section.blank("peak_speed") ? text : text + " at " + text_of(section, "peak_speed");
  }
  if (kind == "run")
    return text_of(section, "speed") + ", " +
           (section.blank("time") ? text_of(section, "distance") : text_of(section, "time"));
  if (kind == "dwell")
    return text_of(section, "time") + (section.text("held_by") == "brake" ? ", braked" : "");
  if (kind == "profile") return QString::number(section.entry("points").curve.size()) + " points";
  if (kind == "repeat") return text_of(section, "count") + " × " + text_of(section, "name");
  if (section.spec().index_of("name") && !section.blank("name")) return text_of(section, "name");
  for (const char* ratio : {"driven", "wheel"})
    if (section.spec().index_of(ratio))
      return text_of(section, ratio) + " : " +
             text_of(section, ratio == std::string("driven") ? "driving" : "starts");
  if (section.spec().index_of("sun")) return text_of(section, "ring") + " / " + text_of(section, "sun");
  return {};
}

ListForm::ListForm(Session& session, int number, const ListInfo& list, QWidget* parent)
    : Fold(QString::number(number) + "  " + qt(list.title), parent), session_(session), list_(list) {
  setObjectName("list_" + qt(list.id));
  auto* buttons = new QHBoxLayout;
  buttons->setContentsMargins(10, 4, 26, 0);
  for (const std::string_view kind : list.offered) add_button(buttons, kind);
  auto* more = new QToolButton;
  more->setText("+ …");
  more->setProperty("role", "part");
  more->setObjectName("add_more_" + qt(list.id));
  more->setAccessibleName("Add another kind of " + qt(list.what));
  more->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(more);
  connect(menu, &QMenu::aboutToShow, this, [this, menu] {
    menu->clear();
    if (!session_.has_axis()) return;
    for (const SectionSpec* spec : list_.kinds(session_.axis())) {
      const std::string kind(spec->id);
      menu->addAction(qt(spec->title), this, [this, kind] { add_section(kind); });
    }
    if (list_.id == "cycle") return;
    menu->addSeparator();
    if (list_.id == "pieces")
      menu->addAction("From a CSV file…", this, [this] { emit tool_requested("import_pieces", -1); });
  });
  more->setMenu(menu);
  buttons->addWidget(more);
  buttons->addStretch();
  body()->addLayout(buttons);
  connect(this, &Fold::opened, this, &ListForm::refresh);
}

void ListForm::add_button(QLayout* layout, std::string_view kind) {
  const std::string which(kind);
  auto* button = new QToolButton;
  const SectionSpec* spec = find_kind(new_axis(""), list_, kind);
  button->setText("+ " + qt(spec->title));
  button->setProperty("role", "part");
  button->setObjectName("add_" + qt(kind));
  connect(button, &QToolButton::clicked, this, [this, which] { add_section(which); });
  layout->addWidget(button);
}

void ListForm::change(const QString& name, const std::function<void(Sections&)>& how) {
  session_.edit(name, "",
                [&](Document& document) { how(document.axes[session_.axis_index()].*list_.member); });
}

void ListForm::add_section(std::string_view kind) {
  const SectionSpec* spec = find_kind(session_.axis(), list_, kind);
  Section section(*spec);
  if (kind == "move") {
    // the natural next move goes back to the start
    double ends_at = 0.0;
    for (const Section& other : session_.axis().cycle)
      if (other.is("move")) ends_at += other.term("distance");
    if (std::abs(ends_at) > 1e-12) {
      const bool turning = motion_of(session_.axis()).rotary();
      const double shown = turning ? ends_at * 180.0 / M_PI : ends_at * 1e3;
      section.type("distance", number_text(-shown, 6) + (turning ? " deg" : " mm"));
    }
  }
  change("Add " + qt(spec->title).toLower(), [&](Sections& all) { all.push_back(section); });
  if (!items_.empty()) open_item(items_.size() - 1, true);
}

void ListForm::rebuild() {
  std::vector<bool> open;
  for (const Item& item : items_) open.push_back(item.open);
  items_.clear();
  // the button whose click led here is one of its children: it must outlive the click
  if (host_ != nullptr) retired_.retire(host_);
  host_ = new QWidget(body()->parentWidget());
  auto* layout = new QVBoxLayout(host_);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(1);
  const Sections& sections = session_.axis().*list_.member;
  for (std::size_t i = 0; i < sections.size(); ++i) {
    Item item;
    item.spec = &sections[i].spec();
    item.open = i < open.size() ? open[i] : open.empty() && i == 0;
    items_.push_back(item);
  }
  first_ = std::min(first_, items_.empty() ? 0 : (items_.size() - 1) / page * page);
  if (items_.size() > page) layout->addLayout(pager());
  for (std::size_t i = first_; i < shown_end(); ++i) {
    make_item(i);
    layout->addWidget(items_[i].box);
  }
  body()->insertWidget(0, host_);
  for (std::size_t i = first_; i < shown_end(); ++i) open_item(i, items_[i].open);
}

std::size_t ListForm::shown_end() const { return std::min(items_.size(), first_ + page); }

/// Turns through a list that is too long to be shown at once: thousands of rows would make typing slow.
QLayout* ListForm::pager() {
  auto* row = new QHBoxLayout;
  row->setContentsMargins(6, 2, 26, 2);
  const auto turn = [&](const QString& text, const QString& tip, bool possible, std::size_t to) {
    auto* button = new QToolButton;
    button->setText(text);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setObjectName((to > first_ ? "later_" : "earlier_") + qt(list_.id));
    button->setEnabled(possible);
    connect(button, &QToolButton::clicked, this, [this, to] { show_page(to); });
    row->addWidget(button);
  };
  turn("‹", "Earlier ones", first_ > 0, first_ >= page ? first_ - page : 0);
  row->addWidget(new QLabel(QString("%1–%2 of %3").arg(first_ + 1).arg(shown_end()).arg(items_.size())), 1,
                 Qt::AlignCenter);
  turn("›", "Later ones", shown_end() < items_.size(), first_ + page);
  return row;
}

void ListForm::show_page(std::size_t first) {
  first_ = first;
  rebuild();
}

void ListForm::make_item(std::size_t index) {
  Item& item = items_[index];
  item.box = new QWidget(host_);
  auto* rows = new QVBoxLayout(item.box);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(1);
  auto* header = new QHBoxLayout;
  header->setContentsMargins(4, 2, 0, 0);
  header->setSpacing(0);
  item.line = new Line;
  item.line->setObjectName(qt(list_.id) + "_line_" + QString::number(index));
  item.line->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
  item.line->setStyleSheet("text-align: left; padding: 1px 2px");
  connect(item.line, &QPushButton::clicked, this, [this, index] { open_item(index, !items_[index].open); });
  header->addWidget(item.line, 1);
  const QString what = qt(list_.what);
  const auto add = [&](const QString& text, const QString& tip, const std::function<void(Sections&)>& act) {
    auto* button = new QToolButton;
    button->setText(text);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setFixedSize(text.size() > 1 ? 40 : 22, 20);
    button->setStyleSheet("padding: 0");
    connect(button, &QToolButton::clicked, this, [this, act, tip] { change(tip, act); });
    header->addWidget(button);
  };
  add("↑", "Move " + what + " earlier", [index](Sections& all) {
    if (index > 0) std::swap(all[index], all[index - 1]);
  });
  // a segment is copied by its menu: the line needs the room to tell what it is
  if (list_.id == "cycle")
    header->addWidget(more_button(index));
  else
    add("copy", "Copy " + what, [index](Sections& all) {
      Section copy = all[index];
      all.insert(all.begin() + static_cast<std::ptrdiff_t>(index) + 1, std::move(copy));
    });
  add("×", "Remove " + what,
      [index](Sections& all) { all.erase(all.begin() + static_cast<std::ptrdiff_t>(index)); });
  rows->addLayout(header);
}

QToolButton* ListForm::more_button(std::size_t index) {
  auto* more = new QToolButton;
  more->setText("…");
  more->setObjectName("more_segment_" + QString::number(index));
  more->setAccessibleName("More for this segment");
  more->setToolTip("Copy, mirror, cut, split, reorder, process force from a file");
  more->setFixedSize(24, 20);
  more->setStyleSheet("QToolButton { padding: 0 } QToolButton::menu-indicator { image: none }");
  more->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(more);
  // filled when opened: what can be done depends on the cursor
  connect(menu, &QMenu::aboutToShow, this, [this, menu, index] {
    menu->clear();
    fill_segment_menu(*menu, session_, index);
    if (!session_.axis().cycle[index].spec().index_of("process_curve")) return;
    menu->addSeparator();
    menu->addAction("Process over position from CSV…", this,
                    [this, index] { emit tool_requested("import_process", static_cast<int>(index)); });
  });
  more->setMenu(menu);
  return more;
}

void ListForm::open_item(std::size_t index, bool open) {
  if (index < first_ || index >= shown_end()) show_page(index / page * page);
  Item& item = items_[index];
  item.open = open;
  if (open && item.fields == nullptr) {
    item.fields = new FieldList(session_, &wanted);
    item.box->layout()->addWidget(item.fields);
    if (item.spec->id == "profile") {
      auto* import = new QToolButton;
      import->setText("Read a CSV file…");
      import->setProperty("role", "part");
      import->setObjectName("import_profile");
      connect(import, &QToolButton::clicked, this,
              [this, index] { emit tool_requested("import_profile", static_cast<int>(index)); });
      item.box->layout()->addWidget(import);
    }
  }
  if (item.fields != nullptr) item.fields->setVisible(open);
  show_item(index);
}

QString ListForm::line_of(std::size_t index) const {
  const Sections& sections = session_.axis().*list_.member;
  int depth = 0;
  for (std::size_t i = 0; i < index; ++i)
    depth += sections[i].is("repeat") ? 1 : sections[i].is("end") && depth > 0 ? -1 : 0;
  if (sections[index].is("end") && depth > 0) --depth;
  const bool foldable = sections[index].size() > 0;
  return QString(foldable ? items_[index].open ? "▾ " : "▸ " : "   ") + QString(2 * depth, ' ') +
         QString::number(index + 1) + "  " + qt(sections[index].spec().title) + "   " +
         summarize(sections[index]);
}

void ListForm::show_item(std::size_t index) {
  Item& item = items_[index];
  const Section& section = (session_.axis().*list_.member)[index];
  const QString line = line_of(index);
  if (item.line->text() != line) {
    item.line->setText(line);
    item.line->setToolTip(line.trimmed());
  }
  if (!item.open || item.fields == nullptr) return;
  item.fields->show_section(section);
  const Evaluation* e = session_.evaluation();
  if (list_.id != "cycle" || e == nullptr || session_.stale() || index >= e->model->load->cycle.facts.size())
    return;
  const SegmentFacts& facts = e->model->load->cycle.facts[index];
  const MotionKinds& kinds = e->model->load->cycle.kinds;
  const auto hint = [&](std::string_view field, double value, Kind kind) {
    item.fields->show_hint(field,
                           std::isfinite(value)
                               ? "→ " + qt(format(std::abs(value), kind, session_.document().units).text())
                               : QString());
  };
  hint("time", facts.time, Kind::time);
  hint("peak_speed", facts.peak_speed, kinds.speed);
  hint("acceleration", facts.peak_acceleration, kinds.acceleration);
  hint("jerk", facts.peak_jerk, kinds.jerk);
  if (section.is("run")) hint("distance", facts.distance, kinds.distance);
  if (facts.accel_share > 0.0) {
    hint("acceleration_share", facts.accel_share, Kind::share);
    hint("deceleration_share", facts.decel_share, Kind::share);
  }
}

void ListForm::refresh() {
  if (!session_.has_axis()) return;
  const Sections& sections = session_.axis().*list_.member;
  QString summary = list_.id == "cycle" ? "empty" : "none";
  const auto first = std::find_if(sections.begin(), sections.end(), [&](const Section& s) {
    return list_.id != "cycle" || s.is("move") || s.is("run") || s.is("profile");
  });
  if (first != sections.end()) {
    summary = list_.id == "cycle" ? summarize(*first) : qt(first->spec().title) + " " + summarize(*first);
    if (sections.size() > 1) summary += QString(" + %1 more").arg(sections.size() - 1);
  }
  set_summary(summary);
  if (!is_open()) return;
  const bool same =
      items_.size() == sections.size() &&
      std::equal(items_.begin(), items_.end(), sections.begin(),
                 [](const Item& shown, const Section& section) { return shown.spec == &section.spec(); });
  if (!same) return rebuild();
  for (std::size_t i = first_; i < shown_end(); ++i) show_item(i);
}

FieldRow* ListForm::reveal(const std::string& section, std::string_view field) {
  set_open(true);
  const Sections& sections = session_.axis().*list_.member;
  for (std::size_t i = 0; i < items_.size(); ++i) {
    if (!section.empty() && sections[i].path != section) continue;
    if (!items_[i].open || items_[i].fields == nullptr) open_item(i, true);
    if (field.empty() && sections[i].size() > 0) return items_[i].fields->reveal(sections[i].field(0).id);
    return items_[i].fields->reveal(field);
  }
  return nullptr;
}

} // namespace fulmox::app

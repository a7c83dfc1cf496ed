#include "app/header/header_bar.hpp"

#include "app/session/axis_name.hpp"
#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"
#include "core/evaluation/rule_changes.hpp"
#include "core/project/names.hpp"

#include <QLabel>
#include <QPainter>
#include <QSignalBlocker>

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

/// Ends in … where the name has no room, until it is typed in.
class NameEdit final : public QLineEdit {
protected:
  void paintEvent(QPaintEvent* event) override {
    constexpr int inside = 5; // border, padding and the field's own margin
    const QRect room = rect().adjusted(inside, 0, -inside, 0);
    const QString shown = fontMetrics().elidedText(text(), Qt::ElideRight, room.width());
    if (hasFocus() || shown == text()) return QLineEdit::paintEvent(event);
    setToolTip(text());
    QPainter painter(this);
    painter.setPen(palette().color(QPalette::Text));
    painter.drawText(room, Qt::AlignVCenter | Qt::AlignLeft, shown);
  }
};

} // namespace

HeaderBar::HeaderBar(Session& session, QMenu* machine_menu, QWidget* parent)
    : QWidget(parent), session_(session) {
  setObjectName("header");
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(8, 6, 8, 6);
  row->setSpacing(6);
  auto* menu = tool("☰", "Machine: new, open, save…", "machine_menu");
  menu->setMenu(machine_menu);
  menu->setPopupMode(QToolButton::InstantPopup);
  menu->setFocusPolicy(Qt::TabFocus);
  row->addWidget(menu);
  name_ = new NameEdit;
  name_->setObjectName("machine_name");
  name_->setAccessibleName("Machine name");
  name_->setFont(face(1, true));
  name_->setStyleSheet("QLineEdit { border-color: transparent; background: transparent; } QLineEdit:focus { "
                       "background: palette(base); }");
  connect(name_, &QLineEdit::editingFinished, this, [this] {
    if (name_->text() != QString::fromStdString(session_.document().name))
      session_.edit("Rename machine", "", [&](Document& d) { d.name = name_->text().toStdString(); });
  });
  row->addWidget(name_);
  chip_row_ = new QHBoxLayout;
  chip_row_->setSpacing(4);
  row->addLayout(chip_row_);
  all_axes_ = tool("", "All axes of the machine", "all_axes");
  all_axes_->setMenu(new QMenu(all_axes_));
  all_axes_->setPopupMode(QToolButton::InstantPopup);
  all_axes_->setFocusPolicy(Qt::TabFocus);
  connect(all_axes_->menu(), &QMenu::aboutToShow, this, &HeaderBar::list_axes);
  row->addWidget(all_axes_);
  add_ = tool("+", "Add an axis", "add_axis");
  connect(add_, &QToolButton::clicked, this, &HeaderBar::add_axis_requested);
  row->addWidget(add_);
  row->addStretch();
  undo_ = tool("↶", "", "undo");
  redo_ = tool("↷", "", "redo");
  connect(undo_, &QToolButton::clicked, &session_, &Session::undo);
  connect(redo_, &QToolButton::clicked, &session_, &Session::redo);
  row->addWidget(undo_);
  row->addWidget(redo_);
  units_ = new QComboBox;
  units_->setObjectName("units");
  units_->setAccessibleName("Unit set");
  units_->setToolTip("Units in which results are shown; inputs keep the unit they were typed in");
  units_->addItems({"SI", "inch"});
  connect(units_, &QComboBox::activated, this, [this](int index) {
    session_.edit("Change unit set", "",
                  [&](Document& d) { d.units = index == 1 ? UnitSet::inch : UnitSet::si; });
  });
  row->addWidget(units_);
  rules_ = new QComboBox;
  rules_->setObjectName("house_rules");
  rules_->setAccessibleName("House rules");
  connect(rules_, &QComboBox::activated, this, [this](int index) {
    if (index >= static_cast<int>(session_.house_rule_sets().size())) return;
    session_.edit("Change house rules", "", [&](Document& d) {
      const auto unknown = d.house_rules.unknown;
      d.house_rules = session_.house_rule_sets()[static_cast<std::size_t>(index)];
      d.house_rules.unknown = unknown;
    });
  });
  rules_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
  rules_->setMaximumWidth(118);
  row->addWidget(rules_);
  auto* find = tool("Find…", "Find inputs, results, limits and commands (Ctrl+K)", "find");
  connect(find, &QToolButton::clicked, this, &HeaderBar::find_requested);
  row->addWidget(find);
  new Refresher(session, this, results_changed | Change::machine, [this](Changes) { refresh(); });
}

QToolButton* HeaderBar::tool(const QString& text, const QString& tip, const QString& name) {
  auto* button = new QToolButton;
  button->setText(text);
  button->setToolTip(tip);
  button->setAccessibleName(tip.isEmpty() ? name : tip);
  button->setObjectName(name);
  return button;
}

void HeaderBar::rebuild_chips() {
  for (QToolButton* chip : chips_) retired_.retire(chip);
  chips_.clear();
  fitted_.reset();
  for (std::size_t i = 0; i < session_.document().axes.size(); ++i) {
    auto* chip = tool("", "", QString("axis_%1").arg(i));
    chip->setProperty("role", "chip");
    chip->setCheckable(true);
    chip->setContextMenuPolicy(Qt::ActionsContextMenu);
    connect(chip, &QToolButton::clicked, this, [this, i] {
      session_.select_axis(i);
      refresh();
    });
    auto* rename = new QAction("Rename…", chip);
    connect(rename, &QAction::triggered, this, [this, i] { ask_axis_name(session_, i, this); });
    auto* remove = new QAction("Remove axis", chip);
    connect(remove, &QAction::triggered, this,
            [this, i] { session_.edit("Remove axis", "", [&](Document& d) { remove_axis(d, i); }); });
    chip->addActions({rename, remove});
    chips_.push_back(chip);
    chip_row_->addWidget(chip);
    chip->show(); // at once, so that it counts when room is shared out
  }
}

void HeaderBar::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  fit_chips();
}

namespace {

enum Brevity { whole, no_unit, no_share, short_name, not_all };

QString share_of(double used) {
  return std::isfinite(used) ? QString(" %1").arg(std::min(100.0 * used, 999.0), 0, 'f', 0) : QString();
}

/// What nothing judges may be over as well: such an axis is not clear.
QString axis_glyph(double used, const QString& open, const Document& document) {
  if (used > 1.0) return glyph(2);
  if (used > document.house_rules.term("attention")) return glyph(1);
  return glyph(std::isnan(used) || !open.isEmpty() ? 3 : 0);
}

QString told_axis(const QString& name, double used, const QString& open) {
  if (std::isnan(used)) return name + ": not worked out yet";
  return name + ": worst limit" + share_of(used) + " %" + (open.isEmpty() ? "" : "\n" + open);
}

} // namespace

/// Told apart sooner than the words are put together.
HeaderBar::Said HeaderBar::said() const {
  const Document& document = session_.document();
  Said said{width(), session_.axis_index(), name_->text(), document.house_rules.term("attention"), {}};
  for (std::size_t i = 0; i < document.axes.size(); ++i) {
    const double used = session_.worst_used(i);
    said.axes.push_back({document.axes[i].name, std::isnan(used), used > 1.0, used > said.attention,
                         std::isfinite(used) ? std::rint(100.0 * used) : -1.0, session_.left_open(i)});
  }
  return said;
}

QString HeaderBar::chip_text(std::size_t axis, int brevity) const {
  const Document& document = session_.document();
  const double used = session_.worst_used(axis);
  const QString name = QString::fromStdString(document.axes[axis].name);
  const QString share = share_of(used);
  constexpr int few = 4, many = 14; // where some are left out, those that are shown are shown readable
  const int letters = brevity == short_name ? few : many;
  QString text = brevity < short_name || name.size() <= letters ? name : name.left(letters - 1) + "…";
  text += (brevity == whole ? "  " : " ") + axis_glyph(used, session_.left_open(axis), document);
  if (brevity < no_share) text += share;
  if (brevity == whole && !share.isEmpty()) text += " %";
  return text;
}

QStringList HeaderBar::chip_texts(int brevity) const {
  QStringList texts;
  for (std::size_t i = 0; i < chips_.size(); ++i) texts << chip_text(i, brevity);
  return texts;
}

/// The words if they said more; none where they say all.
QStringList HeaderBar::fuller_texts(int brevity) const {
  return brevity == whole ? QStringList() : chip_texts(brevity - 1);
}

int HeaderBar::room_for(const QStringList& texts) const {
  int room = 0;
  for (const QString& text : texts) room += line_width(text, chips_.front()->font());
  return room;
}

/// Whether all words would come out as they stand: an edit moves shares that are not shown, and trying what
/// fits lays the whole bar out several times.
bool HeaderBar::chips_still_fit() const {
  return fitted_ && fitted_->width == width() && fitted_->axis == session_.axis_index() &&
         fitted_->name == name_->text() && fitted_->texts == chip_texts(fitted_->brevity) &&
         (fitted_->fuller == fuller_texts(fitted_->brevity) ||
          fitted_->more <= room_for(fuller_texts(fitted_->brevity)));
}

/// Says as much as there is room for: the share first goes without its unit, then altogether, then names are
/// shortened; of more axes than that only those near the present one are shown, by their names, and a list of
/// all.
void HeaderBar::fit_chips() {
  if (chips_.size() != session_.document().axes.size()) return;
  Said now = said();
  if (fitted_ && said_ == now) return check_chips();
  said_ = std::move(now);
  if (chips_still_fit()) return tell_chips();
  for (QToolButton* chip : chips_) chip->show();
  all_axes_->hide();
  constexpr int least_name = 120;
  for (int brevity = whole; brevity <= not_all; ++brevity) {
    word_chips(brevity);
    name_->setMinimumWidth(brevity >= short_name ? least_name : name_->maximumWidth());
    chip_row_->invalidate(); // Qt only tells the outer layout that a text changed
    const QStringList fuller = fuller_texts(brevity);
    fitted_ = Fitted{width(),          session_.axis_index(), name_->text(), brevity,
                     room_for(fuller), chip_texts(brevity),   fuller};
    if (layout()->minimumSize().width() <= width()) return;
  }
  hide_far_chips();
}

void HeaderBar::check_chips() {
  for (std::size_t i = 0; i < chips_.size(); ++i) chips_[i]->setChecked(i == session_.axis_index());
}

/// What hovers, reads aloud and is marked follows every edit.
void HeaderBar::tell_chips() {
  check_chips();
  for (std::size_t i = 0; i < chips_.size(); ++i) {
    const double used = session_.worst_used(i);
    const QString name = QString::fromStdString(session_.document().axes[i].name);
    chips_[i]->setToolTip(told_axis(name, used, session_.left_open(i)));
    chips_[i]->setAccessibleName(name + share_of(used));
  }
}

void HeaderBar::word_chips(int brevity) {
  for (std::size_t i = 0; i < chips_.size(); ++i)
    if (const QString text = chip_text(i, brevity); chips_[i]->text() != text) chips_[i]->setText(text);
  tell_chips();
}

void HeaderBar::hide_far_chips() {
  all_axes_->setText(QString("all %1 ▾").arg(chips_.size()));
  all_axes_->show();
  for (QToolButton* chip : chips_) chip->hide();
  chip_row_->invalidate();
  int room = width() - layout()->minimumSize().width();
  std::size_t first = session_.axis_index();
  std::size_t end = first;
  const auto show = [&](std::size_t i) {
    room -= chips_[i]->sizeHint().width() + chip_row_->spacing();
    if (room < 0) return false;
    chips_[i]->show();
    return true;
  };
  // from the present one outwards, by turns
  while (first > 0 || end < chips_.size()) {
    if (end < chips_.size() && !show(end++)) break;
    if (first > 0 && !show(--first)) break;
  }
  chip_row_->invalidate();
}

void HeaderBar::list_axes() {
  QMenu* menu = all_axes_->menu();
  menu->clear();
  const Document& document = session_.document();
  for (std::size_t i = 0; i < document.axes.size(); ++i) {
    const double used = session_.worst_used(i);
    const QString open = session_.left_open(i);
    const QString name = QString::fromStdString(document.axes[i].name);
    QAction* action = menu->addAction(axis_glyph(used, open, document) + "  " +
                                          told_axis(name, used, open).replace("\n", ", "),
                                      this, [this, i] { session_.select_axis(i); });
    action->setCheckable(true);
    action->setChecked(i == session_.axis_index());
  }
}

void HeaderBar::show_name(const QString& name) {
  if (name_->text() == name) return;
  name_->setText(name);
  name_->setCursorPosition(0);
  name_->setToolTip(name);
  constexpr int frame = 22;
  name_->setMaximumWidth(std::clamp(name_->fontMetrics().horizontalAdvance(name) + frame, 120, 320));
}

void HeaderBar::refresh() {
  const Document& document = session_.document();
  if (!name_->hasFocus()) {
    show_name(QString::fromStdString(document.name));
  }
  if (chips_.size() != document.axes.size()) rebuild_chips();
  fit_chips();
  const History& history = session_.history();
  undo_->setEnabled(history.can_undo());
  redo_->setEnabled(history.can_redo());
  undo_->setToolTip(history.can_undo() ? "Undo: " + QString::fromStdString(history.undo_name()) + "  (Ctrl+Z)"
                                       : "Nothing to undo");
  redo_->setToolTip(history.can_redo()
                        ? "Redo: " + QString::fromStdString(history.redo_name()) + "  (Ctrl+Shift+Z)"
                        : "Nothing to redo");
  units_->setCurrentIndex(document.units == UnitSet::inch ? 1 : 0);
  const QSignalBlocker quiet(rules_);
  if (rules_->count() != static_cast<int>(session_.house_rule_sets().size())) {
    rules_->clear();
    for (const Section& set : session_.house_rule_sets())
      rules_->addItem("rules: " + QString::fromStdString(set.text("name")));
    // Qt keeps the least width from before there was anything in it
    rules_->setMinimumWidth(std::min(rules_->sizeHint().width(), rules_->maximumWidth()));
  }
  int chosen = -1;
  for (std::size_t i = 0; i < session_.house_rule_sets().size(); ++i) {
    const Section& set = session_.house_rule_sets()[i];
    if (set.text("name") == document.house_rules.text("name") &&
        differing_rules(set, document.house_rules).empty())
      chosen = static_cast<int>(i);
  }
  rules_->setCurrentIndex(chosen);
  const QString name = QString::fromStdString(document.house_rules.text("name"));
  constexpr int arrow_and_margins = 30;
  rules_->setPlaceholderText(rules_->fontMetrics().elidedText("own: " + name, Qt::ElideRight,
                                                              rules_->maximumWidth() - arrow_and_margins));
  rules_->setToolTip(
      (chosen < 0 ? "House rules of this machine's own, “" + name + "”: " : QString("House rules: ")) +
      QString::fromStdString(document.house_rules.text("reason")));
}

} // namespace fulmox::app

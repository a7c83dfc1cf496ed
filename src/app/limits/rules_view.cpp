#include "app/limits/rules_view.hpp"

#include "app/ladder/rung_delegate.hpp"
#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/study/table.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/evaluation/rule_changes.hpp"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QStyle>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

constexpr int field_role = Qt::UserRole;
enum Column { rule, here, there, reason };

QString shown(const Section& rules, std::size_t i) {
  return qt(words_of(rules.field(i), rules.entry(i).text));
}

} // namespace

RulesView::RulesView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), rules_(reading_table({"Rule", "in force", "compared", "why"})),
      changes_(reading_table({"Axis", "Limit", "in force", "compared"})),
      told_(wrapped_label("rules_told", "soft")), changed_(wrapped_label("rules_changed", "soft")) {
  setObjectName("rules_view");
  rules_->setObjectName("rules_table");
  rules_->setAccessibleName("House rules in force and compared");
  rules_->setToolTip(
      "Double-click or F2 on a number in force to change it; choices are changed under House rules.");
  rules_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
  rules_->horizontalHeader()->setSectionResizeMode(rule, QHeaderView::ResizeToContents);
  rules_->horizontalHeader()->setSectionResizeMode(reason, QHeaderView::Stretch);
  changes_->setObjectName("rules_changes");
  changes_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
  changes_->horizontalHeader()->setSectionResizeMode(1, QHeaderView::Stretch);
  rules_->horizontalHeaderItem(reason)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  changes_->horizontalHeaderItem(1)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  changes_->setAccessibleName("Limits that the compared rules judge otherwise");
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(8, 8, 8, 8);
  all->setSpacing(6);
  all->addWidget(heading("House rules"));
  all->addWidget(button_row());
  all->addWidget(told_);
  all->addWidget(rules_, 3);
  all->addWidget(heading("What the compared set would change"));
  all->addWidget(changed_);
  all->addWidget(changes_, 2);
  connect(rules_, &QTableWidget::itemChanged, this, &RulesView::typed);
  // a narrow window cuts the reasons: the row in hand tells its own in full
  connect(rules_, &QTableWidget::currentCellChanged, this, [this](int row) {
    if (row >= 0 && rules_->item(row, reason) != nullptr)
      tell(rules_->item(row, rule)->text() + ": " + rules_->item(row, reason)->text().trimmed(), false);
  });
  connect(compared_, &QComboBox::currentIndexChanged, this, [this] {
    if (!filling_) refresh();
  });
  new Refresher(session, this, results_changed | Change::machine, [this](Changes) { refresh(); });
}

QWidget* RulesView::button_row() {
  auto* row = new QWidget;
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(0, 0, 0, 0);
  compared_ = choice_box("rules_compared", "Set to compare with", {});
  take_ = outlined_button("rules_take", "Use it");
  keep_ = outlined_button("rules_keep", "Keep as own");
  import_ = outlined_button("rules_import", "Import…");
  export_ = outlined_button("rules_export", "Export…");
  keep_->setToolTip(
      "Keeps the rules in force under their name, for other machines too. Rename them under House rules.");
  line->addWidget(new QLabel("Compare with"));
  for (QWidget* widget : std::initializer_list<QWidget*>{compared_, take_, keep_, import_, export_})
    line->addWidget(widget);
  line->addStretch(1);
  connect(take_, &QPushButton::clicked, this, [this] {
    if (compared() < 0) return;
    session_.edit("Change house rules", "", [&](Document& d) {
      const auto unknown = d.house_rules.unknown;
      d.house_rules = session_.house_rule_sets()[static_cast<std::size_t>(compared())];
      d.house_rules.unknown = unknown;
    });
  });
  connect(keep_, &QPushButton::clicked, this, [this] {
    kept_told_ = true;
    const auto problem = session_.keep_rules();
    tell(problem ? qt(problem->text())
                 : "Kept as \"" + qt(session_.document().house_rules.text("name")) + "\".",
         problem.has_value());
  });
  connect(import_, &QPushButton::clicked, this, [this] {
    const QString path = QFileDialog::getOpenFileName(this, "Import house rules", {}, "House rules (*.json)");
    if (path.isEmpty()) return;
    if (const auto problem = session_.import_rules(path)) tell(qt(problem->text()), true);
  });
  connect(export_, &QPushButton::clicked, this, [this] {
    const QString path = QFileDialog::getSaveFileName(
        this, "Export house rules", qt(session_.document().house_rules.text("name")) + ".json",
        "House rules (*.json)");
    if (path.isEmpty()) return;
    const auto problem = session_.export_rules(path);
    tell(problem ? qt(problem->text()) : "Written to " + path + ".", problem.has_value());
  });
  return row;
}

void RulesView::tell(const QString& text, bool fault) {
  told_->setText(text);
  told_->setProperty("role", fault ? "fault" : "soft");
  told_->style()->unpolish(told_);
  told_->style()->polish(told_);
}

void RulesView::refresh() {
  filling_ = true;
  QStringList names;
  for (const Section& set : session_.house_rule_sets()) names << qt(set.text("name"));
  QStringList known;
  for (int i = 0; i < compared_->count(); ++i) known << compared_->itemText(i);
  if (names != known) {
    const QString before = compared_->currentText();
    compared_->clear();
    compared_->addItems(names);
    // another one than the set in force says something
    const auto other = static_cast<int>(names.indexOf(before));
    const QString in_force = qt(session_.document().house_rules.text("name"));
    const auto differs = [&](const QString& name) { return name != in_force; };
    const auto first = std::find_if(names.begin(), names.end(), differs);
    compared_->setCurrentIndex(other >= 0             ? other
                               : first != names.end() ? static_cast<int>(first - names.begin())
                                                      : 0);
  }
  show_rules();
  show_changes();
  filling_ = false;
}

void RulesView::show_rules() {
  const Section& now = session_.document().house_rules;
  const Section* other =
      compared() >= 0 ? &session_.house_rule_sets()[static_cast<std::size_t>(compared())] : nullptr;
  const auto differing = other != nullptr ? differing_rules(now, *other) : std::vector<std::size_t>{};
  // name and reason are told above
  std::vector<std::size_t> fields;
  for (std::size_t i = 0; i < now.size(); ++i)
    if (now.field(i).id != "name" && now.field(i).id != "reason") fields.push_back(i);
  rules_->setRowCount(static_cast<int>(fields.size()));
  for (int row = 0; row < rules_->rowCount(); ++row) {
    const std::size_t i = fields[static_cast<std::size_t>(row)];
    const bool differs = std::find(differing.begin(), differing.end(), i) != differing.end();
    set_cell(rules_, row, rule, qt(std::string(now.field(i).label)), differs);
    set_cell(rules_, row, here, shown(now, i), differs);
    set_cell(rules_, row, there, other != nullptr ? shown(*other, i) : QString(), differs);
    set_cell(rules_, row, reason, "   " + qt(std::string(now.field(i).help)));
    rules_->item(row, reason)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    for (const int column : {rule, here, there, reason}) {
      QTableWidgetItem* item = rules_->item(row, column);
      item->setData(field_role, qt(std::string(now.field(i).id)));
      item->setToolTip(qt(std::string(now.field(i).help)));
      const bool editable = column == here && now.field(i).choices.empty() && !session_.read_only();
      item->setFlags(editable ? item->flags() | Qt::ItemIsEditable : item->flags() & ~Qt::ItemIsEditable);
    }
  }
  if (!kept_told_) tell("In force: " + qt(now.text("name")) + ". " + qt(now.text("reason")), false);
  kept_told_ = false;
  for (std::size_t i = 0; i < now.size(); ++i)
    if (now.entry(i).faulty()) tell(qt(now.entry(i).fault.text()), true);
}

void RulesView::show_changes() {
  changes_->setRowCount(0);
  if (compared() < 0) return;
  const auto all =
      rule_changes(session_.document(), session_.house_rule_sets()[static_cast<std::size_t>(compared())]);
  changes_->setRowCount(static_cast<int>(all.size()));
  for (int row = 0; row < changes_->rowCount(); ++row) {
    const RuleChange& change = all[static_cast<std::size_t>(row)];
    set_cell(changes_, row, 0, qt(change.axis));
    set_cell(changes_, row, 1, qt(std::string(change.limit)));
    changes_->item(row, 1)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    set_cell(changes_, row, 2, qt(std::string(word(change.now))) + "  " + used_told(change.used_now));
    set_cell(changes_, row, 3, qt(std::string(word(change.then))) + "  " + used_told(change.used_then), true);
  }
  changed_->setText(
      all.empty() ? "No limit of any axis changes its state."
                  : QString("%1 of all axes change their state.")
                        .arg(all.size() == 1 ? QString("One limit") : QString("%1 limits").arg(all.size())));
}

void RulesView::typed(QTableWidgetItem* item) {
  if (filling_ || item->column() != here) return;

  session_.type("house_rules", item->data(field_role).toString().toStdString(), item->text());
  session_.seal();
}

} // namespace fulmox::app

// The views of heat, of limits at their corners with what is often forgotten, and of the house rules.

#include "app/jobs/jobs.hpp"
#include "app/sheet/plot.hpp"
#include "app/views/sheet.hpp"
#include "app/window.hpp"
#include "core/evaluation/corners.hpp"
#include "core/library/house_rule_sets.hpp"

#include <QFileDialog>
#include <QPushButton>
#include <QTableWidget>

#include <algorithm>
#include <fstream>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

void show_view(Window& w, Qt::Key key, std::string_view id) {
  QTest::keyClick(&w.window, key, Qt::ControlModifier);
  w.settle();
  REQUIRE(w.window.sheet()->shown().id == id);
}

QString cell(const QTableWidget* table, const QString& first, int column) {
  for (int row = 0; row < table->rowCount(); ++row)
    if (table->item(row, 0)->text() == first) return table->item(row, column)->text();
  return {};
}

} // namespace

TEST_CASE("the heat of the motor is drawn and follows what is typed") {
  Window w;
  show_view(w, Qt::Key_5, "heat");
  auto* told = w.child<QLabel>("heat_told");
  auto* cycle = w.child<Plot>("heat_cycle");
  auto* hours = w.child<Plot>("heat_hours");
  REQUIRE(cycle != nullptr);
  CHECK(told->text().startsWith("Steady: the winding reaches 64.3 °C"));
  CHECK(cycle->graph(0)->data()->size() > 1);
  const double before = hours->graph(0)->data()->at(hours->graph(0)->data()->size() - 1)->value;
  CHECK(before == Approx(64.0).margin(1.0));
  CHECK(w.child<QTableWidget>("heat_duty")->rowCount() == 4);
  w.type("surroundings.ambient", "60 degC");
  w.settle();
  CHECK(hours->graph(0)->data()->at(hours->graph(0)->data()->size() - 1)->value > before + 14.0);
  w.type("motor.winding_limit", "");
  w.settle();
  CHECK(told->text().contains("winding's limit"));
  CHECK(told->text().contains("Motor, winding limit"));
  CHECK(cycle->graph(0)->data()->isEmpty());
}

TEST_CASE("limits stand beside their worst corner, and a row leads to the spread that makes it") {
  Window w;
  w.type("load.friction", "0.1 ±80%");
  show_view(w, Qt::Key_6, "limits");
  w.session.jobs().wait();
  w.settle();
  auto* table = w.child<QTableWidget>("corners_table");
  CHECK(w.child<QLabel>("corners_told")->text().startsWith("2 inputs with a spread, 25 combinations"));
  REQUIRE(table->rowCount() > 10);
  const auto share = [&](const QString& text) { return text.chopped(2).toDouble(); };
  CHECK(share(cell(table, "Rms torque", 2)) >= share(cell(table, "Rms torque", 1)));
  const QString mainly = cell(table, "Rms torque", 4).trimmed();
  CHECK_FALSE(mainly.isEmpty());
  for (int row = 0; row < table->rowCount(); ++row)
    if (table->item(row, 0)->text() == "Rms torque") emit table->itemActivated(table->item(row, 0));
  w.settle();
  auto* focused = qobject_cast<QLineEdit*>(w.window.focusWidget());
  REQUIRE(focused != nullptr);
  CHECK(focused == (mainly == "Load, friction coefficient" ? w.field("load.friction")
                                                           : w.field("mechanism.efficiency")));
}

TEST_CASE("a rung clear as typed and over at a corner is over, and tells which spread makes it") {
  Window w;
  CHECK(w.rung("Winding temperature").startsWith("clear, "));
  w.type("load.moved_mass", "10 kg ±20%");
  w.type("motor.kt", "0.0714 N.m/A ±30%");
  w.settle();
  const Corners found = *corners(w.session.axis(), w.session.document().house_rules);
  const auto hot = std::find_if(found.limits.begin(), found.limits.end(),
                                [](const LimitCorner& limit) { return limit.id == "motor.winding"; });
  REQUIRE(hot->now == LimitState::clear);
  REQUIRE(hot->state == LimitState::over);
  const auto told = [](double used) { return QString::number(100.0 * used, 'f', 0) + " %"; };
  CHECK(w.rung("Winding temperature") == "over, " + told(hot->nominal) + ", " + told(hot->worst) +
                                             ", torque constant low, Winding temperature");
  // among those that are over, before all that are tight
  auto* ladder = w.child<QListWidget>("ladder");
  QStringList states;
  for (int i = 0; i < ladder->count(); ++i)
    states << ladder->item(i)->data(Qt::AccessibleTextRole).toString().section(", ", 0, 0);
  CHECK(states.lastIndexOf("over") < states.indexOf("tight"));
  // what is tried has no corners: the ladder is as typed
  w.session.what_if("motor.kt", 0.07);
  w.settle();
  CHECK(w.rung("Winding temperature").startsWith("clear, "));
  w.session.what_if("motor.kt", std::nullopt);
  w.settle();
  CHECK(w.rung("Winding temperature").startsWith("over, "));
  // no spread, no corner; another axis has its own
  w.type("motor.kt", "0.0714 N.m/A");
  w.type("load.moved_mass", "10 kg");
  w.settle();
  CHECK(w.rung("Winding temperature").startsWith("clear, "));
  w.session.select_axis(1);
  w.settle();
  CHECK_FALSE(w.rung("Winding temperature").contains("torque constant"));
}

TEST_CASE("what is often forgotten leads to its input and goes once it is answered") {
  Window w;
  show_view(w, Qt::Key_6, "limits");
  auto* list = w.child<QListWidget>("forgotten_list");
  const auto line = [&](const QString& start) -> QListWidgetItem* {
    for (int i = 0; i < list->count(); ++i)
      if (list->item(i)->text().startsWith(start)) return list->item(i);
    return nullptr;
  };
  const int open = list->count();
  REQUIRE(line("Room to stop") != nullptr);
  list->scrollToItem(line("Room to stop"));
  QTest::mouseClick(list->viewport(), Qt::LeftButton, {},
                    list->visualItemRect(line("Room to stop")).center());
  w.settle();
  CHECK(w.window.focusWidget() == w.field("requirements.room"));
  w.type("requirements.room", "0.2 m");
  w.settle();
  CHECK(line("Room to stop") == nullptr);
  CHECK(list->count() == open - 1);
  CHECK(w.rung("Room to stop").contains("58 %"));
}

TEST_CASE("house rules: changed in their table, compared, kept, exported and imported again") {
  const TemporaryFolder folder;
  qputenv("XDG_CONFIG_HOME", QByteArray::fromStdString(folder.file("config").string()));
  {
    Window w;
    show_view(w, Qt::Key_7, "rules");
    auto* rules = w.child<QTableWidget>("rules_table");
    auto* changes = w.child<QTableWidget>("rules_changes");
    auto* compared = w.child<QComboBox>("rules_compared");
    compared->setCurrentText("matched");
    w.settle();
    CHECK(cell(rules, "Largest inertia ratio", 1) == "5");
    CHECK(cell(rules, "Largest inertia ratio", 2) == "1");
    CHECK(changes->rowCount() == 6);
    CHECK(w.child<QLabel>("rules_changed")->text() == "6 limits of all axes change their state.");
    // by typing into the table the ladder follows at once
    for (int row = 0; row < rules->rowCount(); ++row)
      if (rules->item(row, 0)->text() == "Largest inertia ratio") {
        rules->setCurrentCell(row, 1);
        rules->editItem(rules->item(row, 1));
      }
    auto* editor = rules->findChild<QLineEdit*>();
    REQUIRE(editor != nullptr);
    editor->selectAll();
    QTest::keyClicks(editor, "2");
    QTest::keyClick(editor, Qt::Key_Return);
    w.settle();
    CHECK(w.session.document().house_rules.text("inertia_max") == "2");
    CHECK(w.rung("Inertia ratio").contains("over"));
    w.session.type("house_rules", "name", "our own");
    w.settle();
    QTest::mouseClick(w.child<QPushButton>("rules_keep"), Qt::LeftButton);
    w.settle();
    CHECK(w.child<QLabel>("rules_told")->text() == "Kept as \"our own\".");
    CHECK(compared->findText("our own") >= 0);
    const QString file = QString::fromStdString(folder.file("ours.json").string());
    CHECK_FALSE(w.session.export_rules(file));
    QTest::mouseClick(w.child<QPushButton>("rules_take"), Qt::LeftButton); // "matched"
    w.settle();
    CHECK(w.session.document().house_rules.text("inertia_max") == "1");
    CHECK_FALSE(w.session.import_rules(file));
    CHECK(w.session.document().house_rules.text("name") == "our own");
    CHECK(w.session.import_rules(QString::fromStdString(folder.file("none.json").string())));
    // a misspelt rule would leave what is usual in force without a word
    std::ofstream(folder.file("odd.json")) << R"({"name": "odd", "inertia_maxx": "3"})";
    const auto odd = w.session.import_rules(QString::fromStdString(folder.file("odd.json").string()));
    REQUIRE(odd);
    CHECK(odd->text().find("Is \"inertia_max\" meant?") != std::string::npos);
    CHECK(w.session.document().house_rules.text("name") == "our own");
    w.session.undo();
    CHECK(w.session.document().house_rules.text("inertia_max") == "1");
  }
  Session again; // another run offers the set
  REQUIRE_FALSE(again.load_data());
  CHECK(std::any_of(again.house_rule_sets().begin(), again.house_rule_sets().end(),
                    [](const Section& set) { return set.text("name") == "our own"; }));
  qunsetenv("XDG_CONFIG_HOME");
}

// Every combination tried at once: the list follows the axis, is filtered and weighed, compared, and one of
// it put into the axis with its reasons.

#include "app/match/match_kinds.hpp"
#include "app/match/match_model.hpp"
#include "app/match/match_view.hpp"
#include "app/match/match_ways.hpp"
#include "app/session/words.hpp"
#include "app/views/sheet.hpp"
#include "app/window.hpp"
#include "core/evaluation/machine.hpp"
#include "core/match/rejected_parts.hpp"
#include "core/project/chosen_parts.hpp"
#include "core/project/names.hpp"

#include <QPushButton>
#include <QRegularExpression>
#include <QSlider>
#include <qcustomplot.h>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

/// The view, opened with its keys on the table turner, for which few motors matter: the library is cut down
/// so that a search takes no time under sanitizers.
struct Match {
  explicit Match(Window& window, std::size_t axis = 1) : w(window) {
    Library few;
    // of one size, so that flanges fit
    const std::array<std::string, 5> kept{"CR60", "VK60", "HE23", "HS23-76", "TP60"};
    for (const auto& [slot, step] :
         {std::pair{"motor", 1}, {"gearhead", 1}, {"drive", 2}, {"coupling", 1}, {"brake", 1}}) {
      Parts parts;
      const Parts& all = w.session.library().of(slot);
      for (std::size_t i = 0; i < all.size(); i += static_cast<std::size_t>(step)) {
        const std::string& number = all[i].text("part_number");
        const bool sized = slot == std::string_view("motor") || slot == std::string_view("gearhead");
        if (!sized ||
            std::any_of(kept.begin(), kept.end(), [&](auto& size) { return number.starts_with(size); }))
          parts.push_back(all[i]);
      }
      few.add(slot, std::move(parts));
    }
    w.session.use(std::move(few));
    w.session.select_axis(axis);
    w.settle();
    QTest::keyClick(&w.window, Qt::Key_8, Qt::ControlModifier);
    done();
    REQUIRE(w.child<QWidget>("match_view")->isVisible());
    table = w.child<QTableView>("match_table");
  }
  void done() {
    for (int i = 0; i < 3; ++i) {
      w.session.jobs().wait();
      w.settle();
    }
  }
  void click(const char* name) {
    QTest::mouseClick(w.child<QToolButton>(name), Qt::LeftButton);
    done();
  }
  [[nodiscard]] QString text(int row, int column) const {
    return table->model()->index(row, column).data().toString();
  }
  [[nodiscard]] int rows() const { return table->model()->rowCount(); }
  [[nodiscard]] double price(int row) const { return text(row, MatchModel::first_figure).toDouble(); }
  void choose(int row, Qt::KeyboardModifier with = Qt::NoModifier) const {
    const QRect place = table->visualRect(table->model()->index(row, 0));
    QTest::mouseClick(table->viewport(), Qt::LeftButton, with, place.center());
  }
  /// The menu of a facet, as it opens.
  QMenu* facet(const char* id) {
    QMenu* all = w.child<QToolButton>("match_only")->menu();
    emit all->aboutToShow();
    auto* menu = all->findChild<QMenu*>(QString("match_only_") + id);
    REQUIRE(menu != nullptr);
    return menu;
  }

  Window& w;
  QTableView* table = nullptr;
};

std::string part(const Window& w, const char* slot) { return w.session.axis()[slot].text("part_number"); }

} // namespace

TEST_CASE("the list of combinations follows the axis, and what it says is what the axis says") {
  Window w;
  Match match(w);
  REQUIRE(match.rows() > 3);
  const QString before = w.child<QToolButton>("match_show_fits")->text();
  w.type("load.moved_mass", "15 kg");
  match.done();
  CHECK(w.child<QToolButton>("match_show_fits")->text() != before);
  match.choose(1);
  const QString motor = match.text(1, MatchModel::motor_column),
                used = match.text(1, MatchModel::used_column);
  QTest::keyClicks(w.child<QLineEdit>("match_reason"), "in stock");
  QTest::mouseClick(w.child<QPushButton>("match_apply"), Qt::LeftButton);
  match.done();
  CHECK(motor.startsWith(QString::fromStdString(part(w, "motor"))));
  CHECK(QString::number(100.0 * worst_used(*w.session.evaluation()), 'f', 0) + " %" == used);
  const auto& choices = w.session.document().lists.find("choices")->second;
  REQUIRE(choices.size() == 1);
  CHECK(choices.front().text("axis") == w.session.axis().name);
  CHECK(choices.front().text("reason") == "in stock");
  CHECK(QString::fromStdString(choices.front().text("chosen")).startsWith(motor));
  CHECK(choices.front().text("rivals").find(";") != std::string::npos);
  CHECK(choices.front().text("weights") == "Worst limit 1, Price 1");
  match.click("match_show_choices");
  CHECK(w.child<QTableWidget>("match_choices")->item(0, 2)->text() == "in stock");
  w.session.undo();
  match.done();
  CHECK(w.session.document().lists.find("choices")->second.empty());
  w.session.redo();
  const auto again = from_json(to_json(w.session.document()));
  REQUIRE(again);
  CHECK(*again == w.session.document());
}

TEST_CASE("filters leave as many as they say, and weights change the order") {
  Window w;
  Match match(w);
  const int all = match.rows();
  QMenu* kinds = match.facet("motor.kind");
  REQUIRE(kinds->actions().size() > 1);
  QAction* kind = kinds->actions().first();
  const QString told = kind->text();
  const int left = told.mid(told.lastIndexOf('(') + 1).chopped(1).toInt();
  kind->trigger();
  match.done();
  CHECK(match.rows() == left);
  CHECK(left < all);
  CHECK(w.child<QLabel>("match_only_told")->text().startsWith("only Kind of motor: "));
  // of the values not chosen each says how many it would leave alone
  int sum = 0;
  for (const QAction* action : match.facet("motor.kind")->actions())
    sum += action->text().mid(action->text().lastIndexOf('(') + 1).chopped(1).toInt();
  CHECK(sum == all);
  match.click("match_all");
  CHECK(match.rows() == all);

  auto* price = w.child<QLineEdit>("match_price");
  QTest::keyClicks(price, "350");
  QTest::keyClick(price, Qt::Key_Return);
  match.done();
  CHECK(match.rows() < all);
  for (int row = 0; row < match.rows(); ++row) CHECK(match.price(row) <= 350.0);
  price->clear();
  QTest::keyClicks(price, "cheap");
  QTest::keyClick(price, Qt::Key_Return);
  CHECK(price->toolTip().contains("no price"));
  match.click("match_all");

  w.child<QSlider>("match_weight_used")->setValue(0);
  match.done();
  for (int row = 1; row < match.rows(); ++row) CHECK(match.price(row) >= match.price(row - 1));
}

TEST_CASE("up to four combinations stand side by side, with every limit") {
  Window w;
  Match match(w);
  match.choose(0);
  match.choose(2, Qt::ControlModifier);
  CHECK(w.child<QToolButton>("match_show_compare")->text() == "Compare 2");
  CHECK_FALSE(w.child<QPushButton>("match_apply")->isEnabled()); // one at a time
  const QString first = match.text(0, MatchModel::used_column),
                second = match.text(2, MatchModel::used_column);
  match.click("match_show_compare");
  auto* table = w.child<QTableWidget>("match_compare");
  REQUIRE(table->columnCount() == 3);
  CHECK(table->item(0, 1)->text() == first);
  CHECK(table->item(0, 2)->text() == second);
  CHECK(table->rowCount() > 15);
  for (int row = 0; row < table->rowCount(); ++row) { // somebody is best in each row that says anything
    const bool any = table->item(row, 1)->font().bold() || table->item(row, 2)->font().bold();
    const bool numbers = table->item(row, 1)->text() != "–" || table->item(row, 2)->text() != "–";
    if (numbers && !table->item(row, 1)->text().startsWith("not")) CHECK(any);
  }
}

TEST_CASE("near misses name what they break, and the limits that rule out are counted") {
  Window w;
  Match match(w);
  match.click("match_show_misses");
  REQUIRE(match.rows() > 5);
  double before = 0.0;
  for (int row = 0; row < match.rows(); ++row) {
    const QString used = match.text(row, MatchModel::used_column);
    REQUIRE(used.startsWith("✕"));
    if (used.contains('>')) break;
    const double share = used.mid(2).chopped(2).toDouble();
    CHECK(share >= std::max(100.0, before));
    before = share;
    CHECK(match.table->model()->index(row, 0).data(Qt::ToolTipRole).toString().contains("Does not fit:"));
  }
  match.click("match_show_killers");
  auto* killers = w.child<QTableWidget>("match_killers");
  REQUIRE(killers->rowCount() > 2);
  const auto counted = [](QString text) { return text.remove(QRegularExpression("[^0-9]")).toDouble(); };
  double percent = 0.0, combinations = 0.0;
  QStringList limits;
  for (int row = 0; row < killers->rowCount(); ++row) {
    limits << killers->item(row, 0)->text();
    combinations += counted(killers->item(row, 1)->text());
    percent += killers->item(row, 2)->text().chopped(2).toDouble();
  }
  CHECK(limits.contains("Drive for this motor")); // motors on drives that cannot feed them at all
  const double fit = counted(w.child<QToolButton>("match_show_fits")->text());
  CHECK(combinations + fit == counted(w.child<QLabel>("match_told")->text())); // each is accounted for
  CHECK(percent > 99.0);
  CHECK(percent < 100.5);
}

TEST_CASE("every part that fits nowhere tells what it comes nearest with, and which limits keep it out") {
  Window w;
  Match match(w);
  const MatchSpace space = match_space(w.session.axis(), w.session.library());
  const auto& rules = w.session.document().house_rules;
  const MatchResult all = search(w.session.axis(), rules, space);
  match.click("match_show_killers");
  auto* parts = w.child<QTableWidget>("match_rejected");
  auto* slot = w.child<QComboBox>("match_rejected_slot");
  auto* told = w.child<QLabel>("match_rejected_told");
  REQUIRE(slot->count() == 3);
  for (int i = 0; i < slot->count(); ++i) {
    slot->setFocus();
    QTest::keyClick(slot, i == 0 ? Qt::Key_Home : Qt::Key_Down);
    match.done();
    const std::string id = slot->currentData().toString().toStdString();
    const auto rejected = rejected_parts(space, all.fits, id);
    INFO(id);
    REQUIRE(parts->rowCount() == static_cast<int>(rejected.size()));
    CHECK(w.child<QLabel>("match_rejected_count")->text() ==
          QString("%1 of %2 fit nowhere").arg(rejected.size()).arg(choices_of(space, id).size()));
    double last_used = 0.0;
    for (int row = 0; row < parts->rowCount();
         ++row) { // the nearest first, those that nothing is known of last
      const QString used = parts->item(row, 3)->text();
      const double now = used.isEmpty() || used.startsWith(">") ? 1e9 : used.split(" ").front().toDouble();
      CHECK(now >= last_used);
      last_used = now;
    }
    for (int row = 0; row < std::min(parts->rowCount(), 3); ++row) {
      const auto part = std::find_if(rejected.begin(), rejected.end(), [&](const PartPlace& one) {
        const PartChoice& choice = choices_of(space, id)[one.place];
        return parts->item(row, 0)->text() ==
               (choice.none() ? QString("direct") : QString::fromStdString(choice.name()));
      });
      REQUIRE(part != rejected.end());
      const PartOutlook outlook = outlook_of(w.session.axis(), rules, space, *part);
      CHECK(outlook.fits == 0);
      if (!outlook.nearest) {
        CHECK(parts->item(row, 1)->text().toStdString() == outlook.why);
        continue;
      }
      CHECK(parts->item(row, 2)->text().toStdString() == outlook.nearest->trial.worst.text());
      CHECK(parts->item(row, 3)->text() == percent_used(outlook.nearest->trial.used));
      QTest::mouseClick(parts->viewport(), Qt::LeftButton, Qt::NoModifier,
                        parts->visualItemRect(parts->item(row, 0)).center());
      for (const auto& over : outlook.nearest->over)
        CHECK(told->text().contains(QString::fromUtf8(over.label.data(), std::ssize(over.label)) + " " +
                                    percent_used(over.used)));
    }
  }
  // one is looked for by its number, and stays marked while the list is searched
  const QString last = parts->item(parts->rowCount() - 1, 0)->text();
  parts->selectRow(parts->rowCount() - 1);
  const QString words = told->text();
  QTest::keyClicks(w.child<QLineEdit>("match_rejected_search"), last);
  match.done();
  REQUIRE(parts->rowCount() >= 1);
  CHECK(parts->rowCount() < static_cast<int>(space.drives.size()));
  CHECK(told->text() == words);
  QTest::keyClicks(w.child<QLineEdit>("match_rejected_search"), "no such part");
  match.done();
  CHECK(parts->rowCount() == 0);
  CHECK_THAT(told->text().toStdString(), Catch::Contains("None of those"));
}

TEST_CASE("the picture marks the best front, and the arrow keys walk along it") {
  Window w;
  Match match(w);
  auto* plot = w.child<QCustomPlot>("match_plot");
  REQUIRE(plot->isVisible());
  CHECK(plot->graph(0)->dataCount() == match.rows());
  REQUIRE(plot->graph(1)->dataCount() > 1);
  plot->setFocus();
  QString last;
  for (int i = 0; i < plot->graph(1)->dataCount(); ++i) {
    QTest::keyClick(plot, Qt::Key_Right);
    match.done();
    const auto rows = match.table->selectionModel()->selectedRows();
    REQUIRE(rows.size() == 1);
    const QString price = match.text(rows.front().row(), MatchModel::first_figure);
    if (i > 0 && !last.isEmpty()) CHECK(price.toDouble() >= last.toDouble());
    last = price;
  }
  const QPointF dot(plot->xAxis->coordToPixel(plot->graph(1)->data()->at(0)->key),
                    plot->yAxis->coordToPixel(plot->graph(1)->data()->at(0)->value));
  QTest::mouseClick(plot, Qt::LeftButton, Qt::NoModifier, dot.toPoint());
  const auto rows = match.table->selectionModel()->selectedRows();
  REQUIRE(rows.size() == 1);
  CHECK(match.price(rows.front().row()) == Approx(plot->graph(1)->data()->at(0)->key).epsilon(0.01));
  w.child<QComboBox>("match_across")->setCurrentIndex(2); // mass
  match.done();
  CHECK(plot->graph(2)->dataCount() == 1);
}

TEST_CASE("a newer edit ends the older search, and a search can be stopped") {
  Window w;
  Match match(w);
  for (const char* mass : {"3 kg", "3.5 kg", "4 kg"}) w.type("load.moved_mass", mass);
  match.done();
  CHECK_FALSE(w.child<QToolButton>("match_stop")->isVisible());
  const QString live = w.child<QToolButton>("match_show_fits")->text();
  QTest::keyClick(&w.window, Qt::Key_1, Qt::ControlModifier);
  match.done();
  QTest::keyClick(&w.window, Qt::Key_8, Qt::ControlModifier);
  match.done();
  CHECK(w.child<QToolButton>("match_show_fits")->text() == live); // the same axis afresh
  w.session.type("load", "moved_mass", "5 kg");
  QTest::mouseClick(w.child<QToolButton>("match_stop"), Qt::LeftButton);
  match.done();
  CHECK(w.child<QLabel>("match_told")->text().contains("as it was before"));
}

TEST_CASE("while a long search runs, what was best before and still fits stands in the list") {
  Window w;
  Match match(w);
  auto* search = w.child<QWidget>("match_view")->findChild<MatchSearch*>();
  REQUIRE(search != nullptr);
  w.type("load.moved_mass", "3 kg");
  match.done();
  const int before = match.rows();
  REQUIRE(before > 3);
  int seen = 0;
  const auto look = [&] {
    if (search->so_far() == nullptr) return;
    ++seen;
    CHECK(search->old());
    CHECK(match.rows() > 0);
    CHECK(match.rows() < before); // some do not fit any more, and no new ones are known yet
    CHECK_FALSE(w.child<QPushButton>("match_apply")->isEnabled());
    CHECK(w.child<QLabel>("match_told")->text().contains("so far"));
    CHECK(w.child<QToolButton>("match_show_fits")->text() == "Fit …");
    for (const Trial& trial : search->so_far()->result.fits) {
      const Axis axis = with_parts(w.session.axis(), search->so_far()->space, trial.parts);
      CHECK(trial.used == Approx(worst_used(evaluated(axis))).epsilon(1e-9));
    }
  };
  QObject::connect(search, &MatchSearch::found, &w.window, look);
  const auto edit = [&](const char* mass) {
    w.type("load.moved_mass", mass);
    match.done();
    CHECK(search->so_far() == nullptr);
    CHECK_FALSE(search->old());
    CHECK(w.child<QToolButton>("match_show_fits")->text() == QString("Fit %1").arg(match.rows()));
  };
  search->set_patience(1e9);
  edit("3.2 kg");
  CHECK(seen == 0); // a short search has nothing to tell before its end
  search->set_patience(0.0);
  edit("9 kg");
  CHECK(seen == 1);
}

TEST_CASE("of a long first search some of what fits stands in the list before the rest") {
  Window w;
  Match match(w, 0);
  auto* search = w.window.findChild<MatchSearch*>();
  REQUIRE(search != nullptr);
  search->set_patience(0.0);
  int seen = 0;
  QObject::connect(search, &MatchSearch::found, &w.window, [&] {
    if (search->so_far() == nullptr) return;
    ++seen;
    CHECK(search->answer() == nullptr);
    CHECK(match.rows() > 0);
    CHECK_FALSE(w.child<QPushButton>("match_apply")->isEnabled());
    CHECK(w.child<QLabel>("match_told")->text().contains("so far"));
  });
  w.session.select_axis(1); // of which nothing is known yet
  match.done();
  CHECK(seen == 1);
  CHECK(search->so_far() == nullptr);
  CHECK(match.rows() > 3);
  CHECK(match.table->selectionModel()->isRowSelected(0, {})); // not what was first before
  CHECK(w.child<QToolButton>("match_show_fits")->text() == QString("Fit %1").arg(match.rows()));
}

TEST_CASE("another axis has a list of its own: nothing of the one before can be put into it") {
  Window w;
  Match match(w);
  REQUIRE(match.rows() > 3);
  const std::string before = part(w, "motor");
  w.session.select_axis(0); // the old answer is gone before the new one is there
  CHECK(match.rows() == 0);
  QTest::mouseClick(w.child<QPushButton>("match_apply"), Qt::LeftButton);
  match.done();
  w.session.select_axis(1);
  match.done();
  CHECK(part(w, "motor") == before);
  CHECK(match.rows() > 3);
}

TEST_CASE("kinds of motor stand side by side, follow duty and weights, and lead to their combinations") {
  Window w;
  Match match(w);
  match.click("match_show_kinds");
  auto* kinds = w.child<MatchKinds>("match_kinds");
  auto* table = w.child<QTableWidget>("kinds_table");
  auto* advice = w.child<QLabel>("kinds_advice");
  REQUIRE(kinds->isVisible());
  REQUIRE(kinds->compared() != nullptr);
  REQUIRE(kinds->compared()->first);
  const auto row_of = [&](const QString& label) {
    for (int row = 0; row < table->rowCount(); ++row)
      if (table->item(row, 0)->text() == label) return row;
    return -1;
  };
  CHECK(advice->text().startsWith("Take the "));
  CHECK(table->columnCount() == static_cast<int>(motor_kinds().size()) + 1);
  CHECK(table->horizontalHeaderItem(1)->text().startsWith("▸")); // the recommended one stands first
  REQUIRE(row_of("Surroundings") > 0);
  CHECK(table->item(row_of("Surroundings"), 1)->text() == "nothing special");
  const QString energy = table->item(row_of("Energy"), 1)->text();
  // the place and the hours of work are asked for, and the table follows
  w.type("duty.hours", "16 h");
  match.done();
  CHECK(table->item(row_of("Energy"), 1)->text() != energy);
  w.session.type("duty", "explosive", "yes");
  match.done();
  CHECK(table->item(row_of("Surroundings"), 1)->text() != "nothing special");
  CHECK(row_of("In doubt") > 0);
  // a click on the title lists the combinations of that kind
  auto* header = table->horizontalHeader();
  QTest::mouseClick(header->viewport(), Qt::LeftButton, {},
                    QPoint(header->sectionViewportPosition(1) + 40, header->height() / 2));
  match.done();
  CHECK(w.child<QTableView>("match_table")->isVisible());
  CHECK(w.child<QLabel>("match_only_told")->text().startsWith("only Kind of motor"));
  const KindCandidate& first = kinds->compared()->kinds[*kinds->compared()->first];
  CHECK(match.rows() == static_cast<int>(first.combinations));
}

TEST_CASE("an axis that gets another name keeps its choices in sight") {
  Window w;
  Match match(w);
  match.choose(0);
  QTest::mouseClick(w.child<QPushButton>("match_apply"), Qt::LeftButton);
  match.done();
  match.click("match_show_choices");
  auto* choices = w.child<QTableWidget>("match_choices");
  REQUIRE(choices->rowCount() == 1);
  w.session.edit("Rename axis", "", [](Document& d) { rename_axis(d, 1, "Tray conveyor"); });
  match.done();
  CHECK(choices->rowCount() == 1);
}

TEST_CASE("a near miss tells what would have to change, and both are taken in one step") {
  Window w;
  Match match(w);
  match.click("match_show_misses");
  match.choose(0);
  match.done();
  auto* ways = w.child<MatchWays>("match_ways");
  REQUIRE(ways->isVisible());
  CHECK(w.child<QLabel>("match_ways_told")->text().contains("with these parts"));
  QToolButton* take = nullptr;
  for (int row = 0; row < std::min(match.rows(), 12) && take == nullptr; ++row) {
    match.choose(row);
    match.done();
    take = ways->findChild<QToolButton*>("ways_take_0");
  }
  REQUIRE(take != nullptr);
  const Axis before = w.session.axis();
  const std::size_t choices = w.session.document().lists.find("choices")->second.size();
  QTest::mouseClick(take, Qt::LeftButton);
  match.done();
  CHECK_FALSE(w.session.axis() == before);
  CHECK(w.session.axis()["motor"].text("part_number") != before["motor"].text("part_number"));
  const auto& kept = w.session.document().lists.find("choices")->second;
  REQUIRE(kept.size() == choices + 1);
  CHECK(kept.back().text("reason").find("→") != std::string::npos);
  // the limit that kept it from fitting holds now, whatever else the change moved was told
  w.session.undo();
  match.done();
  CHECK(w.session.axis() == before);
}

TEST_CASE("of very many that fit the figures of a row are worked out when it comes into sight") {
  const Axis axis = demo().axes[1];
  const Section rules = demo().house_rules;
  MatchSpace space = match_space(axis, library());
  std::erase_if(space.motors, [](const PartChoice& motor) { return motor.section.has("leads"); });
  const MatchResult whole = search(axis, rules, space);
  MatchRun run;
  run.settle = 0;
  const auto answer = std::make_shared<const MatchAnswer>(
      MatchAnswer{space, search(axis, rules, space, run), std::make_shared<Settler>(axis, rules, space)});
  REQUIRE(answer->result.fits.size() == whole.fits.size());
  std::vector<std::size_t> rows;
  for (std::size_t i = 0; i < whole.fits.size(); ++i) rows.push_back(i);
  REQUIRE(rows.size() > 10);
  MatchModel model;
  model.show(answer, rows, false, UnitSet::si);
  const auto unsettled = [&] {
    const auto all = answer->result.fits.each_by_itself();
    return std::count_if(all.begin(), all.end(), [](const Trial& trial) { return !trial.settled; });
  };
  const auto before = unsettled();
  REQUIRE(before > 0);
  CHECK(model.row_of(answer->result.fits.back().parts) == model.rowCount() - 1);
  CHECK(unsettled() == before); // looking for a row settles none
  for (int row = 0; row < model.rowCount(); ++row) {
    const auto place = whole.fits.place_of(answer->result.fits.parts(static_cast<std::size_t>(row)));
    REQUIRE(place);
    const Trial exact = whole.fits[*place];
    CHECK(model.index(row, MatchModel::worst_column).data().toString().toStdString() == exact.worst);
    CHECK(model.trial(row).settled);
    CHECK(model.trial(row).used == Approx(exact.used).epsilon(1e-9));
  }
  CHECK(unsettled() == 0);
}

TEST_CASE("of very many the best, the front and some of all others are listed and pictured") {
  const Axis axis = demo().axes[1];
  const MatchSpace space = match_space(axis, library());
  std::mt19937 random(77);
  std::uniform_real_distribution<double> share(0.1, 1.0);
  std::vector<Trial> many;
  const auto below = [&](std::size_t n) {
    return std::uniform_int_distribution<std::uint32_t>(0, static_cast<std::uint32_t>(n) - 1)(random);
  };
  std::set<Combination> all;
  while (all.size() < longest_order + 5000)
    all.insert({below(space.motors.size()), below(space.heads.size()), below(space.drives.size()), 0, 0});
  for (const Combination& parts : all) {
    Trial trial;
    trial.parts = parts;
    trial.used = share(random);
    trial.energy = share(random);
    trial.fits = trial.settled = true;
    many.push_back(trial);
  }
  MatchResult result;
  result.fits = many;
  const MatchAnswer answer{space, result, std::make_shared<Settler>(axis, demo().house_rules, space)};
  ListAsked asked;
  asked.weights = usual_weights();
  asked.across = find_yardstick("energy");
  const MatchList& list = answer.list(asked);
  CHECK(list.passing == many.size());
  const auto plain = ranked(space, many, asked.weights, asked.filter);
  CHECK(std::equal(plain.begin(), plain.begin() + longest_order, list.order.begin()));
  CHECK(list.front == best_front(space, many, plain, *asked.across, *asked.up));
  CHECK(list.dots.size() < 5000);
  CHECK(list.dots.size() > 2000);
  CHECK(std::equal(plain.begin(), plain.begin() + 1000, list.dots.begin()));
  const auto listed = [&](const std::vector<std::size_t>& in, std::size_t place) {
    return std::count(in.begin(), in.end(), place) == 1;
  };
  for (const std::size_t place : list.front) CHECK(listed(list.dots, place)); // each once
  CHECK(std::equal(plain.begin(), plain.begin() + longest_order, list.rows.begin()));
  CHECK(list.rows.size() < list.passing);
  CHECK(std::any_of(list.dots.begin(), list.dots.end(),
                    [&](std::size_t place) { return place == list.rows.back(); }));
  for (const std::size_t place : list.dots) CHECK(listed(list.rows, place)); // a dot can be picked
  for (const std::size_t place : {std::size_t{0}, std::size_t{7777}, many.size() - 1})
    CHECK(answer.result.fits.place_of(many[place].parts) == place);
  Combination none = many.back().parts;
  none.coupling = 9;
  CHECK_FALSE(answer.result.fits.place_of(none));

  const MatchList* before = &list;
  CHECK(&answer.list(asked) == before); // known
  const std::shared_ptr<const MatchList> kept = answer.last;
  asked.up = find_yardstick("price");
  const MatchList& turned = answer.list(asked);
  CHECK(turned.order == kept->order);
  CHECK(turned.front == best_front(space, many, plain, *asked.across, *asked.up));
  const auto turned_front = turned.front;
  asked.weights = {{"mass", 1.0}};
  const MatchList& weighed = answer.list(asked);
  const auto by_mass = ranked(space, many, asked.weights, asked.filter);
  CHECK(std::equal(by_mass.begin(), by_mass.begin() + longest_order, weighed.order.begin()));
  CHECK(weighed.front == turned_front); // other weights move no dot
  double most = 0.0;
  for (const std::size_t place : turned_front) most = std::max(most, asked.up->value(space, many[place]));
  asked.filter.most_price = most - 1.0; // the dearest of the front goes
  const MatchList& fewer = answer.list(asked);
  const auto passing = ranked(space, many, asked.weights, asked.filter);
  CHECK(fewer.passing == passing.size());
  CHECK(fewer.front == best_front(space, many, passing, *asked.across, *asked.up));
  CHECK(fewer.front != turned_front);
  CHECK(fewer.passing < many.size());
  for (const std::size_t place : fewer.dots) CHECK(asked.across->value(space, many[place]) <= 1.0);
  for (const std::size_t place : fewer.order) CHECK_FALSE(asked.up->value(space, many[place]) > most - 1.0);
}

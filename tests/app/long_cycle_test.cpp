// A cycle of thousands of pieces: an edit shows at once, its results follow; plots draw what a screen can
// show.

#include "app/window.hpp"

#include <qcustomplot.h>

#include <QLabel>
#include <QMessageBox>
#include <QSignalSpy>

#include <cmath>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

/// The demo's first axis doing its cycle many times over, segment by segment.
Document many_segments(std::size_t count) {
  Document document = demo();
  document.axes.resize(1);
  Axis& axis = document.axes.front();
  const std::vector<Section> once = axis.cycle;
  while (axis.cycle.size() < count) axis.cycle.push_back(once[axis.cycle.size() % once.size()]);
  number_sections(axis);
  return document;
}

} // namespace

TEST_CASE("an edit of a long cycle shows at once, its results follow") {
  Window w;
  w.session.adopt(many_segments(2000));
  w.session.catch_up();
  const double before = w.session.evaluation()->find("demand.peak_torque")->value;
  const QLineEdit* field = w.field("load.moved_mass");
  QSignalSpy changed(&w.session, &Session::changed);
  w.session.type("load", "moved_mass", "7 kg");
  CHECK(field->text() == "7 kg");
  CHECK(changed.count() == 1);
  CHECK(w.session.stale());
  CHECK(std::isnan(w.session.worst_used(0)));
  CHECK(w.session.evaluation()->find("demand.peak_torque")->value == before);
  // more edits while it waits are worked out once, all together
  w.session.type("load", "moved_mass", "8 kg");
  CHECK(changed.count() == 2);
  CHECK(changed.wait(5000));
  CHECK(changed.count() == 3);
  CHECK_FALSE(w.session.stale());
  const auto afresh = evaluate(w.session.axis(), w.session.document().house_rules);
  CHECK(w.session.evaluation()->find("demand.peak_torque")->value ==
        afresh->find("demand.peak_torque")->value);
  CHECK(afresh->find("demand.peak_torque")->value > before);
  CHECK_FALSE(changed.wait(300)); // and that was all
}

TEST_CASE("what waits is worked out when it is asked for, and not after its axis has gone") {
  Window w;
  w.session.adopt(many_segments(2000));
  w.session.catch_up();
  QSignalSpy changed(&w.session, &Session::changed);
  w.session.type("load", "moved_mass", "7 kg");
  w.session.catch_up();
  CHECK_FALSE(w.session.stale());
  CHECK(changed.count() == 2);
  w.session.catch_up();
  CHECK(changed.count() == 2);
  w.session.undo();
  CHECK(w.session.stale());
  w.session.edit("Remove axis", "", [](Document& d) { d.axes.clear(); });
  CHECK_FALSE(w.session.stale());
  CHECK(w.session.evaluation() == nullptr);
  CHECK_FALSE(changed.wait(300));
}

TEST_CASE("what is tried on a long cycle follows too, and goes when it is left") {
  Window w;
  w.session.adopt(many_segments(2000));
  w.session.catch_up();
  const double before = w.session.evaluation()->find("demand.peak_torque")->value;
  w.session.what_if("load.moved_mass", 9.0);
  CHECK(w.session.stale());
  w.session.catch_up();
  CHECK(w.session.evaluation()->find("demand.peak_torque")->value > 1.2 * before);
  w.session.what_if("load.moved_mass", std::nullopt);
  w.session.catch_up();
  CHECK(w.session.evaluation()->find("demand.peak_torque")->value == before);
}

TEST_CASE("a bad input of a long cycle is named once it was tried") {
  Window w;
  w.session.adopt(many_segments(2000));
  w.session.catch_up();
  w.session.type("load", "moved_mass", "heavy");
  CHECK(w.stale_note().isEmpty());
  w.session.catch_up();
  CHECK(w.stale_note().contains("moved mass"));
  CHECK(w.session.stale());
  // nor is a cycle saved that does not belong to what is typed
  w.in_dialog<QMessageBox>([&] { CHECK_FALSE(w.window.export_trace(0.01, "/nowhere/cycle.csv")); },
                           [](QMessageBox& box) { CHECK(box.text().contains("moved mass")); });
}

TEST_CASE("the torque parts of a long cycle keep their peaks though they are drawn by the column") {
  const auto tops = [](Window& w) {
    auto* plot = w.child<QCustomPlot>("stack_plot");
    double high = 0.0;
    double low = 0.0;
    for (int g = 0; g < plot->graphCount(); ++g) {
      CHECK(plot->graph(g)->data()->size() < 1000);
      for (const QCPGraphData& point : *plot->graph(g)->data())
        if (point.key > 0.0 && g < static_cast<int>(2 * torque_part_count)) {
          high = std::max(high, point.value);
          low = std::min(low, point.value);
        }
    }
    return std::pair(high, low);
  };
  Window once;
  once.session.adopt(many_segments(4));
  Window often;
  often.session.adopt(many_segments(2000));
  often.session.catch_up();
  CHECK(tops(often).first == Approx(tops(once).first).epsilon(1e-9));
  CHECK(tops(often).second == Approx(tops(once).second).epsilon(1e-9));
  CHECK(tops(often).first > 0.0);
}

#pragma once
#include "app/machine/timeline.hpp"
#include "app/session/machine_watch.hpp"
#include "app/views/sheet.hpp"
#include "app/window.hpp"

#include <QLabel>
#include <QToolButton>

namespace fulmox::testing {

using namespace fulmox::app;

/// The demo, its machine in view.
struct MachineWindow : Window {
  MachineWindow() {
    window.resize(1280, 800);
    QTest::keyClick(&window, Qt::Key_0, Qt::ControlModifier);
    settle();
    settle();
    REQUIRE(window.sheet()->shown().id == "machine");
  }
  const MachineRun& run() {
    settle();
    settle();
    REQUIRE(session.machine_watch().run() != nullptr);
    return *session.machine_watch().run();
  }
  QString told() { return child<QLabel>("machine_told")->text(); }
  Timeline* timeline() { return child<Timeline>("timeline"); }
  std::size_t block(const std::string& name) {
    const auto& blocks = run().power.blocks;
    const auto found =
        std::find_if(blocks.begin(), blocks.end(), [&](const Block& b) { return b.name == name; });
    REQUIRE(found != blocks.end());
    return static_cast<std::size_t>(found - blocks.begin());
  }
  void page(int number) {
    QTest::mouseClick(child<QToolButton>(QString("machine_page_%1").arg(number)), Qt::LeftButton);
    settle();
    settle();
  }
};

} // namespace fulmox::testing

#include "app/sheet/welcome.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"

#include <QPushButton>
#include <QVBoxLayout>

namespace fulmox::app {

Welcome::Welcome(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("welcome");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(48, 40, 48, 24);
  layout->setSpacing(10);
  auto* title = new QLabel("What moves, how far, how fast, how often?");
  title->setFont(face(8, true));
  layout->addWidget(title);
  steps_ = new QLabel;
  steps_->setTextFormat(Qt::RichText);
  steps_->setWordWrap(true);
  steps_->setFont(face(1));
  layout->addWidget(steps_);
  auto* start = new QLabel("Or start from an example and change it:");
  start->setProperty("role", "soft");
  layout->addSpacing(12);
  layout->addWidget(start);
  const std::pair<const char*, const char*> examples[] = {
      {"level", "Level slide: 12 kg, 500 mm in 0.8 s on a 10 mm ball screw"},
      {"vertical", "Vertical lift with brake: 6 kg, 150 mm in 0.35 s"},
      {"incline", "Loader at 30°, counterweight: 20 kg, 400 mm in 1.2 s, lead screw"}};
  for (const auto& [name, text] : examples) {
    auto* button = new QPushButton(text);
    button->setObjectName(QString("example_") + name);
    button->setProperty("role", "outlined");
    button->setMaximumWidth(520);
    button->setStyleSheet("text-align: left; padding: 7px 12px;");
    const QString id = name;
    connect(button, &QPushButton::clicked, this, [this, id] { emit example_wanted(id); });
    layout->addWidget(button);
  }
  layout->addStretch();
  connect(&session, &Session::changed, this, &Welcome::refresh);
  refresh();
}

void Welcome::refresh() {
  if (!isVisible() && session_.evaluation() != nullptr) return;
  const auto mark = [](bool done, const QString& text) {
    return QString("<p style=\"margin:5px 0\"><span style=\"color:%1\">%2</span>&nbsp; %3</p>")
        .arg(theme().accent.name(), done ? "✓" : "○", text);
  };
  const bool axis = session_.has_axis();
  const bool mass = axis && !session_.axis()["load"].blank(main_load_input(session_.axis()));
  const bool move = axis && !session_.axis().cycle.empty();
  const bool motor = axis && !session_.axis()["motor"].blank("inertia");
  const auto b = [](const QString& text) { return "<span style='font-weight:600'>" + text + "</span>"; };
  steps_->setText(
      mark(axis, "Add an axis with " + b("+ Axis") + " above.") +
      mark(mass, "Under " + b("Load") + " type the moved mass: " + b("6 kg") + ", " + b("2*4.5 kg") + ", " +
                     b("13 lb") + ".") +
      mark(axis && mass, "Check the " + b("Mechanism") + ": lead, diameter and length of the screw.") +
      mark(move, "Under " + b("Move") + " add a move and, honestly, its dwell.") +
      mark(motor, "Choose a " + b("Motor") + " and a " + b("Drive") +
                      "; the limits appear at the right as you type."));
}

} // namespace fulmox::app

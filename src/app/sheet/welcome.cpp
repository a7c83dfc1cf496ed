#include "app/sheet/welcome.hpp"

#include "app/session/examples.hpp"
#include "app/session/session.hpp"
#include "app/sheet/mechanism_preview.hpp"
#include "app/theme/theme.hpp"

#include <QFileInfo>
#include <QGridLayout>
#include <QSettings>
#include <QVBoxLayout>

namespace fulmox::app {
namespace {

/// Whether anything in a form is somebody's word, not what was proposed.
bool any_typed(const Section& section) {
  for (std::size_t i = 0; i < section.size(); ++i)
    if (section.entry(i) != preset_of(section.spec(), section.field(i))) return true;
  return false;
}

} // namespace

Welcome::Welcome(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("welcome");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(40, 28, 40, 16);
  layout->setSpacing(6);
  auto* title = new QLabel("What moves, how far, how fast, how often?");
  title->setFont(face(8, true));
  layout->addWidget(title);
  steps_ = new QLabel;
  steps_->setTextFormat(Qt::RichText);
  steps_->setWordWrap(true);
  steps_->setFont(face(1));
  layout->addWidget(steps_);
  const auto say = [&](const QString& text) {
    auto* label = new QLabel(text);
    label->setProperty("role", "soft");
    layout->addSpacing(8);
    layout->addWidget(label);
  };
  say("Or start from an example and change it:");
  auto* offers = new QGridLayout;
  offers->setSpacing(6);
  int place = 0;
  for (const Example& example : examples()) {
    const QString id = example.name;
    auto* offered = button(example.told, "example_" + id);
    offered->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    offered->setToolTip(example.told);
    connect(offered, &QPushButton::clicked, this, [this, id] { emit example_requested(id); });
    offers->addWidget(offered, place / 2, place % 2);
    ++place;
  }
  layout->addLayout(offers);
  say("Or open a machine:");
  recent_ = new QHBoxLayout;
  recent_->setSpacing(8);
  auto* demo = button("The demo: a seedling transplanter", "open_demo");
  connect(demo, &QPushButton::clicked, this, &Welcome::demo_requested);
  recent_->addWidget(demo);
  recent_->addStretch();
  layout->addLayout(recent_);
  layout->addWidget(new MechanismPreview(session), 1);
  connect(&session, &Session::changed, this, &Welcome::refresh);
  refresh();
}

QPushButton* Welcome::button(const QString& text, const QString& name) {
  auto* made = new QPushButton(text);
  made->setObjectName(name);
  made->setProperty("role", "outlined");
  made->setStyleSheet("text-align: left; padding: 6px 10px;");
  return made;
}

void Welcome::showEvent(QShowEvent* event) {
  list_recent();
  QWidget::showEvent(event);
}

/// The machines opened last, as far as they are still there; after the demo.
void Welcome::list_recent() {
  constexpr int most = 2;
  while (recent_->count() > 2) delete recent_->takeAt(1)->widget();
  int shown = 0;
  for (const QString& path : QSettings().value("recent").toStringList()) {
    if (shown == most || !QFileInfo::exists(path)) continue;
    auto* made = button(QFileInfo(path).completeBaseName(), QString("recent_%1").arg(shown));
    made->setToolTip(path);
    connect(made, &QPushButton::clicked, this, [this, path] { emit open_requested(path); });
    recent_->insertWidget(1 + shown++, made);
  }
}

void Welcome::refresh() {
  if (!isVisible() && session_.evaluation() != nullptr) return;
  const auto mark = [](bool done, const QString& text) {
    return QString("<p style=\"margin:5px 0\"><span style=\"color:%1\">%2</span>&nbsp; %3</p>")
        .arg(theme().accent.name(), done ? "✓" : "○", text);
  };
  const bool axis = session_.has_axis();
  const bool mass = axis && !session_.axis()["load"].blank(main_load_input(session_.axis()));
  const bool typed = axis && any_typed(session_.axis()["mechanism"]);
  const bool move = axis && !session_.axis().cycle.empty();
  const bool motor = axis && !session_.axis()["motor"].blank("inertia");
  if (session_.late()) return steps_->setText("A long cycle: its results are being worked out.");
  const auto b = [](const QString& text) { return "<span style='font-weight:600'>" + text + "</span>"; };
  steps_->setText(mark(axis, "Add an axis with " + b("+ Axis") + " above.") +
                  mark(mass, "Under " + b("Load") + " type the moved mass: " + b("6 kg") + ", " +
                                 b("2*4.5 kg") + ", " + b("13 lb") + ".") +
                  mark(typed, "Check the " + b("Mechanism") + ": what it proposes are guesses (" + b("?") +
                                  ") until typed.") +
                  mark(move, "Under " + b("Move") + " add a move and, honestly, its dwell.") +
                  mark(motor, "Choose a " + b("Motor") + " and a " + b("Drive") +
                                  "; the limits appear at the right as you type."));
}

} // namespace fulmox::app

#include "app/machine/machine_givens.hpp"

#include "app/machine/machine_edits.hpp"
#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/field_row.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/plan/buses.hpp"
#include "core/project/names.hpp"

#include <QCompleter>
#include <QMenu>
#include <QTimer>

#include <algorithm>

namespace fulmox::app {
namespace {

/// Fields that are seen at once; the others wait behind "more" until they are filled in.
bool prominent(const FieldSpec& field) {
  static constexpr std::array shown{"name",    "volts",  "droop",       "limit",     "overload",
                                    "power",   "peak",   "peak_time",   "amps",      "regulation",
                                    "phases",  "source", "capacitance", "axis",      "offset",
                                    "repeats", "after",  "bus",         "cycle",     "cycles",
                                    "parts",   "rate",   "jitter",      "stop_time", "stop_ramp"};
  return std::find(shown.begin(), shown.end(), field.id) != shown.end();
}

} // namespace

MachineGivens::MachineGivens(Session& session, QWidget* parent) : QScrollArea(parent), session_(session) {
  setObjectName("machine_givens");
  setAccessibleName("The machine's own inputs");
  setWidgetResizable(true);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setFrameShape(QFrame::NoFrame);
  rebuild();
  new Refresher(session, this, results_changed | Change::machine, [this](Changes) { refresh(); });
}

QToolButton* MachineGivens::adder(const char* name, const QString& text) {
  auto* button = new QToolButton;
  button->setObjectName(name);
  button->setText(text);
  button->setFont(face(-1));
  return button;
}

void MachineGivens::rebuild() {
  if (host_ != nullptr) retired_.retire(takeWidget());
  items_.clear();
  host_ = new QWidget;
  auto* layout = new QVBoxLayout(host_);
  layout->setContentsMargins(8, 6, 4, 8);
  layout->setSpacing(0);
  const Document& machine = session_.document();
  add_item(layout, machine.pace, "", 0);
  const auto list = [&](const char* title, const std::string& id, QToolButton* add) {
    auto* head = new QWidget;
    auto* row = new QHBoxLayout(head);
    row->setContentsMargins(0, 8, 0, 2);
    row->addWidget(heading(title));
    row->addStretch();
    row->addWidget(add);
    layout->addWidget(head);
    const auto& sections = machine.lists.find(id)->second;
    for (std::size_t i = 0; i < sections.size(); ++i) add_item(layout, sections[i], id, i);
  };
  auto* bus = adder("add_bus", "+ bus");
  auto* kinds = new QMenu(bus);
  for (const SectionSpec* form : bus_sections())
    kinds->addAction(qt(form->title), this, [this, form] { app::add_bus(session_, *form); });
  bus->setMenu(kinds);
  bus->setPopupMode(QToolButton::InstantPopup);
  list("Buses", "buses", bus);
  auto* block = adder("add_block", "+ block");
  auto* axes = new QMenu(block);
  connect(axes, &QMenu::aboutToShow, this, [this, axes] {
    axes->clear();
    for (const Axis& axis : session_.document().axes)
      axes->addAction(qt(axis.name), this, [this, name = axis.name] { app::add_block(session_, name); });
  });
  block->setMenu(axes);
  block->setPopupMode(QToolButton::InstantPopup);
  list("Schedule", "blocks", block);
  auto* load = adder("add_load", "+ load");
  connect(load, &QToolButton::clicked, this, [this] {
    const auto& buses = session_.document().lists.find("buses")->second;
    app::add_load(session_, buses.empty() ? "" : buses.back().text("name"));
  });
  list("Other loads", "steady_loads", load);
  layout->addStretch();
  setWidget(host_);
}

QString MachineGivens::title_of(const Section& section) const {
  if (section.is("block")) return qt(block_name(section));
  if (section.is("pace")) return "Machine cycle";
  return qt(section.text("name"));
}

QString MachineGivens::summary_of(const Section& section) const {
  const std::string_view kind = section.spec().id;
  if (kind == "pace") { // the rate that is wanted stands in the ladder
    QStringList told;
    if (!section.blank("cycle")) told.push_back(qt(section.text("cycle")));
    if (!section.blank("parts"))
      told.push_back(qt(section.text("parts")) + (section.text("parts") == "1" ? " part" : " parts"));
    return told.join(" · ");
  }
  if (kind == "steady_load")
    return qt(summary_of_fields(section, {"power"})) + " on " + qt(section.text("bus"));
  if (kind == "block") {
    QString text =
        section.blank("after") ? "at " + qt(section.text("offset")) : "after " + qt(section.text("after"));
    if (section.text("repeats") != "1") text += ", × " + qt(section.text("repeats"));
    return text;
  }
  return qt(section.spec().title).toLower() + ", " +
         qt(summary_of_fields(section, {"volts", "limit", "power"}));
}

void MachineGivens::add_item(QVBoxLayout* layout, const Section& section, const std::string& list,
                             std::size_t index) {
  Item item;
  item.path = section.path;
  item.spec = &section.spec();
  item.fold = new Fold(title_of(section));
  item.fold->setObjectName("machine_" + qt(section.path));
  layout->addWidget(item.fold);
  const std::size_t place = items_.size();
  items_.push_back(item);
  connect(item.fold, &Fold::opened, this, [this, place, list, index] {
    Item& opened = items_[place];
    open_[opened.path] = true;
    if (opened.fields != nullptr) return;
    fill(opened);
    if (list.empty()) return;
    auto* remove = adder("", "remove");
    remove->setObjectName("remove_" + qt(opened.path));
    connect(remove, &QToolButton::clicked, this,
            [this, list, index] { remove_entry(session_, list, index); });
    opened.fold->body()->addWidget(remove, 0, Qt::AlignRight);
  });
  item.fold->set_summary(summary_of(section));
  if (open_[section.path]) item.fold->set_open(true);
}

void MachineGivens::fill(Item& item) {
  item.fields = new FieldList(session_, [](const Section& section, const FieldSpec& field) {
    return prominent(field) || !section.blank(field.id);
  });
  item.fold->body()->addWidget(item.fields);
  if (const Section* section = session_.section(item.path)) {
    item.fields->show_section(*section);
    complete_names(item.fields, *section);
  }
}

/// What names an axis, a bus or a block is offered from those that are there.
void MachineGivens::complete_names(FieldList* fields, const Section& section) const {
  QStringList axes, buses, blocks;
  const Document& machine = session_.document();
  for (const Axis& axis : machine.axes) axes << qt(axis.name);
  for (const Section& bus : machine.lists.find("buses")->second) buses << qt(bus.text("name"));
  for (const Section& block : machine.lists.find("blocks")->second) blocks << qt(block_name(block));
  for (const auto& [field, names] :
       {std::pair{"axis", axes}, {"bus", buses}, {"after", blocks}, {"also_after", blocks}}) {
    if (!section.has(field)) continue;
    FieldRow* row = fields->reveal(field);
    auto* line = row != nullptr ? row->findChild<QLineEdit*>() : nullptr;
    if (line == nullptr) continue;
    auto* completer = new QCompleter(names, line);
    completer->setCaseSensitivity(Qt::CaseInsensitive);
    completer->setCompletionMode(QCompleter::UnfilteredPopupCompletion);
    line->setCompleter(completer);
    connect(completer, qOverload<const QString&>(&QCompleter::activated), this,
            [this, path = section.path, id = std::string(field)](const QString& text) {
              session_.type(path, id, text);
            });
  }
}

void MachineGivens::refresh() {
  const Document& machine = session_.document();
  std::vector<std::pair<std::string, const SectionSpec*>> wanted{{machine.pace.path, &machine.pace.spec()}};
  for (const char* id : {"buses", "blocks", "steady_loads"})
    for (const Section& section : machine.lists.find(id)->second)
      wanted.emplace_back(section.path, &section.spec());
  const bool same = std::equal(
      wanted.begin(), wanted.end(), items_.begin(), items_.end(),
      [](const auto& want, const Item& item) { return want.first == item.path && want.second == item.spec; });
  if (!same) rebuild();
  for (Item& item : items_) {
    const Section* section = session_.section(item.path);
    if (section == nullptr) continue;
    item.fold->set_title(title_of(*section));
    item.fold->set_summary(summary_of(*section));
    if (item.fields != nullptr) item.fields->show_section(*section);
  }
}

void MachineGivens::go_to(const QString& path) {
  const std::string text = path.toStdString();
  const auto dot = text.rfind('.');
  if (dot == std::string::npos) return;
  for (Item& item : items_) {
    if (item.path != text.substr(0, dot)) continue;
    item.fold->set_open(true);
    FieldRow* row = item.fields != nullptr ? item.fields->reveal(text.substr(dot + 1)) : nullptr;
    if (row == nullptr) return;
    // its place is known once the rows are laid out
    QTimer::singleShot(0, row, [this, row] {
      ensureWidgetVisible(row, 0, 60);
      row->take_focus();
    });
  }
}

} // namespace fulmox::app

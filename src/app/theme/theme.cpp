#include "app/theme/theme.hpp"

#include <QApplication>
#include <QFontDatabase>
#include <QHash>
#include <QPalette>
#include <QStyleFactory>

#include <array>

// resources of a static library are only linked in when asked for, outside any namespace
static void use_resources() { Q_INIT_RESOURCE(resources); }

namespace fulmox::app {
namespace {

Theme light_theme() {
  Theme t;
  t.ground = QColor("#f5f2ea");
  t.panel = QColor("#fbf9f4");
  t.ink = QColor("#22262b");
  t.soft = QColor("#5d646c");
  t.faint = QColor("#9aa0a5");
  t.rule = QColor("#d9d4c8");
  t.accent = QColor("#0f6a73");
  t.accent_wash = QColor("#d5e6e4");
  t.alarm = QColor("#9c3418");
  t.field = QColor("#ffffff");
  const std::array<const char*, 9> parts{"#2f4858", "#6b8a9a", "#a9c0c9", "#0f6a73", "#7a5c3e",
                                         "#c79a5b", "#8a4f7d", "#d8c9a3", "#b5573a"};
  for (std::size_t i = 0; i < parts.size(); ++i) t.parts[i] = QColor(parts[i]);
  return t;
}

Theme dark_theme() {
  Theme t;
  t.dark = true;
  t.ground = QColor("#1c1f22");
  t.panel = QColor("#24282c");
  t.ink = QColor("#e8e4da");
  t.soft = QColor("#a9aeb2");
  t.faint = QColor("#747b81");
  t.rule = QColor("#3a4046");
  t.accent = QColor("#63c0c4");
  t.accent_wash = QColor("#23464a");
  t.alarm = QColor("#ee8a63");
  t.field = QColor("#2b3035");
  const std::array<const char*, 9> parts{"#8fb0c4", "#64869a", "#c3d6de", "#4fb3b8", "#b08a62",
                                         "#e0ba7d", "#c084b3", "#8d8263", "#dd7f5f"};
  for (std::size_t i = 0; i < parts.size(); ++i) t.parts[i] = QColor(parts[i]);
  return t;
}

Theme& current() {
  static Theme value = light_theme();
  return value;
}

QString style_sheet(const Theme& t) {
  QString css = R"(
    QWidget { color: @ink; }
    QMainWindow, QDialog, #sheet { background: @ground; }
    QToolTip { background: @panel; color: @ink; border: 1px solid @rule; padding: 4px; }
    QScrollArea, QScrollArea > QWidget > QWidget { background: @ground; border: none; }
    QLineEdit, QComboBox { background: @field; border: 1px solid @rule; border-radius: 3px; padding: 1px 5px; min-height: 20px;
                           selection-background-color: @accent; selection-color: @ground; }
    QLineEdit:focus, QComboBox:focus { border: 1px solid @accent; }
    QLineEdit[faulty="true"] { border: 2px solid @alarm; }
    QLineEdit[guess="true"] { border-style: dashed; border-color: @faint; }
    QComboBox::drop-down { border: none; width: 16px; }
    QComboBox::down-arrow { image: url(:/icons/opens.svg); width: 12px; height: 12px; }
    QComboBox QAbstractItemView { background: @panel; selection-background-color: @wash; selection-color: @ink; }
    QLabel[role="fault"] { color: @alarm; }
    QLabel[role="soft"] { color: @soft; }
    QLabel[role="title"] { color: @soft; }
    QToolButton, QPushButton { background: transparent; border: 1px solid transparent; border-radius: 3px; padding: 2px 7px; }
    QToolButton:hover, QPushButton:hover { background: @wash; }
    QToolButton:focus, QPushButton:focus { border: 1px solid @accent; }
    QToolButton:disabled, QPushButton:disabled { color: @faint; }
    QDialog QPushButton, #read_only_bar QPushButton, #unread_bar QPushButton { border: 1px solid @rule; background: @panel; padding: 3px 10px; }
    QDialog QPushButton:focus, QDialog QPushButton:default { border: 1px solid @accent; }
    QDialog QPushButton:hover, #read_only_bar QPushButton:hover, #unread_bar QPushButton:hover { background: @wash; }
    #read_only_bar, #unread_bar { background: @wash; border-bottom: 1px solid @rule; }
    QToolButton[role="chip"] { border: 1px solid @rule; background: @panel; padding: 3px 4px; }
    QToolButton[role="chip"]:checked { border: 1px solid @accent; background: @wash; }
    QToolButton[role="view"] { border: none; border-bottom: 2px solid transparent; border-radius: 0; padding: 3px 5px 1px 5px; color: @soft; }
    QToolButton[role="view"][narrow="true"] { padding: 3px 1px 1px 1px; }
    QToolButton[role="view"]:checked { color: @ink; border-bottom: 2px solid @accent; }
    QToolButton[role="view"]:focus { background: @wash; }
    #view_switch { border-bottom: 1px solid @rule; }
    QPushButton[role="section"] { text-align: left; border: none; border-top: 1px solid @rule; border-radius: 0; padding: 5px 4px; }
    QPushButton[role="section"]:focus { background: @wash; }
    QToolButton[role="part"], QPushButton[role="outlined"] { border: 1px solid @rule; background: @panel; padding: 3px 8px; }
    QToolButton::menu-indicator { image: none; width: 0; }
    QListWidget, QTableWidget, QTableView, QTextBrowser, QListView { background: @panel; border: none; outline: none; }
    QTableView { gridline-color: @rule; selection-background-color: @wash; selection-color: @ink; }
    QHeaderView::section { background: @panel; color: @soft; border: none; border-bottom: 1px solid @rule; padding: 3px 4px; }
    QMenu { background: @panel; border: 1px solid @rule; padding: 4px; }
    QMenu::item { padding: 4px 22px; }
    QMenu::item:selected { background: @wash; }
    QMenu::item:disabled { color: @faint; }
    QScrollBar:vertical { background: transparent; width: 9px; }
    QScrollBar::handle:vertical { background: @rule; border-radius: 4px; min-height: 24px; }
    QScrollBar::add-line, QScrollBar::sub-line { height: 0; width: 0; }
    QScrollBar:horizontal { background: transparent; height: 9px; }
    QScrollBar::handle:horizontal { background: @rule; border-radius: 4px; min-width: 24px; }
    QSlider { min-height: 18px; }
    QSlider::groove:horizontal { background: @rule; height: 4px; border-radius: 2px; }
    QSlider::handle:horizontal { background: @panel; border: 1px solid @accent; border-radius: 5px; width: 9px; margin: -5px 0; }
    QSlider::handle:horizontal:focus { background: @accent; }
    QSplitter::handle { background: @rule; }
    QFrame[role="rule"] { background: @rule; }
  )";
  const std::array<std::pair<const char*, QColor>, 10> names{{{"@ink", t.ink},
                                                              {"@ground", t.ground},
                                                              {"@panel", t.panel},
                                                              {"@soft", t.soft},
                                                              {"@faint", t.faint},
                                                              {"@rule", t.rule},
                                                              {"@accent", t.accent},
                                                              {"@wash", t.accent_wash},
                                                              {"@alarm", t.alarm},
                                                              {"@field", t.field}}};
  for (const auto& [name, color] : names) css.replace(QLatin1String(name), color.name());
  return css;
}

} // namespace

const Theme& theme() { return current(); }

void apply_theme(bool dark) {
  current() = dark ? dark_theme() : light_theme();
  const Theme& t = current();
  QPalette palette;
  palette.setColor(QPalette::Window, t.ground);
  palette.setColor(QPalette::Base, t.field);
  palette.setColor(QPalette::Text, t.ink);
  palette.setColor(QPalette::WindowText, t.ink);
  palette.setColor(QPalette::Button, t.panel);
  palette.setColor(QPalette::ButtonText, t.ink);
  palette.setColor(QPalette::Highlight, t.accent);
  palette.setColor(QPalette::HighlightedText, t.ground);
  palette.setColor(QPalette::PlaceholderText, t.faint);
  palette.setColor(QPalette::Link, t.accent);
  QApplication::setPalette(palette);
  qApp->setStyleSheet(style_sheet(t));
}

void load_fonts() {
  use_resources();
  QApplication::setStyle(QStyleFactory::create("Fusion"));
  for (const char* style : {"Regular", "SemiBold"})
    QFontDatabase::addApplicationFont(QString(":/fonts/FulmoxInter-%1.otf").arg(style));
  QApplication::setFont(face());
}

QFont face(int step, bool strong) {
  // asked for with every line drawn: looked up once
  static QHash<std::pair<int, bool>, QFont> known;
  const auto found = known.constFind({step, strong});
  if (found != known.cend()) return *found;
  QFont font("Fulmox Inter");
  font.setPixelSize(13 + step);
  if (strong) font.setWeight(QFont::DemiBold);
  return *known.insert({step, strong}, font);
}

QString glyph(int limit_state) {
  constexpr std::array<const char*, 4> glyphs{"✓", "◐", "✕", "–"};
  return QString::fromUtf8(glyphs[static_cast<std::size_t>(limit_state)]);
}

} // namespace fulmox::app

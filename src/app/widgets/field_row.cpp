#include "app/widgets/field_row.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"

#include <QEvent>
#include <QGridLayout>
#include <QInputDialog>
#include <QMenu>
#include <QSignalBlocker>
#include <QStyle>

#include <algorithm>
#include <array>

namespace fulmox::app {
namespace {

constexpr int widest_label = 146;
constexpr std::array<const char*, 4> origin_glyphs{"·", "●", "≡", "?"};
constexpr std::array<const char*, 4> origin_words{"given", "measured", "from a data sheet", "a guess"};

QString tool_tip(const FieldSpec& spec) {
  QString text = "<b>" + qt(spec.label) + "</b>";
  if (!spec.symbol.empty()) text += " &nbsp; <i>" + qt(spec.symbol) + "</i>";
  if (!spec.help.empty()) text += "<br>" + qt(spec.help).toHtmlEscaped();
  return text;
}

} // namespace

QString origin_legend() {
  constexpr std::array<const char*, 4> words{"given", "measured", "data sheet", "guess"};
  QString legend;
  for (std::size_t i = 0; i < words.size(); ++i)
    legend += (i > 0 ? "    " : "") + QString::fromUtf8(origin_glyphs[i]) + " " + words[i];
  return legend;
}

FieldRow::FieldRow(Session& session, std::string section, const FieldSpec& spec, QWidget* parent)
    : QWidget(parent), session_(session), section_(std::move(section)), spec_(spec) {
  auto* grid = new QGridLayout(this);
  grid->setContentsMargins(10, 1, 2, 1);
  grid->setHorizontalSpacing(6);
  grid->setVerticalSpacing(1);
  label_ = new QLabel(qt(spec.label));
  label_->setToolTip(tool_tip(spec));
  grid->addWidget(label_, 0, 0);
  if (spec.type == FieldType::choice)
    build_choice();
  else
    build_line();
  QWidget* editor = line_ != nullptr ? static_cast<QWidget*>(line_) : choice_;
  editor->setAccessibleName(qt(spec.label));
  editor->setToolTip(tool_tip(spec));
  editor->setObjectName(qt(spec.id));
  label_->setBuddy(editor);
  grid->addWidget(editor, 0, 1);
  grid->setColumnStretch(1, 1);
  label_->setFixedWidth(widest_label);
  origin_ = new QToolButton;
  origin_->setFixedSize(22, 22);
  origin_->setStyleSheet("padding: 0");
  origin_->setFocusPolicy(Qt::NoFocus);
  connect(origin_, &QToolButton::clicked, this, &FieldRow::open_origin_menu);
  grid->addWidget(origin_, 0, 2);
  fault_ = new QLabel;
  fault_->setProperty("role", "fault");
  fault_->setFont(face(-1));
  fault_->setWordWrap(true);
  fault_->setVisible(false);
  grid->addWidget(fault_, 1, 0, 1, 3);
}

/// The mark that offers usual values gives way to a text that would be cut off beside it.
void FieldRow::make_room() {
  if (offer_ == nullptr) return;
  constexpr int mark_and_margins = 46;
  const int text = line_->fontMetrics().horizontalAdvance(line_->text());
  offer_->setVisible(text + mark_and_margins <= line_->width());
}

/// In a narrow column the label gives way before what is chosen or typed does: "0.12 N.m ±30%" must not be
/// read as "2 N.m ±30%".
void FieldRow::fit_label() {
  int label_width = std::clamp(width() * 47 / 100, 100, widest_label);
  if (choice_ != nullptr) {
    constexpr int arrow_and_margins = 52, beside = 30, least = 60;
    const int needed = choice_->fontMetrics().horizontalAdvance(choice_->currentText()) + arrow_and_margins;
    label_width = std::max(least, std::min(label_width, width() - needed - beside));
  } else if (spec_.type == FieldType::quantity) {
    constexpr int margins = 22, beside = 46, enough = 84;
    const int needed = line_->fontMetrics().horizontalAdvance(line_->text()) + margins;
    const int whole = label_->fontMetrics().horizontalAdvance(qt(spec_.label)) + 2;
    label_width = std::max(std::min(whole, enough), std::min(label_width, width() - needed - beside));
  }
  if (label_->width() == label_width) return;
  label_->setFixedWidth(label_width);
  label_->setText(label_->fontMetrics().elidedText(qt(spec_.label), Qt::ElideRight, label_width));
}

void FieldRow::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  fit_label();
  layout()->activate(); // what the line is left with
  make_room();
  if (!hint_.isEmpty()) fit_hint();
}

void FieldRow::build_line() {
  line_ = new QLineEdit;
  line_->setAlignment(spec_.type == FieldType::quantity ? Qt::AlignRight : Qt::AlignLeft);
  if (!spec_.usual.empty()) {
    offer_ = line_->addAction(QIcon(":/icons/opens.svg"), QLineEdit::LeadingPosition);
    offer_->setObjectName("usual_" + qt(spec_.id));
    offer_->setToolTip("Usual values");
    connect(offer_, &QAction::triggered, this, &FieldRow::open_usual_menu);
  }
  connect(line_, &QLineEdit::textChanged, this, [this] {
    fit_label();
    make_room();
  });
  connect(line_, &QLineEdit::textEdited, this,
          [this](const QString& text) { session_.type(section_, std::string(spec_.id), text); });
  connect(line_, &QLineEdit::editingFinished, this, [this] {
    session_.seal();
    // the document may hold more than was typed: the unit a bare number was given. While segments are being
    // moved about, the path may already name another kind of segment.
    const Section* section = session_.section(section_);
    if (section == nullptr || !section->spec().index_of(spec_.id)) return;
    const QString stored = qt(section->text(spec_.id));
    if (line_->text() != stored) line_->setText(stored);
    show_beginning();
  });
}

/// Where a text is too long for the line all the same, its end is what is cut off.
void FieldRow::show_beginning() {
  if (!line_->hasFocus() && line_->cursorPosition() != 0) line_->setCursorPosition(0);
}

void FieldRow::build_choice() {
  choice_ = new QComboBox;
  choice_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
  if (!spec_.required) choice_->addItem("not said", "");
  for (const Choice& choice : spec_.choices) choice_->addItem(qt(choice.label), qt(choice.id));
  connect(choice_, &QComboBox::currentIndexChanged, this, &FieldRow::fit_label);
  connect(choice_, &QComboBox::activated, this, [this](int index) {
    session_.type(section_, std::string(spec_.id), choice_->itemData(index).toString());
    session_.seal();
  });
}

void FieldRow::show_entry(const Entry& entry) {
  const QString text = QString::fromStdString(entry.text);
  if (choice_ != nullptr) {
    const QSignalBlocker quiet(choice_);
    if (const int chosen = choice_->findData(text); chosen != choice_->currentIndex()) {
      choice_->setCurrentIndex(chosen);
      fit_label();
    }
  } else if (!line_->hasFocus() || !line_->isModified()) {
    if (line_->text() != text) line_->setText(text);
    show_beginning();
  } else {
    // while typed in, only another value replaces the text (an undo); a unit added to a bare number does not
    const QString typed = line_->text().trimmed();
    if (!text.startsWith(typed) || typed.isEmpty() != text.isEmpty()) line_->setText(text);
  }
  QWidget* editor = line_ != nullptr ? static_cast<QWidget*>(line_) : choice_;
  const bool guess = entry.origin == Origin::guess;
  if (styled_faulty_ != entry.faulty() || styled_guess_ != guess) {
    styled_faulty_ = entry.faulty();
    styled_guess_ = guess;
    editor->setProperty("faulty", entry.faulty());
    editor->setProperty("guess", guess);
    editor->style()->unpolish(editor);
    editor->style()->polish(editor);
  }
  QString fault = entry.faulty() ? qt(entry.fault.what + " " + entry.fault.remedy) : QString();
  if (!fault.isEmpty()) fault[0] = fault[0].toUpper();
  if (fault_->text() != fault) fault_->setText(fault);
  if (fault_->isHidden() == entry.faulty()) fault_->setVisible(entry.faulty());
  show_origin(entry);
}

void FieldRow::show_origin(const Entry& entry) {
  const auto index = static_cast<std::size_t>(entry.origin);
  const QString mark = QString::fromUtf8(origin_glyphs[index]);
  if (origin_->text() != mark) origin_->setText(mark);
  QString tip = QString("This value is %1.").arg(origin_words[index]);
  if (!entry.note.empty()) tip += "\n" + QString::fromStdString(entry.note);
  tip += "\nClick to say where it comes from.";
  if (origin_->toolTip() != tip) origin_->setToolTip(tip);
}

void FieldRow::edit_entry(const QString& step, const std::function<void(Entry&)>& how) {
  session_.edit(step + " of " + qt(spec_.label).toLower(), "", [&](Document& document) {
    Section* section = find_section(document, session_.axis_index(), section_);
    Entry entry = section->entry(spec_.id);
    how(entry);
    section->put(spec_.id, std::move(entry));
  });
}

void FieldRow::open_usual_menu() {
  QMenu menu;
  menu.setToolTipsVisible(true);
  menu.addSection("Usual, common practice");
  for (const Choice& usual : spec_.usual) {
    const QString label = qt(usual.label);
    menu.addAction(label + "\t" + qt(usual.id), this, [this, usual, label] {
      edit_entry("Usual value", [&](Entry& entry) {
        entry = make_entry(spec_, usual.id);
        entry.origin = Origin::guess;
        entry.note = label.toStdString() + ", common practice";
      });
    });
  }
  menu.exec(line_->mapToGlobal(QPoint(0, line_->height())));
}

void FieldRow::open_origin_menu() {
  QMenu menu;
  for (std::size_t i = 0; i < origin_words.size(); ++i)
    menu.addAction(QString::fromUtf8(origin_glyphs[i]) + "   " + origin_words[i], this, [=, this] {
      edit_entry("Origin", [i](Entry& entry) { entry.origin = static_cast<Origin>(i); });
    });
  menu.addSeparator();
  menu.addAction("Note…", this, [=, this] {
    const QString old = QString::fromStdString(session_.section(section_)->entry(spec_.id).note);
    bool accepted = false;
    const QString note = QInputDialog::getText(this, "Note", "Where does this value come from?",
                                               QLineEdit::Normal, old, &accepted);
    if (accepted) edit_entry("Note", [&](Entry& entry) { entry.note = note.toStdString(); });
  });
  menu.exec(origin_->mapToGlobal(QPoint(0, origin_->height())));
}

void FieldRow::show_hint(const QString& hint) {
  if (hint == hint_) return; // it is measured
  hint_ = hint;
  fit_hint();
}

/// Where it would be cut off it goes without its arrow.
void FieldRow::fit_hint() {
  if (line_ == nullptr) return;
  constexpr int margins = 16;
  const bool fits = line_->fontMetrics().horizontalAdvance(hint_) + margins <= line_->width();
  const QString told = fits ? hint_ : QString(hint_).remove("→ ");
  if (line_->placeholderText() != told) line_->setPlaceholderText(told);
}

void FieldRow::take_focus() {
  if (choice_ != nullptr) {
    choice_->setFocus(Qt::OtherFocusReason);
  } else {
    line_->setFocus(Qt::OtherFocusReason);
    line_->selectAll();
  }
}

} // namespace fulmox::app

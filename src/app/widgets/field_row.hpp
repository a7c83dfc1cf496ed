#pragma once
#include "core/form/section.hpp"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QToolButton>
#include <QWidget>

#include <functional>

class QAction;

namespace fulmox::app {

class Session;

/// "● measured  ≡ data sheet …": what the marks at the right of fields say.
QString origin_legend();

/// One input of the form: label, field, origin mark, and the fault below when there is one.
class FieldRow : public QWidget {
  Q_OBJECT

public:
  FieldRow(Session& session, std::string section, const FieldSpec& spec, QWidget* parent = nullptr);

  /// Shows the document's entry; leaves the text alone while the user types in it.
  void show_entry(const Entry& entry);
  /// What a blank field follows to, in lighter ink.
  void show_hint(const QString& hint);
  void take_focus();
  [[nodiscard]] const std::string& section() const { return section_; }
  [[nodiscard]] std::string_view field() const { return spec_.id; }

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  void build_line();
  void make_room();
  void show_beginning();
  void fit_hint();
  void fit_label();
  void build_choice();
  void open_origin_menu();
  /// Offers values that are usual in the trade.
  void open_usual_menu();
  void edit_entry(const QString& step, const std::function<void(Entry&)>& how);
  void show_origin(const Entry& entry);

  Session& session_;
  std::string section_;
  const FieldSpec& spec_;
  QLabel* label_ = nullptr;
  QLineEdit* line_ = nullptr;
  QAction* offer_ = nullptr; ///< usual values; null where there are none
  QString hint_;             ///< what follows from the others, shown where nothing is typed
  QComboBox* choice_ = nullptr;
  QToolButton* origin_ = nullptr;
  QLabel* fault_ = nullptr;
  bool styled_faulty_ = false, styled_guess_ = false; ///< as the editor looks
};

} // namespace fulmox::app

#pragma once
#include "app/givens/field_list.hpp"
#include "core/project/axis.hpp"

#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>

#include <vector>

namespace fulmox::app {

/// A header that folds its body away and then tells it in one line.
class Fold : public QWidget {
  Q_OBJECT

public:
  Fold(const QString& title, QWidget* parent = nullptr);
  void set_title(const QString& title);
  void set_summary(const QString& summary);
  void set_open(bool open);
  [[nodiscard]] bool is_open() const { return open_; }
  QVBoxLayout* body() { return body_layout_; }

signals:
  /// About to be shown for the first time or again.
  void opened();

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  void show_header();

  QString title_, summary_;
  bool open_ = false;
  QPushButton* header_;
  QWidget* body_;
  QVBoxLayout* body_layout_;
};

/// The form of one section that is no list. Its rows are made when it is first opened.
class SectionForm : public Fold {
  Q_OBJECT

public:
  SectionForm(Session& session, int number, const SlotSpec& slot, QWidget* parent = nullptr);
  void refresh();
  /// The row of a field, made and shown if it was not.
  FieldRow* reveal(std::string_view field);
  [[nodiscard]] std::string path() const;

private:
  void build();
  void pick_part();
  void choose_from_list(int index);

  Session& session_;
  const SlotSpec& slot_;
  FieldList* fields_ = nullptr;
  QToolButton* part_ = nullptr;
  QComboBox* kind_ = nullptr; ///< where the user chooses the kind from a list
};

} // namespace fulmox::app

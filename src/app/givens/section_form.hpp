#pragma once
#include "app/widgets/field_row.hpp"
#include "core/library/part_library.hpp"
#include "core/project/axis.hpp"

#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>

#include <optional>
#include <vector>

namespace fulmox::app {

/// A header that folds its body away and then tells it in one line.
class Fold : public QWidget {
  Q_OBJECT

public:
  Fold(const QString& title, QWidget* parent = nullptr);
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

/// The form of one section other than the cycle. Rows are made when the section is first opened; those that
/// are neither required nor filled in wait behind "more".
class SectionForm : public Fold {
  Q_OBJECT

public:
  SectionForm(Session& session, int number, Given given, QWidget* parent = nullptr);
  void refresh();
  /// The row of a field, made and shown if it was not.
  FieldRow* reveal(std::string_view field);
  [[nodiscard]] std::string path() const;

private:
  void build_rows();
  void show_rows();
  void pick_part();
  [[nodiscard]] QString summary() const;
  [[nodiscard]] std::optional<PartKind> part_kind() const;

  Session& session_;
  Given given_;
  std::vector<FieldRow*> rows_;
  QToolButton* part_ = nullptr;
  QToolButton* more_ = nullptr;
  bool all_ = false;
};

/// One-line summary of a section for its folded header.
QString summarize(const Axis& axis, Given given);

} // namespace fulmox::app

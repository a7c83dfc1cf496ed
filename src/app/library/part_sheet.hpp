#pragma once
#include "core/library/part_library.hpp"
#include "core/sheets/part_checks.hpp"

#include <QLabel>
#include <QTableWidget>

#include <optional>

namespace fulmox::app {

/// The data sheet of one part to read or to type: every field of its kind, what its convention is, what is
/// wrong with it, and the remarks on the whole.
class PartSheet : public QWidget {
  Q_OBJECT

public:
  explicit PartSheet(QWidget* parent = nullptr);

  /// Shows a part; one that is not one's own is only read.
  void show(const std::string& slot, const Section& part, bool editable, UnitSet units);
  void clear();
  [[nodiscard]] bool any() const { return part_.has_value(); }
  [[nodiscard]] const Section& part() const { return *part_; }
  [[nodiscard]] const std::string& slot() const { return slot_; }
  [[nodiscard]] bool editable() const { return editable_; }
  /// Types a text into a field, as the user would.
  void type(const std::string& field, const QString& text);

signals:
  void edited();

protected:
  void changeEvent(QEvent* event) override;

private:
  void fill();
  void colour(int row);
  void show_field(std::size_t field);
  void put_choice(int row, const FieldSpec& field, const Entry& entry);
  void put_curve(int row, const FieldSpec& field, const Entry& entry);
  void remark();

  std::string slot_;
  std::optional<Section> part_;
  bool editable_ = false, filling_ = false;
  UnitSet units_ = UnitSet::si;
  QTableWidget* table_;
  QLabel* remarks_;
};

} // namespace fulmox::app

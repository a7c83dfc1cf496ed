#pragma once
#include "core/library/foreign_csv.hpp"
#include "core/library/part_library.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>

namespace fulmox::app {

class PartSources;

/// A list of parts in another layout: what each of its columns means, guessed, or remembered from the last
/// list of that layout; and what of it can be read.
class ImportDialog : public QDialog {
  Q_OBJECT

public:
  /// The text must be one that look_into() takes.
  ImportDialog(PartSources& sources, std::string text, QString file, const std::string& slot,
               QWidget* parent = nullptr);

  [[nodiscard]] const std::string& slot() const { return slot_; }
  [[nodiscard]] const Parts& parts() const { return read_.parts; }
  [[nodiscard]] const CsvMapping& mapping() const { return mapping_; }

private:
  struct KindChoice {
    const SlotSpec* slot;
    SlotKind kind;
  };
  void choose_kind(int index);
  void fill();
  void renew();
  [[nodiscard]] const SectionSpec& form() const {
    return *kinds_[static_cast<std::size_t>(kind_->currentIndex())].kind.form;
  }

  PartSources& sources_;
  std::string text_;
  QString file_;
  std::string slot_;
  ForeignTable table_;
  CsvMapping mapping_;
  PartsRead read_;
  std::vector<KindChoice> kinds_;
  QComboBox* kind_;
  QTableWidget* columns_;
  QLineEdit* maker_;
  QCheckBox* comma_;
  QLabel *told_, *troubles_;
  QPushButton* take_;
  bool filling_ = false;
};

} // namespace fulmox::app

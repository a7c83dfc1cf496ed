#pragma once
#include "core/library/part_library.hpp"

#include <QDialog>
#include <QLineEdit>
#include <QTableWidget>

namespace fulmox::app {

class Session;

/// Chooses a part. Going through the list tries each part at once behind the dialog; Escape puts the old one
/// back.
class PartPicker : public QDialog {
  Q_OBJECT

public:
  PartPicker(Session& session, const SlotSpec& slot, QWidget* parent);

  void reject() override;
  bool eventFilter(QObject* watched, QEvent* event) override;

private:
  void fill();
  void filter(const QString& text);
  void try_row(int row);
  [[nodiscard]] std::vector<std::string_view> columns() const;

  Session& session_;
  const SlotSpec& slot_;
  QLineEdit* search_;
  QTableWidget* table_;
  Section before_;
  bool tried_ = false;
};

} // namespace fulmox::app

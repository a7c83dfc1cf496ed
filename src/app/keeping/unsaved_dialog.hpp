#pragma once
#include "core/keeping/kept_work.hpp"

#include <QDialog>

#include <optional>

class QPushButton;
class QTableWidget;

namespace fulmox::app {

/// All unsaved work that lies in the user's folder: open it, or delete it.
class UnsavedDialog : public QDialog {
  Q_OBJECT

public:
  UnsavedDialog(std::filesystem::path folder, QWidget* parent);
  /// What the user wants to open; nothing when the dialog was closed.
  [[nodiscard]] const std::optional<KeptWork>& wanted() const { return wanted_; }

private:
  void fill();
  void open_selected();
  void remove();
  [[nodiscard]] const KeptWork* selected() const;

  std::filesystem::path folder_;
  std::vector<KeptWork> all_;
  QTableWidget* table_;
  QPushButton *open_, *delete_;
  std::optional<KeptWork> wanted_;
};

} // namespace fulmox::app

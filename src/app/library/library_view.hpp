#pragma once
#include "app/library/part_sheet.hpp"
#include "app/library/stored_model.hpp"
#include "app/session/change.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QTableView>
#include <QToolButton>

#include <array>

namespace fulmox::app {

class Session;

/// The libraries: which are loaded and in what order they count, the parts of all of them with where each
/// stands, the sheet of one to read, copy, type and check; lists of other layouts read in, parts given out.
class LibraryView : public QWidget {
  Q_OBJECT

public:
  explicit LibraryView(Session& session, QWidget* parent = nullptr);

  void add_source(const QString& path);
  /// Reads a list of parts of any layout into the own library; asks what its columns mean.
  void import_list(const QString& path);
  /// Writes the parts that are listed.
  std::optional<Problem> export_list(const QString& path) const;

protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

private:
  QWidget* left_side();
  QWidget* middle();
  QWidget* right_side();
  void place_words();
  void show_sources();
  void show_slot(const std::string& slot);
  void fit_kind();
  void check_all();
  void follow_row(int row);
  void select(const PartName& name);
  void start_new();
  void copy();
  void keep();
  void remove();
  void tell();
  void told_problem(const std::optional<Problem>& problem);
  /// Whether a sheet that was typed and not kept may be left.
  [[nodiscard]] bool may_leave();

  Session& session_;
  std::string slot_ = "motor";
  std::vector<QToolButton*> words_; ///< the kinds of part, in one row or two
  std::array<QHBoxLayout*, 2> rows_of_words_;
  QListWidget *sources_, *troubles_;
  QPushButton *remove_source_, *up_, *down_;
  QLineEdit* search_;
  QTableView* table_;
  StoredModel* model_;
  QComboBox* new_kind_;
  PartSheet* sheet_;
  QLabel *head_, *note_;
  QPushButton *copy_, *keep_, *delete_;
  std::optional<PartName> was_;    ///< name under which the sheet's part stands in the own library
  std::optional<PartName> wanted_; ///< to be selected once the libraries were read
  bool typed_ = false, filling_ = false, open_ = false;
};

} // namespace fulmox::app

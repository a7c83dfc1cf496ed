#pragma once
#include "app/parts/part_model.hpp"
#include "app/session/change.hpp"

#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableView>
#include <QToolButton>

namespace fulmox::app {

class Session;

/// The parts of a slot in the sheet, the plane below them and the ladder beside: going through the list tries
/// each part at once; Escape puts back what was there when the list was opened.
class PartsView : public QWidget {
  Q_OBJECT

public:
  explicit PartsView(Session& session, QWidget* parent = nullptr);

  /// Shows the parts for a slot; when one is taken, the view of that id comes back.
  void choose_for(const std::string& slot, const QString& return_to);
  /// Leaves the list as it is chosen now.
  void take();
  /// Puts back what was in the slot before.
  void put_back();
  bool eventFilter(QObject* watched, QEvent* event) override;

signals:
  /// A part was taken or put back: whoever came from another view wants to return there.
  void done(const QString& return_to);

protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

private:
  void refresh(Changes what);
  /// Shows another slot, or the same one afresh.
  void show_slot(const SlotSpec& slot);
  void fit_columns();
  void ask();
  void try_row(int row);
  void take_none();
  void put(const QString& step, const Section& part);
  void mark_chosen();
  void tell();
  [[nodiscard]] const Section& chosen() const;

  Session& session_;
  const SlotSpec* slot_;
  std::vector<QToolButton*> words_;
  QLineEdit* search_;
  QTableView* table_;
  PartModel* model_;
  QLabel* note_;
  QToolButton* stop_;
  QPushButton* back_;
  std::optional<Section> before_; ///< what was there when the list was opened
  std::size_t axis_index_ = 0;    ///< of the axis it was opened for
  std::optional<Axis> asked_;     ///< the axis that the parts were tried in, whatever is in the slot
  std::optional<Section> asked_rules_;
  QString return_to_;
  bool open_ = false;    ///< seen
  bool putting_ = false; ///< a part is being put in: the table need not follow
};

} // namespace fulmox::app

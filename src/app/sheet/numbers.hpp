#pragma once
#include <QListWidget>

#include <vector>

namespace fulmox::app {

class QuietItems;
struct RowPart;
class Session;

/// All results of the axis, a column for each group, the first of each always seen; Enter, F2 or a double
/// click shows how a number came about.
class Numbers : public QListWidget {
  Q_OBJECT

public:
  explicit Numbers(Session& session, QWidget* parent = nullptr);
  /// Selects a result by its id; false when there is none.
  bool select(const QString& id);
  /// The id of the result that is selected; empty when none is.
  [[nodiscard]] QString current_result() const;
  /// Takes as much height as what is shown needs; the window decides how high a row is.
  void fit();

protected:
  void resizeEvent(QResizeEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;
  /// Tips are only worded when somebody asks for one.
  bool viewportEvent(QEvent* event) override;

private:
  /// What stands in each place, column by column: an index among the results, or one of these.
  enum Place { blank = -1, more = -2, first_heading = -10 };
  [[nodiscard]] std::vector<int> arrange() const;
  [[nodiscard]] int column_count() const;
  void refresh();
  [[nodiscard]] RowPart part_of_number(const QString& label, const QString& before,
                                       const QString& after) const;
  void show_result(QuietItems& items, int row, std::size_t index);
  void unfold(bool all);
  void activate();

  Session& session_;
  bool all_ = false;  ///< also what comes after the first of each group
  int row_width_ = 0; ///< px
  int rows_ = 0;
  std::vector<int> places_;
};

} // namespace fulmox::app

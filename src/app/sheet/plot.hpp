#pragma once
#include <qcustomplot.h>

#include <QColor>
#include <QString>

#include <vector>

namespace fulmox::app {

/// A plot with its title and unit above and, where wanted, names below it, in rows of three or two. They are
/// drawn over the plot from kept text: the plot's own titles and legends are shaped and laid out anew with
/// every curve that changes.
class Plot : public QCustomPlot {
  Q_OBJECT

public:
  struct Name {
    QColor color;
    QString text;
    bool operator==(const Name&) const = default;
  };

  explicit Plot(const QString& title);
  /// "mN·m over rpm"; only the unit where there is no room for both.
  void set_units(const QString& unit, const QString& over);
  void set_title(const QString& title);
  [[nodiscard]] const QString& title() const { return title_; }
  /// The units as there is room for.
  [[nodiscard]] QString units() const;
  /// What the colours stand for; none takes no room.
  void set_names(std::vector<Name> names);
  [[nodiscard]] const std::vector<Name>& names() const { return names_; }
  [[nodiscard]] int names_a_row() const { return names_a_row_; }

  /// The cursor, drawn over the plot so that moving it draws nothing else anew: a line across it at a time,
  /// or a ring around a point.
  enum class Cursor { none, line, ring };
  void set_cursor(Cursor kind, QPointF at = {});
  [[nodiscard]] Cursor cursor() const { return cursor_; }
  [[nodiscard]] QPointF cursor_at() const { return cursor_at_; }

protected:
  void paintEvent(QPaintEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

private:
  void fit_names();
  void paint_cursor(QPainter& painter);

  QString title_, unit_, over_;
  std::vector<Name> names_;
  int names_a_row_ = 3, name_rows_ = 0;
  Cursor cursor_ = Cursor::none;
  QPointF cursor_at_;  ///< key and value
  QRect cursor_drawn_; ///< px
};

} // namespace fulmox::app

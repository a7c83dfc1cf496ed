#pragma once
#include "core/library/picture_axes.hpp"

#include <QPixmap>
#include <QWidget>

#include <vector>

namespace fulmox::app {

/// A picture that can be dropped in and clicked at; marks stand on it where they were clicked.
class PictureArea : public QWidget {
  Q_OBJECT

public:
  explicit PictureArea(QWidget* parent = nullptr);

  /// Reads a picture; false where the file is none.
  bool open(const QString& path);
  [[nodiscard]] bool any() const { return !picture_.isNull(); }
  /// Marks of the axes by their letters, and points of the curve, in pixels of the picture.
  struct Mark {
    PicturePoint at;
    QString word;
  };
  void show_marks(std::vector<Mark> marks, std::vector<PicturePoint> points);
  /// Where a place of the picture is in the widget.
  [[nodiscard]] QPointF on_widget(PicturePoint at) const;

signals:
  void clicked(fulmox::PicturePoint at);
  void opened();
  /// A file that was dropped is no picture.
  void refused(const QString& path);

protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

private:
  [[nodiscard]] QRectF target() const;

  QPixmap picture_;
  std::vector<Mark> marks_;
  std::vector<PicturePoint> points_;
};

} // namespace fulmox::app

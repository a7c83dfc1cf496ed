#include "app/library/picture_area.hpp"

#include "app/theme/theme.hpp"

#include <QDragEnterEvent>
#include <QFileInfo>
#include <QImageReader>
#include <QMimeData>
#include <QMouseEvent>
#include <QPainter>

namespace fulmox::app {

PictureArea::PictureArea(QWidget* parent) : QWidget(parent) {
  setObjectName("picture_area");
  setAccessibleName("Picture of the curve");
  setAcceptDrops(true);
  setMinimumSize(320, 240);
  setCursor(Qt::CrossCursor);
}

bool PictureArea::open(const QString& path) {
  QImageReader reader(path);
  reader.setAutoTransform(true);
  constexpr int most = 20'000; // pixels a side: more is no picture of a curve
  if (reader.size().width() > most || reader.size().height() > most) return false;
  const QImage image = reader.read();
  if (image.isNull()) return false;
  picture_ = QPixmap::fromImage(image);
  marks_.clear();
  points_.clear();
  update();
  emit opened();
  return true;
}

void PictureArea::show_marks(std::vector<Mark> marks, std::vector<PicturePoint> points) {
  marks_ = std::move(marks);
  points_ = std::move(points);
  update();
}

/// The picture as large as it goes, its sides in proportion.
QRectF PictureArea::target() const {
  const QSizeF size = QSizeF(picture_.size()).scaled(QSizeF(this->size()), Qt::KeepAspectRatio);
  return {QPointF((width() - size.width()) / 2.0, (height() - size.height()) / 2.0), size};
}

QPointF PictureArea::on_widget(PicturePoint at) const {
  const QRectF to = target();
  return {to.left() + at.x / picture_.width() * to.width(),
          to.top() + at.y / picture_.height() * to.height()};
}

void PictureArea::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::SmoothPixmapTransform);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.fillRect(rect(), theme().field);
  if (picture_.isNull()) {
    painter.setPen(theme().soft);
    painter.setFont(face());
    painter.drawText(rect().adjusted(16, 16, -16, -16), Qt::AlignCenter | Qt::TextWordWrap,
                     "Drop a picture of the curve here, or open one.");
    return;
  }
  painter.drawPixmap(target(), picture_, QRectF(picture_.rect()));
  painter.setFont(face(-1, true));
  constexpr double arm = 7.0;
  for (const Mark& mark : marks_) {
    const QPointF at = on_widget(mark.at);
    painter.setPen(QPen(theme().accent, 2.0));
    painter.drawLine(at - QPointF(arm, 0), at + QPointF(arm, 0));
    painter.drawLine(at - QPointF(0, arm), at + QPointF(0, arm));
    painter.drawText(at + QPointF(arm, -arm), mark.word);
  }
  painter.setPen(QPen(Qt::white, 1.5));
  painter.setBrush(theme().accent);
  for (const PicturePoint& point : points_) painter.drawEllipse(on_widget(point), 4.5, 4.5);
}

void PictureArea::mousePressEvent(QMouseEvent* event) {
  const QRectF from = target();
  if (picture_.isNull() || event->button() != Qt::LeftButton || !from.contains(event->position())) return;
  emit clicked({(event->position().x() - from.left()) / from.width() * picture_.width(),
                (event->position().y() - from.top()) / from.height() * picture_.height()});
}

void PictureArea::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void PictureArea::dropEvent(QDropEvent* event) {
  const auto urls = event->mimeData()->urls();
  const QString path = urls.isEmpty() ? QString() : urls.front().toLocalFile();
  if (!open(path)) emit refused(QFileInfo(path).fileName());
}

} // namespace fulmox::app

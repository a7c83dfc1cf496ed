#include "app/widgets/kept_text.hpp"

#include <QFontMetrics>
#include <QHash>
#include <QPaintEngine>
#include <QPainter>
#include <QStaticText>

#include <cmath>

namespace fulmox::app {
namespace {

struct Key {
  QString text;
  int pixels, weight;
  int wrapped_at; ///< -1: one line
  bool operator==(const Key&) const = default;
};
std::size_t qHash(const Key& key, std::size_t seed = 0) {
  return qHashMulti(seed, key.text, key.pixels, key.weight, key.wrapped_at);
}

struct Kept {
  QStaticText shaped;
  int width = 0, height = 0;
};

/// Enough for all that a window shows, with what it showed while somebody typed.
constexpr qsizetype most_kept = 4000;

const Kept& kept(const QString& text, const QFont& font, int wrapped_at = -1) {
  static QHash<Key, Kept> all;
  const Key key{text, font.pixelSize(), font.weight(), wrapped_at};
  if (const auto found = all.constFind(key); found != all.cend()) return *found;
  if (all.size() >= most_kept) all.clear();
  Kept made;
  made.shaped.setTextFormat(Qt::PlainText);
  made.shaped.setPerformanceHint(QStaticText::AggressiveCaching);
  if (wrapped_at >= 0) {
    QTextOption option;
    option.setWrapMode(QTextOption::WordWrap);
    made.shaped.setTextOption(option);
    made.shaped.setTextWidth(wrapped_at);
  }
  made.shaped.setText(text);
  made.shaped.prepare({}, font);
  made.width = static_cast<int>(std::ceil(made.shaped.size().width()));
  made.height = static_cast<int>(std::ceil(made.shaped.size().height()));
  return *all.insert(key, made);
}

/// Whether any of a box lies where the window is being painted: of most rows only the number is.
bool seen(const QPainter& painter, const QRect& box) {
  const QRegion painted = painter.paintEngine()->systemClip();
  return painted.isEmpty() || painted.intersects(painter.deviceTransform().mapRect(box));
}

} // namespace

int line_width(const QString& text, const QFont& font) { return kept(text, font).width; }
int line_height(const QFont& font) { return kept("0", font).height; }

int draw_line(QPainter& painter, const QRect& box, Qt::Alignment alignment, const QString& text,
              const QFont& font) {
  if (text.isEmpty()) return 0;
  if (kept(text, font).width > box.width()) {
    const QString cut = QFontMetrics(font).elidedText(text, Qt::ElideRight, box.width());
    return cut == text ? 0 : draw_line(painter, box, alignment, cut, font);
  }
  const Kept& line = kept(text, font);
  const int left = alignment.testFlag(Qt::AlignRight)     ? box.right() + 1 - line.width
                   : alignment.testFlag(Qt::AlignHCenter) ? box.left() + (box.width() - line.width) / 2
                                                          : box.left();
  const int top =
      alignment.testFlag(Qt::AlignVCenter) ? box.top() + (box.height() - line.height) / 2 : box.top();
  constexpr int overhang = 2; // px, of letters that lean out
  if (seen(painter, QRect(left, top, line.width, line.height).adjusted(-overhang, 0, overhang, 0))) {
    painter.setFont(font);
    painter.drawStaticText(left, top, line.shaped);
  }
  return line.width;
}

int paragraph_height(const QString& text, const QFont& font, int width) {
  return kept(text, font, width).height;
}

int draw_paragraph(QPainter& painter, const QRect& box, const QString& text, const QFont& font) {
  const Kept& paragraph = kept(text, font, box.width());
  painter.setFont(font);
  painter.drawStaticText(box.topLeft(), paragraph.shaped);
  return paragraph.height;
}

} // namespace fulmox::app

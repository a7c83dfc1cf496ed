#pragma once
#include <QFont>
#include <QRect>
#include <QString>

class QPainter;

namespace fulmox::app {

// Shaping text takes most of the time a number needs to get on screen, and most numbers and labels are drawn
// again and again: each is shaped once and kept.

/// Draws one line of plain text in the painter's pen, cut with an ellipsis where it is too long for the box;
/// gives the width it takes.
int draw_line(QPainter& painter, const QRect& box, Qt::Alignment alignment, const QString& text,
              const QFont& font);
int line_width(const QString& text, const QFont& font);
int line_height(const QFont& font);

/// Draws plain text broken into lines of at most the box's width from its top; gives the height it takes.
int draw_paragraph(QPainter& painter, const QRect& box, const QString& text, const QFont& font);
int paragraph_height(const QString& text, const QFont& font, int width);

} // namespace fulmox::app

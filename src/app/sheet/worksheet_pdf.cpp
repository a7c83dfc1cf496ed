#include "app/sheet/worksheet_pdf.hpp"

#include "app/theme/theme.hpp"
#include "core/report/worksheet.hpp"

#include <QAbstractTextDocumentLayout>
#include <QPainter>
#include <QPdfWriter>
#include <QSaveFile>
#include <QTextCursor>
#include <QTextDocument>
#include <QTextTable>

namespace fulmox::app {
namespace {

constexpr int dots_per_inch = 96;

/// Markdown tables come without air: give their cells some, and keep the header row on every page.
void dress_tables(QTextDocument& text) {
  for (QTextFrame* frame : text.rootFrame()->childFrames()) {
    auto* table = qobject_cast<QTextTable*>(frame);
    if (table == nullptr) continue;
    QTextTableFormat format = table->format();
    format.setCellPadding(2);
    format.setCellSpacing(0);
    format.setBorder(0.5);
    format.setBorderCollapse(true);
    format.setBorderBrush(QColor("#d9d4c8"));
    format.setHeaderRowCount(1);
    table->setFormat(format);
  }
}

} // namespace

bool write_worksheet_pdf(const Document& document, const QString& path) {
  QSaveFile file(path);
  if (!file.open(QIODevice::WriteOnly)) return false;
  {
    QPdfWriter writer(&file);
    writer.setPageSize(QPageSize(QPageSize::A4));
    writer.setPageMargins(QMarginsF(18, 16, 18, 18), QPageLayout::Millimeter);
    writer.setResolution(dots_per_inch);
    writer.setTitle(QString::fromStdString(document.name));
    writer.setCreator("Fulmox");
    QTextDocument text;
    QFont font = face(-2);
    text.setDefaultFont(font);
    text.setMarkdown(QString::fromStdString(worksheet(document)));
    dress_tables(text);
    // code spans ask for a fixed-pitch face; the bundled one has every symbol
    QTextCursor all(&text);
    all.select(QTextCursor::Document);
    QTextCharFormat families;
    families.setFontFamilies({font.family()});
    all.mergeCharFormat(families);
    // asked for only now: once a document has its layout, every inserted cell lays all of it out anew
    text.documentLayout()->setPaintDevice(&writer);
    const QRectF page(QPointF(0, 0), QSizeF(writer.width(), writer.height()));
    text.setPageSize(page.size());
    QPainter painter(&writer);
    QAbstractTextDocumentLayout::PaintContext context;
    context.palette.setColor(QPalette::Text, Qt::black);
    for (int i = 0; i < text.pageCount(); ++i) {
      if (i > 0) writer.newPage();
      painter.save();
      painter.translate(0, -i * page.height());
      context.clip = page.translated(0, i * page.height());
      painter.setClipRect(context.clip);
      text.documentLayout()->draw(&painter, context);
      painter.restore();
      painter.setFont(font);
      painter.drawText(QRectF(0, page.height() + 14, page.width(), 20), Qt::AlignRight,
                       QString("%1 / %2").arg(i + 1).arg(text.pageCount()));
    }
  }
  return file.commit();
}

} // namespace fulmox::app

#include "app/widgets/steady_text.hpp"

#include "app/widgets/plain_widgets.hpp"

namespace fulmox::app {

SteadyText::SteadyText(const char* name, const char* role, QWidget* parent)
    : QWidget(parent), label_(wrapped_label(name, role)) {
  label_->setParent(this);
}

void SteadyText::set_text(const QString& text) {
  label_->setText(text);
  if (minimumHeight() != maximumHeight() && heightForWidth(width()) != height()) updateGeometry();
}

void SteadyText::set_font(const QFont& font) { label_->setFont(font); }

QSize SteadyText::sizeHint() const { return label_->sizeHint(); }

QSize SteadyText::minimumSizeHint() const { return label_->minimumSizeHint(); }

int SteadyText::heightForWidth(int width) const {
  const QMargins around = contentsMargins();
  return label_->heightForWidth(width - around.left() - around.right()) + around.top() + around.bottom();
}

void SteadyText::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  label_->setGeometry(contentsRect());
}

} // namespace fulmox::app

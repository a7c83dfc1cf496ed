#include "app/views/sheet.hpp"

#include "app/session/session.hpp"
#include "app/sheet/welcome.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/page_stack.hpp"

#include <QHBoxLayout>
#include <QResizeEvent>
#include <QShortcut>
#include <QStyle>
#include <QVBoxLayout>

namespace fulmox::app {

Sheet::Sheet(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), views_(view_specs().size(), nullptr) {
  setObjectName("sheet");
  setAttribute(Qt::WA_StyledBackground);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  row_ = new QWidget;
  row_->setObjectName("view_switch");
  row_->setAccessibleName("Views");
  auto* row = new QHBoxLayout(row_);
  row->setContentsMargins(6, 0, 6, 0);
  row->setSpacing(2);
  for (const ViewSpec& spec : view_specs()) {
    auto* word = new QToolButton;
    word->setText(spec.title);
    word->setToolTip(spec.tip + "  (" + spec.keys.toString(QKeySequence::NativeText) + ")");
    word->setAccessibleName(spec.title + " view");
    word->setObjectName("view_" + qt(spec.id));
    word->setCheckable(true);
    word->setProperty("role", "view");
    const std::string_view id = spec.id;
    connect(word, &QToolButton::clicked, this, [this, id] { show_view(id); });
    connect(new QShortcut(spec.keys, this), &QShortcut::activated, this, [this, id] { show_view(id); });
    row->addWidget(word);
    words_.push_back(word);
  }
  row->addStretch();
  layout->addWidget(row_);
  pages_ = new PageStack;
  layout->addWidget(pages_, 1);
  welcome_ = new Welcome(session);
  pages_->addWidget(welcome_);
  connect(&session, &Session::changed, this, &Sheet::refresh);
  refresh();
}

void Sheet::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  if (event->size().width() != event->oldSize().width()) fit_switch();
}

/// Another theme gives the words their own size of type back.
void Sheet::changeEvent(QEvent* event) {
  QWidget::changeEvent(event);
  if (event->type() == QEvent::StyleChange) // they hear of it after the sheet
    QMetaObject::invokeMethod(this, &Sheet::fit_switch, Qt::QueuedConnection);
}

/// All words fit a wide window; in a narrow one they stand closer, and are smaller where that is not enough.
void Sheet::fit_switch() {
  constexpr int smallest = -3;
  for (int step = 0; step >= smallest; --step) {
    for (QToolButton* word : words_) {
      if (word->property("narrow").toBool() != (step < 0)) {
        word->setProperty("narrow", step < 0);
        word->style()->unpolish(word); // it takes its font back: that comes last
        word->style()->polish(word);
      }
      word->setFont(face(step));
    }
    row_->layout()->setSpacing(step == 0 ? 2 : 0);
    if (row_->layout()->sizeHint().width() <= width()) return;
  }
}

std::size_t Sheet::index_of(std::string_view id) {
  const auto all = view_specs();
  for (std::size_t i = 0; i < all.size(); ++i)
    if (all[i].id == id) return i;
  return all.size();
}

QWidget* Sheet::view(std::string_view id) {
  const std::size_t index = index_of(id);
  if (index == views_.size()) return nullptr;
  if (views_[index] == nullptr) {
    views_[index] = view_specs()[index].make(session_);
    pages_->addWidget(views_[index]);
  }
  return views_[index];
}

void Sheet::show_view(std::string_view id) {
  if (index_of(id) == views_.size()) return;
  shown_ = index_of(id);
  refresh();
  emit switched();
}

/// Views look at results: before there are any, the welcome says what is needed.
void Sheet::refresh() {
  const bool ready = session_.evaluation() != nullptr;
  QWidget* wanted = ready ? view(shown().id) : welcome_;
  for (std::size_t i = 0; i < words_.size(); ++i) words_[i]->setChecked(i == shown_);
  row_->setVisible(ready);
  if (pages_->currentWidget() == wanted) return;
  pages_->setCurrentWidget(wanted);
  emit switched();
}

} // namespace fulmox::app

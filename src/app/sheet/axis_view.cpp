#include "app/sheet/axis_view.hpp"

#include "app/session/session.hpp"
#include "app/sheet/numbers.hpp"
#include "app/sheet/sketch.hpp"
#include "app/sheet/torque_plane.hpp"
#include "app/study/study_panel.hpp"
#include "app/widgets/page_stack.hpp"
#include "app/working/axis_working.hpp"
#include "app/working/working_panel.hpp"

#include <QFrame>
#include <QHBoxLayout>
#include <QSplitter>
#include <QVBoxLayout>

namespace fulmox::app {
namespace {

/// The pictures, one above the other.
void add_pictures(QSplitter* halves, Session& session) {
  auto* pictures = new QSplitter(Qt::Vertical, halves);
  pictures->setHandleWidth(1);
  pictures->setChildrenCollapsible(false);
  new Sketch(session, pictures);
  new TorquePlane(session, pictures);
  pictures->setStretchFactor(0, 1);
  pictures->setStretchFactor(1, 1);
  pictures->setSizes({100, 100});
}

} // namespace

AxisView::AxisView(Session& session, QWidget* parent) : QWidget(parent) {
  setObjectName("axis_view");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  auto* halves = new QSplitter(Qt::Horizontal, this);
  halves->setHandleWidth(1);
  halves->setChildrenCollapsible(false);
  add_pictures(halves, session);
  right_ = new PageStack(halves);
  study_ = new StudyPanel(session, right_);
  right_->addWidget(study_);
  working_ = new WorkingPanel(session, std::make_unique<AxisWorking>(session), "working", right_);
  right_->addWidget(working_);
  halves->setSizes({390, 310});
  layout->addWidget(halves, 1);
  auto* rule = new QFrame(this);
  rule->setProperty("role", "rule");
  rule->setFixedHeight(1);
  layout->addWidget(rule);
  numbers_ = new Numbers(session, this);
  layout->addWidget(numbers_);
  connect(working_, &WorkingPanel::closed, this, &AxisView::close_working);
}

void AxisView::resizeEvent(QResizeEvent* event) {
  numbers_->fit();
  QWidget::resizeEvent(event);
}

void AxisView::show_working(const QString& result) {
  right_->setCurrentIndex(1);
  working_->show_result(result);
}

void AxisView::close_working() { right_->setCurrentIndex(0); }

bool AxisView::working_open() const { return right_->currentIndex() == 1; }

} // namespace fulmox::app

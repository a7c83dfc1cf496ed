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

QSplitter* column(QWidget* upper, QWidget* lower, int upper_share, int lower_share) {
  auto* splitter = new QSplitter(Qt::Vertical);
  splitter->setHandleWidth(1);
  splitter->setChildrenCollapsible(false);
  splitter->addWidget(upper);
  splitter->addWidget(lower);
  splitter->setStretchFactor(0, upper_share);
  splitter->setStretchFactor(1, lower_share);
  splitter->setSizes({upper_share * 100, lower_share * 100});
  return splitter;
}

} // namespace

AxisView::AxisView(Session& session, QWidget* parent) : QWidget(parent) {
  setObjectName("axis_view");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  right_ = new PageStack;
  study_ = new StudyPanel(session);
  right_->addWidget(study_);
  working_ = new WorkingPanel(session, std::make_unique<AxisWorking>(session), "working");
  right_->addWidget(working_);
  auto* halves = new QSplitter(Qt::Horizontal);
  halves->setHandleWidth(1);
  halves->setChildrenCollapsible(false);
  halves->addWidget(column(new Sketch(session), new TorquePlane(session), 1, 1));
  halves->addWidget(right_);
  halves->setSizes({390, 310});
  layout->addWidget(halves, 1);
  auto* rule = new QFrame;
  rule->setProperty("role", "rule");
  rule->setFixedHeight(1);
  layout->addWidget(rule);
  numbers_ = new Numbers(session);
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

#include "app/sheet/axis_view.hpp"

#include "app/session/session.hpp"
#include "app/sheet/numbers.hpp"
#include "app/sheet/sketch.hpp"
#include "app/sheet/torque_plane.hpp"
#include "app/sheet/welcome.hpp"
#include "app/study/study_panel.hpp"
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

AxisView::AxisView(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("sheet");
  setAttribute(Qt::WA_StyledBackground);
  auto* outer = new QVBoxLayout(this);
  outer->setContentsMargins(0, 0, 0, 0);
  pages_ = new QStackedWidget;
  outer->addWidget(pages_);
  auto* welcome = new Welcome(session);
  pages_->addWidget(welcome);
  connect(welcome, &Welcome::example_wanted, this, &AxisView::example_wanted);
  connect(welcome, &Welcome::demo_wanted, this, &AxisView::demo_wanted);
  connect(welcome, &Welcome::open_wanted, this, &AxisView::open_wanted);

  auto* sheet = new QWidget;
  auto* layout = new QVBoxLayout(sheet);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  right_ = new QStackedWidget;
  study_ = new StudyPanel(session);
  right_->addWidget(study_);
  working_ = new WorkingPanel(session);
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
  pages_->addWidget(sheet);
  connect(working_, &WorkingPanel::closed, this, &AxisView::close_working);
  connect(&session, &Session::changed, this, &AxisView::refresh);
  refresh();
}

void AxisView::refresh() { pages_->setCurrentIndex(session_.evaluation() == nullptr ? 0 : 1); }

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

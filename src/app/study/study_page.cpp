#include "app/study/study_page.hpp"

#include "app/session/session.hpp"

namespace fulmox::app {

StudyPage::StudyPage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  timer_.setSingleShot(true);
  timer_.setInterval(120);
  connect(&timer_, &QTimer::timeout, this, &StudyPage::work_out_now);
  connect(&session, &Session::changed, this, [this] {
    // what is only tried does not change the question
    if (session_.trial().isEmpty()) outdate();
  });
}

void StudyPage::outdate() {
  outdated_ = true;
  if (isVisible()) timer_.start();
}

void StudyPage::work_out_now() {
  timer_.stop();
  outdated_ = false;
  work_out();
}

void StudyPage::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  if (outdated_) work_out_now();
}

} // namespace fulmox::app

#include "app/study/study_page.hpp"

#include "app/session/session.hpp"

namespace fulmox::app {

StudyPage::StudyPage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  timer_.setSingleShot(true);
  timer_.setInterval(120);
  connect(&timer_, &QTimer::timeout, this, &StudyPage::ask);
  connect(&session, &Session::changed, this, [this](Changes what) {
    // what is only tried does not change the question
    if ((what & results_changed) && session_.trial().isEmpty()) outdate();
  });
}

void StudyPage::outdate() {
  outdated_ = true;
  if (isVisible()) timer_.start();
}

void StudyPage::ask() {
  timer_.stop();
  outdated_ = false;
  Work work = question();
  if (!work) return session_.jobs().cancel(objectName());
  session_.jobs().start(objectName(), [work = std::move(work)](const JobLink& link) {
    if (Show show = work(link)) link.deliver(std::move(show));
  });
}

void StudyPage::work_out_now() {
  ask();
  session_.jobs().wait();
}

void StudyPage::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  if (outdated_) ask();
}

} // namespace fulmox::app

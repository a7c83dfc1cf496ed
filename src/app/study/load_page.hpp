#pragma once
#include "app/study/study_page.hpp"

#include <QLabel>
#include <QTableWidget>

namespace fulmox::app {

/// The load drawn from its pieces, and every inertia on its way to the motor.
class LoadPage : public StudyPage {
  Q_OBJECT

public:
  explicit LoadPage(Session& session, QWidget* parent = nullptr);

protected:
  Work question() override;

private:
  QWidget* picture_;
  QTableWidget* chain_;
  QTableWidget* pieces_;
  QLabel* advice_;
};

} // namespace fulmox::app

#pragma once
#include "app/study/study_page.hpp"
#include "core/study/sensitivity.hpp"

#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QVBoxLayout>

namespace fulmox::app {

/// Which input moves peak, rms and inertia ratio most, each with a slider that swings it over its tolerance
/// while everything follows. Letting go brings the typed value back.
class WhatIfPage : public StudyPage {
  Q_OBJECT

public:
  explicit WhatIfPage(Session& session, QWidget* parent = nullptr);

protected:
  void work_out() override;
  void hideEvent(QHideEvent* event) override;

private:
  struct Row {
    QWidget* box;
    QPushButton* name;
    QSlider* slider;
    QLabel* effect;
    Influence influence;
  };
  void make_row();
  void swing(std::size_t row, int position);

  std::vector<Row> rows_;
  QVBoxLayout* list_;
  QLabel* note_;
};

} // namespace fulmox::app

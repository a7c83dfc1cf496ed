#pragma once
#include "app/study/study_page.hpp"
#include "core/study/sensitivity.hpp"

#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QSlider>

#include <array>

namespace fulmox::app {

/// Which input moves peak, rms and inertia ratio most, each with a slider that swings it over its tolerance
/// while everything follows. Letting go brings the typed value back.
class WhatIfPage : public StudyPage {
  Q_OBJECT

public:
  explicit WhatIfPage(Session& session, QWidget* parent = nullptr);

protected:
  Work question() override;
  void hideEvent(QHideEvent* event) override;

private:
  struct Row {
    QPushButton* name;
    QLabel* tolerance;
    std::array<QLabel*, 3> effects; ///< peak, rms, inertia ratio
    QSlider* slider;
    Influence influence;
    void show(bool on) const;
  };
  void fill(const Expected<std::vector<Influence>>& found);
  void make_row();
  void fill_row(Row& row, const Influence& influence) const;
  void swing(std::size_t row, int position);

  std::vector<Row> rows_;
  QWidget* table_;
  QGridLayout* grid_;
  QLabel* note_;
};

} // namespace fulmox::app

#pragma once
#include "app/study/study_page.hpp"
#include "core/study/law_study.hpp"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QTableWidget>

namespace fulmox::app {

class ProfileView;

/// One segment looked at closely: a move under every law, or a recorded profile beside its fit.
class MovePage : public StudyPage {
  Q_OBJECT

public:
  explicit MovePage(Session& session, QWidget* parent = nullptr);
  void choose_segment(std::size_t segment);

protected:
  Work question() override;

private:
  void fill_segments();
  Work ask_laws(std::size_t segment);
  Work ask_profile(std::size_t segment);
  void show_laws(const std::vector<LawChoice>& choices);
  /// Takes the record's own scatter as its noise.
  void take_scatter();
  void use(int row);
  /// False when the axis was changed since the page was filled; it is then asked for anew.
  bool up_to_date();
  /// The limits typed above the table; nothing when one cannot be read, which is then said.
  std::optional<MoveLimits> limits();

  QComboBox* segments_;
  QWidget* limit_row_;
  QLineEdit* speed_limit_;
  QLineEdit* acceleration_limit_;
  QTableWidget* laws_;
  ProfileView* profile_;
  QLabel* note_;
  std::vector<LawChoice> choices_;
  double time_ = 0.0;
  Axis asked_, shown_; ///< the axis asked about last, and that the page tells about: the present one is up to
                       ///< a moment ahead
};

} // namespace fulmox::app

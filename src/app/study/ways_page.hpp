#pragma once
#include "app/study/study_page.hpp"
#include "core/ways/ways_out.hpp"

#include <QComboBox>
#include <QLabel>
#include <QVBoxLayout>

#include <optional>

namespace fulmox::app {

/// The smallest change of each input that brings a red or tight limit down, each with what it makes worse and
/// one click to take it; for an axis without a red limit how far each input may still go.
class WaysPage : public StudyPage {
  Q_OBJECT

public:
  explicit WaysPage(Session& session, QWidget* parent = nullptr);
  /// Looks at a limit, if it is red or tight.
  void look_at(std::string_view limit);

protected:
  Work question() override;

private:
  /// Lists the red and tight limits; gives the one that is to be looked at, "" for the room of a clear axis.
  std::string list_limits();
  void show_ways(const Axis& of, const Expected<WaysOut>& found);
  void show_rooms(const Expected<std::vector<Room>>& rooms);
  void clear();
  QLabel* add_line(const QString& text, const char* role, int step = -1);
  void add_way(const Axis& of, const Way& way, int index);
  void take(const Axis& of, const Way& way);

  QComboBox* limits_;
  QLabel* told_;
  QWidget* list_;
  QVBoxLayout* rows_;
  std::string wanted_; ///< chosen by the user
};

} // namespace fulmox::app

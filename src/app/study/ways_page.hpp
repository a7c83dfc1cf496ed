#pragma once
#include "app/study/study_page.hpp"
#include "app/study/way_list.hpp"

#include <QComboBox>
#include <QLabel>

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
  void take(const Way& way);

  QComboBox* limits_;
  QLabel* told_;
  WayList* list_;
  Axis shown_;         ///< the one that the ways belong to
  std::string wanted_; ///< chosen by the user
};

} // namespace fulmox::app

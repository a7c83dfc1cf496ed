#pragma once
#include "app/study/way_list.hpp"
#include "core/match/search.hpp"

#include <QLabel>

namespace fulmox::app {

class Session;

/// What would have to change for a near miss to fit: the ways out of its worst limit, worked out beside the
/// window as soon as it is marked.
class MatchWays : public QWidget {
  Q_OBJECT

public:
  explicit MatchWays(Session& session, QWidget* parent = nullptr);

  /// Looks at a combination put into the axis, by the label of the limit it breaks; asked again for the same,
  /// what is shown stays.
  void look_at(const Axis& axis, std::string_view limit);
  void clear();

signals:
  /// The axis with the parts and the change.
  void taken(const fulmox::Way& way);

private:
  Session& session_;
  QLabel* told_;
  WayList* list_;
  std::optional<Axis> asked_;
};

} // namespace fulmox::app

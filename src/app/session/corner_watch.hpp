#pragma once
#include "core/evaluation/corners.hpp"

#include <QObject>
#include <QTimer>

#include <optional>
#include <string_view>

namespace fulmox::app {

class Session;

/// The corners of the present axis, worked out beside the window whenever its results change, for all that
/// show them. While new ones are on their way the last ones of the same axis stay.
class CornerWatch : public QObject {
  Q_OBJECT

public:
  explicit CornerWatch(Session& session);

  /// Nothing while the axis cannot be worked out, and before the first are there.
  [[nodiscard]] const std::optional<Corners>& corners() const { return corners_; }
  /// Begins at once what waits for a pause in the editing.
  void look();
  /// Of one limit, when a typed spread makes it worse; else null.
  [[nodiscard]] const LimitCorner* worse(std::string_view limit) const;

signals:
  void found();

private:
  void renew();
  void work_out();
  void take(Corners corners);

  Session& session_;
  std::optional<Corners> corners_;
  std::size_t axis_ = 0; ///< whose corners they are
  QTimer pause_;
};

} // namespace fulmox::app

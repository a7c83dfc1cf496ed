#pragma once
#include "core/drawing/drawing.hpp"

#include <QWidget>

#include <optional>

namespace fulmox::app {

class Session;

/// The mechanism that is chosen, before anything can be worked out: what it moves and how far are as usual
/// until they are typed.
class MechanismPreview : public QWidget {
  Q_OBJECT

public:
  explicit MechanismPreview(Session& session, QWidget* parent = nullptr);
  /// Whether there is anything to be seen.
  [[nodiscard]] bool drawn() const { return drawing_.has_value(); }

protected:
  void paintEvent(QPaintEvent* event) override;

private:
  void refresh();

  Session& session_;
  std::optional<Drawing> drawing_;
};

} // namespace fulmox::app

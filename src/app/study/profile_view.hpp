#pragma once
#include "core/form/section.hpp"
#include "core/motion/profile.hpp"

#include <QWidget>

class QCustomPlot;

namespace fulmox::app {

class Session;

/// A recorded motion beside the curve made of it, and below by how much the curve misses it.
class ProfileView : public QWidget {
public:
  explicit ProfileView(Session& session, QWidget* parent = nullptr);
  /// A record beside the curve that is made of it.
  struct Comparison {
    FittedProfile fitted;
    double smoothing = 0.0, scatter = 0.0; ///< m or rad: as typed, and between neighbouring points
  };
  /// Fits the record of a profile segment: for a job beside the window.
  static Expected<Comparison> compare(const Section& profile);
  /// Shows it; gives what is to be said about it, with a link "scatter" where its own scatter can be taken as
  /// its noise.
  QString show(const Expected<Comparison>& compared);
  /// The scatter of the record shown, as a text for the segment's noise.
  [[nodiscard]] QString scatter_text() const;

private:
  [[nodiscard]] QString told(const FittedProfile& fitted, double smoothing) const;

  Session& session_;
  QCustomPlot* plot_;
  QCustomPlot* residual_;
  double scatter_ = 0.0; ///< m or rad
};

} // namespace fulmox::app

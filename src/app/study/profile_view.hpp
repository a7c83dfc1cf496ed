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
  /// Shows a profile segment; gives what is to be said about it, with a link "scatter" where its own scatter
  /// can be taken as its noise.
  QString show_profile(const Section& profile);
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

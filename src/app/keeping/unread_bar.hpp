#pragma once
#include <QFrame>

class QLabel;

namespace fulmox::app {

class Session;

/// The strip that tells what stands in the file and is read by nothing: most often a misspelt name, whose
/// value counts for nothing then. Hidden where there is no such thing, or once the user has put it away.
class UnreadBar : public QFrame {
  Q_OBJECT

public:
  UnreadBar(Session& session, QWidget* parent);

private:
  void refresh();

  Session& session_;
  QLabel* label_;
  QString told_;     ///< what stands in the strip
  QString put_away_; ///< what stood there when the user put it away
};

} // namespace fulmox::app

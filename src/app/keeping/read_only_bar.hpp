#pragma once
#include <QFrame>

class QLabel;

namespace fulmox::app {

class Session;

/// The strip that tells why nothing can be changed, and what to do about it; hidden while everything can.
class ReadOnlyBar : public QFrame {
  Q_OBJECT

public:
  explicit ReadOnlyBar(Session& session);

signals:
  /// The user wants the file read again: the other may have closed it.
  void again_requested();

private:
  void refresh();
  void stress();

  Session& session_;
  QLabel* label_;
};

} // namespace fulmox::app

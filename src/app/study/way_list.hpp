#pragma once
#include "core/ways/ways_out.hpp"

#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>

namespace fulmox::app {

/// "53 %"; "none left" beyond all measure.
QString share_used(double used);
/// " (+12 %)"; nothing where that says nothing.
QString share_told(double value);
/// "Load, moved mass  9 kg → 7.4 kg (−18 %)", several joined by "and".
QString changes_told(const Way& way, const QString& between = " and ");

/// Ways out of a limit below each other, each with what it makes worse and a button that takes it; or any
/// other lines.
class WayList : public QScrollArea {
  Q_OBJECT

public:
  explicit WayList(QWidget* parent = nullptr);

  void clear();
  QLabel* add_line(const QString& text, const char* role, int step = -1);
  /// The ways, or how far each input came; gives what is to be told above them.
  QString show(const WaysOut& found);

signals:
  void taken(const fulmox::Way& way);

private:
  void add_way(const Way& way, int index);

  QVBoxLayout* rows_;
};

} // namespace fulmox::app

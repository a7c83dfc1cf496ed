#pragma once
#include <QStackedWidget>
#include <QToolButton>
#include <QWidget>

#include <vector>

namespace fulmox::app {

class Session;

/// The right half of the sheet: tabs of what can be looked at beside sketch and plane.
class StudyPanel : public QWidget {
  Q_OBJECT

public:
  explicit StudyPanel(Session& session, QWidget* parent = nullptr);
  /// Shows a page by name: "Shares", "Load", "Move", "Ratio", "What if", "Ways".
  void show_page(const QString& name);
  QWidget* page(const QString& name) const;

private:
  void add(const QString& name, const QString& tip, QWidget* page);

  std::vector<QToolButton*> tabs_;
  QWidget* row_;
  QStackedWidget* pages_;
};

} // namespace fulmox::app

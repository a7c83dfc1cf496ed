#pragma once
#include "app/views/view.hpp"

#include <QStackedWidget>
#include <QToolButton>
#include <QWidget>

#include <vector>

namespace fulmox::app {

class Session;
class Welcome;

/// The middle of the window: the view in use and the switch between them, or what an empty machine shows.
class Sheet : public QWidget {
  Q_OBJECT

public:
  explicit Sheet(Session& session, QWidget* parent = nullptr);

  /// Shows a view by its id; an unknown one changes nothing.
  void show_view(std::string_view id);
  [[nodiscard]] const ViewSpec& shown() const { return view_specs()[shown_]; }
  /// The widget of a view, made when it is asked for first.
  QWidget* view(std::string_view id);
  Welcome* welcome() { return welcome_; }

signals:
  /// Another view is seen, or none where there is nothing to look at yet.
  void switched();

protected:
  void resizeEvent(QResizeEvent* event) override;
  void changeEvent(QEvent* event) override;

private:
  void refresh();
  void fit_switch();
  [[nodiscard]] static std::size_t index_of(std::string_view id);

  Session& session_;
  QWidget* row_;
  std::vector<QToolButton*> words_;
  QStackedWidget* pages_;
  std::vector<QWidget*> views_; ///< nullptr where not made yet
  Welcome* welcome_;
  std::size_t shown_ = 0;
};

} // namespace fulmox::app

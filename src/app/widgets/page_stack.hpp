#pragma once
#include <QStackedWidget>

namespace fulmox::app {

/// Pages of which one is shown. How high the texts of the others are at each width does not matter to what is
/// around it: asking for it would lay out every text of every page whenever one of them changes.
class PageStack : public QStackedWidget {
public:
  using QStackedWidget::QStackedWidget;
  [[nodiscard]] bool hasHeightForWidth() const override { return false; }
};

} // namespace fulmox::app

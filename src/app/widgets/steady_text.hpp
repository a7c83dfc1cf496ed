#pragma once
#include <QWidget>

class QLabel;

namespace fulmox::app {

/// A text of several lines that changes often. All around it is laid out anew only where its height changes,
/// not whenever its words do, as a label by itself would have it.
class SteadyText : public QWidget {
  Q_OBJECT

public:
  /// Name and role of the label within.
  SteadyText(const char* name, const char* role, QWidget* parent = nullptr);
  void set_text(const QString& text);
  void set_font(const QFont& font);
  void clear() { set_text({}); }

  [[nodiscard]] QSize sizeHint() const override;
  [[nodiscard]] QSize minimumSizeHint() const override;
  [[nodiscard]] bool hasHeightForWidth() const override { return true; }
  [[nodiscard]] int heightForWidth(int width) const override;

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  QLabel* label_;
};

} // namespace fulmox::app

#pragma once
#include <QDialog>
#include <QLineEdit>
#include <QListWidget>

#include <functional>
#include <vector>

namespace fulmox::app {

/// One thing that can be found and what to do with it.
struct Finding {
  QString kind;
  QString text;
  std::function<void()> act;
};

/// Finds inputs, results, limits, parts and commands by any words of their names.
class FindPalette : public QDialog {
  Q_OBJECT

public:
  FindPalette(std::vector<Finding> findings, QWidget* parent);

protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

private:
  void filter(const QString& text);
  void take();

  std::vector<Finding> findings_;
  QLineEdit* line_;
  QListWidget* list_;
};

} // namespace fulmox::app

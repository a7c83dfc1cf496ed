#pragma once
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QWidget>

namespace fulmox::app {

class Session;

/// What an empty machine or axis shows: what to enter first, examples to start from, and machines to open.
class Welcome : public QWidget {
  Q_OBJECT

public:
  explicit Welcome(Session& session, QWidget* parent = nullptr);

signals:
  void example_requested(const QString& name);
  void demo_requested();
  void open_requested(const QString& path);

protected:
  void showEvent(QShowEvent* event) override;

private:
  void refresh();
  void list_recent();
  QPushButton* button(const QString& text, const QString& name);

  Session& session_;
  QLabel* steps_;
  QHBoxLayout* recent_;
};

} // namespace fulmox::app

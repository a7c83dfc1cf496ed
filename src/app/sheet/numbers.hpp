#pragma once
#include <QListWidget>

namespace fulmox::app {

class Session;

/// The results in columns; F2 or a double click opens the working of one.
class Numbers : public QListWidget {
  Q_OBJECT

public:
  explicit Numbers(Session& session, QWidget* parent = nullptr);
  /// Selects a result by id; false if it is not there.
  bool select(const QString& id);
  /// As many columns as the width allows, as many rows as that takes, and as high as the window allows.
  void fit();

protected:
  void resizeEvent(QResizeEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;

private:
  void refresh();
  void open_working();

  Session& session_;
};

} // namespace fulmox::app

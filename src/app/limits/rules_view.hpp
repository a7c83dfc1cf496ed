#pragma once
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QWidget>

namespace fulmox::app {

class Session;

/// The house rules beside another set: each with its reason and what it decides, and which limits of which
/// axes the other set would judge otherwise. Sets are kept, imported and exported here.
class RulesView : public QWidget {
  Q_OBJECT

public:
  explicit RulesView(Session& session, QWidget* parent = nullptr);

private:
  QWidget* button_row();
  void refresh();
  void show_rules();
  void show_changes();
  /// A threshold typed into the table.
  void typed(QTableWidgetItem* item);
  void tell(const QString& text, bool fault);
  [[nodiscard]] int compared() const { return compared_->currentIndex(); }

  Session& session_;
  QComboBox* compared_ = nullptr;
  QPushButton *keep_ = nullptr, *import_ = nullptr, *export_ = nullptr, *take_ = nullptr;
  QTableWidget *rules_, *changes_;
  QLabel *told_, *changed_;
  bool filling_ = false, kept_told_ = false;
};

} // namespace fulmox::app

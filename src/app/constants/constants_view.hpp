#pragma once
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>

namespace fulmox::app {

class Session;

/// One known constant of a motor in every reading at once, what mistaking one for another costs, and the
/// constant that follows from spinning the motor. Nothing reaches the axis until it is put into its motor.
class ConstantsView : public QWidget {
  Q_OBJECT

public:
  explicit ConstantsView(Session& session, QWidget* parent = nullptr);

private:
  QWidget* known_row();
  QWidget* spin_row();
  void refresh();
  /// Takes what the axis's motor says.
  void read_motor();
  void put_into_motor();
  void take_spin();
  void show_spin();
  void tell_errors(double k);

  Session& session_;
  QComboBox* reading_ = nullptr;
  QLineEdit *value_ = nullptr, *pairs_ = nullptr;
  QLabel *fault_, *errors_;
  QTableWidget* table_;
  QPushButton *from_motor_ = nullptr, *to_motor_ = nullptr;
  QLineEdit *frequency_ = nullptr, *volts_ = nullptr;
  QComboBox *volts_as_ = nullptr, *shape_ = nullptr;
  QLabel* spun_ = nullptr;
  QPushButton* take_spin_ = nullptr;
};

} // namespace fulmox::app

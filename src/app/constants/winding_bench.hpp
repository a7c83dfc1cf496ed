#pragma once
#include "core/motor/bench_winding.hpp"

#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

#include <array>
#include <optional>

namespace fulmox::app {

class Session;

/// Resistances, inductances and heating pattern of a winding as read on a bench, and what follows from them.
class WindingBench : public QWidget {
  Q_OBJECT

public:
  explicit WindingBench(Session& session, QWidget* parent = nullptr);

private:
  void show_told();
  void put_into_motor();
  /// What is typed, with what is wrong about it; nothing of either while the resistances are not complete.
  std::optional<BenchWinding> typed(QString& wrong) const;

  Session& session_;
  std::array<QLineEdit*, 3> pairs_{}, heating_{};
  QLineEdit *temperature_ = nullptr, *least_ = nullptr, *most_ = nullptr;
  QLabel *told_ = nullptr, *fault_ = nullptr;
  QPushButton* take_ = nullptr;
};

} // namespace fulmox::app

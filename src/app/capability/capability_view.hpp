#pragma once
#include "core/evaluation/evaluation.hpp"
#include "core/evaluation/plots.hpp"
#include "core/project/axis.hpp"

#include <QWidget>

#include <memory>
#include <optional>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QSlider;

namespace fulmox::app {

class BenchPlots;
class EnvelopePlot;
class Session;

/// What motor and drive of the axis give at the shaft and at the load, swung in bus and ambient without
/// touching the axis, and what they draw on a bench beside another motor.
class CapabilityView : public QWidget {
  Q_OBJECT

public:
  explicit CapabilityView(Session& session, QWidget* parent = nullptr);

private:
  QWidget* question_row();
  QWidget* swing_row();
  QWidget* bench_row();
  void refresh();
  /// Works the axis out as the sliders have it; nothing where they are as given.
  void swing();
  void reset_sliders();
  void draw();
  void draw_envelope();
  void draw_bench();
  void answer();
  void tell_gap(const Evaluation* e);
  void tell_bench(const Evaluation* e, double torque);
  /// The axis as the sliders have it, or as given.
  [[nodiscard]] const Evaluation* now() const;
  void keep_motor();
  void forget_motor();
  void take_over();
  [[nodiscard]] bool swung() const;
  [[nodiscard]] double bus_asked() const;

  Session& session_;
  EnvelopePlot* envelope_;
  BenchPlots* bench_;
  QComboBox* where_ = nullptr;
  QLineEdit *speed_ = nullptr, *torque_ = nullptr;
  QLabel *answer_ = nullptr, *gap_ = nullptr, *bus_told_ = nullptr, *ambient_told_ = nullptr,
         *kept_told_ = nullptr, *bench_told_ = nullptr;
  QSlider *bus_ = nullptr, *ambient_ = nullptr;
  QPushButton *as_given_ = nullptr, *take_over_ = nullptr, *keep_ = nullptr, *forget_ = nullptr;
  struct Worked {
    Evaluation evaluation;
    Plots plots;
  };
  std::optional<Worked> swung_, kept_;
  QString kept_name_;
};

} // namespace fulmox::app

#pragma once
#include "app/library/picture_area.hpp"
#include "core/form/field.hpp"

#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>

#include <array>
#include <optional>

namespace fulmox::app {

/// The points of a curve, typed or clicked off a picture: two marks along each axis say what its pixels mean.
class CurveDialog : public QDialog {
  Q_OBJECT

public:
  CurveDialog(const FieldSpec& field, const QString& text, QWidget* parent = nullptr);

  /// "0 rpm: 1.3 N.m; 3000 rpm: 1.27 N.m", in rising order; blank without points.
  [[nodiscard]] QString text() const;
  PictureArea& picture() { return *picture_; }

private:
  static constexpr std::size_t marks = 4; ///< two along, two up

  QWidget* right_side();
  void click(PicturePoint at);
  void begin_marks();
  void renew_axes();
  void add_row(const QString& x, const QString& y, std::optional<PicturePoint> at);
  void remove_rows();
  void tell();
  [[nodiscard]] std::vector<PicturePoint> clicked_points() const;

  const FieldSpec& field_;
  PictureArea* picture_;
  QLabel *next_, *fault_;
  std::array<QLineEdit*, marks> values_{};
  std::array<std::optional<PicturePoint>, marks> at_;
  std::optional<PictureAxes> axes_;
  QTableWidget* points_;
  QPushButton* take_;
  bool filling_ = false;
};

} // namespace fulmox::app

#pragma once
#include <QStackedWidget>
#include <QWidget>

namespace fulmox::app {

class Numbers;
class Session;
class StudyPanel;
class WorkingPanel;

/// The sheet that thinks about one axis: sketch, plane, inertia shares, torque parts, numbers; working on
/// demand.
class AxisView : public QWidget {
  Q_OBJECT

public:
  explicit AxisView(Session& session, QWidget* parent = nullptr);
  void show_working(const QString& result);
  void close_working();
  [[nodiscard]] bool working_open() const;
  Numbers* numbers() { return numbers_; }
  WorkingPanel* working() { return working_; }
  StudyPanel* study() { return study_; }

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  QStackedWidget* right_; ///< shares and parts, or the working
  Numbers* numbers_;
  WorkingPanel* working_;
  StudyPanel* study_;
};

} // namespace fulmox::app

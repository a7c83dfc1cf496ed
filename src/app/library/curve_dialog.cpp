#include "app/library/curve_dialog.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/quantity/format.hpp"

#include <QDialogButtonBox>
#include <QFileDialog>
#include <QGridLayout>
#include <QHeaderView>
#include <QScopedValueRollback>
#include <QVBoxLayout>

#include <algorithm>

namespace fulmox::app {
namespace {

constexpr std::array<const char*, 4> mark_names{"first mark along", "second mark along", "first mark up",
                                                "second mark up"};
constexpr std::array<const char*, 4> letters{"A", "B", "C", "D"};

FieldSpec quantity_of(Kind kind) { return optional("value", "Value", "", kind, range::any, ""); }

/// The value of a text in the unit that is usual where none is typed.
std::optional<double> value_of(const QString& text, Kind kind) {
  const FieldSpec spec = quantity_of(kind);
  const Entry entry = make_entry(spec, text.trimmed().toStdString(), usual_unit(spec, Entry{}));
  if (entry.blank() || entry.faulty()) return std::nullopt;
  return entry.value;
}

} // namespace

CurveDialog::CurveDialog(const FieldSpec& field, const QString& text, QWidget* parent)
    : QDialog(parent), field_(field) {
  setWindowTitle(qt(field.label) + ": points");
  setObjectName("curve_dialog");
  resize(860, 520);
  auto* all = new QVBoxLayout(this);
  next_ = wrapped_label("curve_next", "");
  all->addWidget(next_);
  auto* row = new QHBoxLayout;
  picture_ = new PictureArea;
  row->addWidget(picture_, 1);
  row->addWidget(right_side());
  all->addLayout(row, 1);
  fault_ = wrapped_label("curve_fault", "fault");
  all->addWidget(fault_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
  take_ = buttons->addButton("Take these points", QDialogButtonBox::AcceptRole);
  take_->setObjectName("curve_take");
  all->addWidget(buttons);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  connect(picture_, &PictureArea::clicked, this, &CurveDialog::click);
  connect(picture_, &PictureArea::opened, this, &CurveDialog::begin_marks);
  connect(picture_, &PictureArea::refused, this,
          [this](const QString& path) { fault_->setText(path + " is no picture that can be read."); });
  for (const QString& point : text.split(';', Qt::SkipEmptyParts))
    add_row(point.section(':', 0, 0).trimmed(), point.section(':', 1).trimmed(), std::nullopt);
  tell();
}

QWidget* CurveDialog::right_side() {
  auto* side = new QWidget;
  side->setFixedWidth(270);
  auto* column = new QVBoxLayout(side);
  column->setContentsMargins(0, 0, 0, 0);
  auto* open = outlined_button("curve_open", "Open a picture…");
  connect(open, &QPushButton::clicked, this, [this] {
    const QString path = QFileDialog::getOpenFileName(this, "Picture of the curve", {},
                                                      "Pictures (*.png *.jpg *.jpeg *.bmp *.gif *.webp)");
    if (!path.isEmpty() && !picture_->open(path)) fault_->setText("This is no picture that can be read.");
  });
  column->addWidget(open);
  auto* grid = new QGridLayout;
  for (std::size_t i = 0; i < marks; ++i) {
    auto* label = new QLabel(QString("%1  %2").arg(letters[i], mark_names[i]));
    label->setFont(face(-1));
    grid->addWidget(label, static_cast<int>(i), 0);
    values_[i] = number_line(("curve_value_" + std::to_string(i)).c_str(), mark_names[i],
                             i < 2 ? "like 0 rpm" : "like 1 N.m", 96);
    connect(values_[i], &QLineEdit::textChanged, this, &CurveDialog::renew_axes);
    grid->addWidget(values_[i], static_cast<int>(i), 1);
  }
  column->addLayout(grid);
  auto* again = outlined_button("curve_again", "Mark the axes again");
  connect(again, &QPushButton::clicked, this, &CurveDialog::begin_marks);
  column->addWidget(again);
  points_ = new QTableWidget(0, 2);
  points_->setObjectName("curve_points");
  points_->setAccessibleName("Points");
  points_->setHorizontalHeaderLabels({"along", "up"});
  points_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
  points_->verticalHeader()->hide();
  points_->verticalHeader()->setDefaultSectionSize(22);
  connect(points_, &QTableWidget::cellChanged, this, [this] {
    if (!filling_) tell();
  });
  column->addWidget(points_, 1);
  auto* row = new QHBoxLayout;
  auto* add = outlined_button("curve_add", "Add a point");
  connect(add, &QPushButton::clicked, this, [this] {
    add_row("", "", std::nullopt);
    points_->setCurrentCell(points_->rowCount() - 1, 0);
    points_->editItem(points_->item(points_->rowCount() - 1, 0));
  });
  auto* remove = outlined_button("curve_remove", "Remove");
  connect(remove, &QPushButton::clicked, this, &CurveDialog::remove_rows);
  row->addWidget(add);
  row->addWidget(remove);
  column->addLayout(row);
  return side;
}

void CurveDialog::begin_marks() {
  at_.fill(std::nullopt);
  axes_.reset();
  tell();
}

void CurveDialog::click(PicturePoint at) {
  const auto open = std::find(at_.begin(), at_.end(), std::nullopt);
  if (open != at_.end()) {
    *open = at;
    values_[static_cast<std::size_t>(open - at_.begin())]->setFocus();
    renew_axes();
    return;
  }
  if (!axes_) return tell();
  const auto values = axes_->read(at);
  constexpr int digits = 4;
  add_row(qt(format(values[0], field_.curve_kind, UnitSet::si, digits).text()),
          qt(format(values[1], field_.kind, UnitSet::si, digits).text()), at);
  tell();
}

void CurveDialog::renew_axes() {
  axes_.reset();
  std::array<AxisMark, marks> all;
  for (std::size_t i = 0; i < marks; ++i) {
    const auto value = value_of(values_[i]->text(), i < 2 ? field_.curve_kind : field_.kind);
    if (!at_[i] || !value) return tell();
    all[i] = {*at_[i], *value};
  }
  const auto made = PictureAxes::from({all[0], all[1]}, {all[2], all[3]});
  if (made) axes_ = *made;
  tell();
  if (!made) fault_->setText(qt(made.problem().text()));
}

void CurveDialog::add_row(const QString& x, const QString& y, std::optional<PicturePoint> at) {
  const QScopedValueRollback quiet(filling_, true);
  const int row = points_->rowCount();
  points_->setRowCount(row + 1);
  points_->setItem(row, 0, new QTableWidgetItem(x));
  points_->setItem(row, 1, new QTableWidgetItem(y));
  if (at) points_->item(row, 0)->setData(Qt::UserRole, QPointF(at->x, at->y));
}

void CurveDialog::remove_rows() {
  const int row = points_->currentRow();
  if (row >= 0) points_->removeRow(row);
  tell();
}

std::vector<PicturePoint> CurveDialog::clicked_points() const {
  std::vector<PicturePoint> all;
  for (int row = 0; row < points_->rowCount(); ++row)
    if (const QVariant at = points_->item(row, 0)->data(Qt::UserRole); at.isValid())
      all.push_back({at.toPointF().x(), at.toPointF().y()});
  return all;
}

QString CurveDialog::text() const {
  struct Point {
    double x;
    QString text;
  };
  std::vector<Point> all;
  for (int row = 0; row < points_->rowCount(); ++row) {
    const QString x = points_->item(row, 0)->text().trimmed(), y = points_->item(row, 1)->text().trimmed();
    if (x.isEmpty() && y.isEmpty()) continue;
    all.push_back({value_of(x, field_.curve_kind).value_or(0.0), x + ": " + y});
  }
  std::stable_sort(all.begin(), all.end(), [](const Point& a, const Point& b) { return a.x < b.x; });
  QStringList texts;
  for (const Point& point : all) texts << point.text;
  return texts.join("; ");
}

/// What to do next, and what is wrong.
void CurveDialog::tell() {
  const auto open = std::find(at_.begin(), at_.end(), std::nullopt);
  QString next = "Type the points at the right, or click them off a picture: drop one in, or open it.";
  if (picture_->any() && open != at_.end())
    next = QString("Click the %1 of the picture's axes, and type the value that stands there.")
               .arg(mark_names[static_cast<std::size_t>(open - at_.begin())]);
  else if (picture_->any() && !axes_)
    next = "Type the values that stand at the four marks, with their units.";
  else if (picture_->any())
    next = "Click points of the curve, from its beginning to its end; straight lines join them.";
  next_->setText(next);
  std::vector<PictureArea::Mark> shown;
  for (std::size_t i = 0; i < marks; ++i)
    if (at_[i]) shown.push_back({*at_[i], letters[i]});
  picture_->show_marks(std::move(shown), clicked_points());
  const Entry entry = make_entry(field_, text().toStdString());
  fault_->setText(entry.faulty() ? qt(entry.fault.text()) : QString());
  take_->setEnabled(!entry.faulty());
}

} // namespace fulmox::app

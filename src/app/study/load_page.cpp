#include "app/study/load_page.hpp"

#include "app/session/session.hpp"
#include "app/sheet/drawing_painter.hpp"
#include "app/study/table.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"

#include <QPainter>
#include <QVBoxLayout>

#include <cmath>

namespace fulmox::app {
namespace {

constexpr int row_height = 19;

/// The pieces to scale, seen along the axis of rotation.
class Picture : public QWidget {
public:
  explicit Picture(Session& session) : session_(session) {
    setObjectName("pieces_picture");
    setAccessibleName("Pieces of the load, to scale");
    setMaximumHeight(sizeHint().height());
  }
  [[nodiscard]] QSize sizeHint() const override { return {100, 100}; }
  /// In a low window it is the first to give way.
  [[nodiscard]] QSize minimumSizeHint() const override { return {40, 40}; }

protected:
  void paintEvent(QPaintEvent*) override {
    if (!session_.has_axis() || session_.axis().pieces.empty()) return;
    Recorder silent(false);
    if (misfit(session_.axis().pieces)) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    Drawing drawing = draw_pieces(session_.axis().pieces, 0.0);
    auto extent = drawing.bounds();
    // the axis of rotation belongs to the picture
    const double size = std::max(extent.second.x - extent.first.x, extent.second.y - extent.first.y);
    drawing.line(Ink::hint, {-0.04 * size, 0.0}, {0.04 * size, 0.0});
    drawing.line(Ink::hint, {0.0, -0.04 * size}, {0.0, 0.04 * size});
    extent = drawing.bounds();
    paint_drawing(painter, drawing, extent, QRectF(rect()), session_.document().units, "");
  }

private:
  Session& session_;
};

int header_height(const QTableWidget* table) { return table->horizontalHeader()->sizeHint().height() + 2; }

/// Two rows are in sight in any case, the rest scrolled.
void keep_two_rows(QTableWidget* table) { table->setMinimumHeight(header_height(table) + 2 * row_height); }

QLabel* heading(const QString& text) {
  auto* label = new QLabel(text);
  label->setFont(face(0, true));
  label->setContentsMargins(8, 6, 8, 2);
  return label;
}

} // namespace

LoadPage::LoadPage(Session& session, QWidget* parent) : StudyPage(session, parent) {
  setObjectName("load_page");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  picture_ = new Picture(session);
  layout->addWidget(picture_);
  pieces_ = reading_table({"Piece", "mass", "inertia", "share"});
  pieces_->setFont(face(-1));
  pieces_->verticalHeader()->setDefaultSectionSize(row_height);
  pieces_->setObjectName("piece_table");
  layout->addWidget(pieces_);
  layout->addWidget(heading("From the load to the motor"));
  chain_ = reading_table({"Inertia of", "own shaft", "at motor", "share"});
  chain_->setObjectName("chain_table");
  chain_->setFont(face(-1));
  chain_->verticalHeader()->setDefaultSectionSize(row_height);
  layout->addWidget(chain_, 1);
  advice_ = new QLabel;
  advice_->setObjectName("lead_advice");
  advice_->setWordWrap(true);
  advice_->setFont(face(-1));
  advice_->setContentsMargins(8, 4, 8, 6);
  layout->addWidget(advice_);
}

/// Everything it shows is in the evaluation: nothing is left to ask.
StudyPage::Work LoadPage::question() {
  const Evaluation* e = session().evaluation();
  if (e == nullptr || !session().has_axis()) return {};
  const UnitSet units = session().document().units;
  const auto show = [&](double value, Kind kind) { return qt(format(value, kind, units).text()); };
  const auto& sections = session().axis().pieces;
  const bool built = !sections.empty() && !misfit(sections);
  picture_->setVisible(built);
  pieces_->setVisible(built);
  picture_->update();
  if (built) {
    Recorder silent(false);
    const LoadBody body = put_together(sections, silent);
    pieces_->setRowCount(static_cast<int>(body.pieces.size()) + 1);
    int row = 0;
    for (const PlacedPiece& piece : body.pieces) {
      set_cell(pieces_, row, 0, QString::fromStdString(piece.name));
      set_cell(pieces_, row, 1, show(piece.mass, Kind::mass));
      set_cell(pieces_, row, 2, show(piece.inertia, Kind::inertia));
      set_cell(pieces_, row++, 3, qt(significant(100.0 * piece.inertia / body.inertia, 2)) + " %");
    }
    set_cell(pieces_, row, 0, "Together", true);
    set_cell(pieces_, row, 1, show(body.mass, Kind::mass), true);
    set_cell(pieces_, row, 2, show(body.inertia, Kind::inertia), true);
    set_cell(pieces_, row, 3, "100 %");
    keep_two_rows(pieces_);
    pieces_->setMaximumHeight(std::min(header_height(pieces_) + row_height * (row + 1), 160));
  }
  double total = 0.0;
  for (const InertiaShare& share : e->demand.inertia) total += share.at_motor;
  chain_->setRowCount(static_cast<int>(e->demand.inertia.size()));
  int row = 0;
  for (const InertiaShare& share : e->demand.inertia) {
    set_cell(chain_, row, 0, qt(share.label));
    set_cell(chain_, row, 1, show(share.own, Kind::inertia));
    set_cell(chain_, row, 2, show(share.at_motor, Kind::inertia));
    set_cell(chain_, row++, 3, QString::number(100.0 * share.at_motor / total, 'f', 0) + " %");
  }
  keep_two_rows(chain_);
  double behind = 0.0;
  for (const InertiaShare& share : e->demand.inertia)
    if (share.id != "rotor" && share.id != "brake" && share.id != "gearhead") behind += share.at_motor;
  const QString ratio = "<b>Twice the ratio</b>: behind the gearhead " + show(behind, Kind::inertia) +
                        " become " + show(behind / 4.0, Kind::inertia) +
                        "; the motor turns twice as fast, top speed halves, backlash may come in.";
  QString lead;
  const Section& mechanism = session().axis()["mechanism"];
  if (mechanism.spec().index_of("lead")) {
    double moved = 0.0;
    for (const InertiaShare& share : e->demand.inertia)
      if (share.id == "moved_mass" || share.id == "payload") moved += share.at_motor;
    lead = "<b>Half the lead</b>: the moved mass' " + show(moved, Kind::inertia) + " become " +
           show(moved / 4.0, Kind::inertia) + ", the screw's own stay; the screw turns twice as fast.<br>";
  }
  advice_->setText(lead + ratio);
  return {};
}

} // namespace fulmox::app

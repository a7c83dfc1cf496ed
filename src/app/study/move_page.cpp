#include "app/study/move_page.hpp"

#include "app/givens/list_form.hpp"
#include "app/session/session.hpp"
#include "app/study/profile_view.hpp"
#include "app/study/table.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"
#include "core/quantity/parse.hpp"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include <cmath>
#include <tuple>

namespace fulmox::app {

MovePage::MovePage(Session& session, QWidget* parent) : StudyPage(session, parent) {
  setObjectName("move_page");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(6, 4, 6, 4);
  layout->setSpacing(4);
  segments_ = new QComboBox;
  segments_->setObjectName("study_segment");
  segments_->setAccessibleName("Segment to look at");
  connect(segments_, &QComboBox::activated, this, &MovePage::ask);
  layout->addWidget(segments_);
  limit_row_ = new QWidget;
  auto* limits = new QHBoxLayout(limit_row_);
  limits->setContentsMargins(0, 0, 0, 0);
  const auto limit = [&](const QString& symbol, const QString& name, const QString& tip) {
    auto* label = new QLabel(symbol + " ≤");
    auto* edit = new QLineEdit;
    edit->setObjectName(name);
    edit->setAccessibleName(tip);
    edit->setToolTip(tip + "; blank for none.\nThe least of a column is sought among the laws that keep it.");
    edit->setPlaceholderText("no limit");
    label->setBuddy(edit);
    limits->addWidget(label);
    limits->addWidget(edit, 1);
    connect(edit, &QLineEdit::textChanged, this, &MovePage::outdate);
    return edit;
  };
  speed_limit_ = limit("v", "limit_speed", "Greatest speed the load may reach");
  acceleration_limit_ = limit("a", "limit_acceleration", "Greatest acceleration the load may reach");
  layout->addWidget(limit_row_);
  laws_ = reading_table({"Law", "peak", "rms", "rpm", "jerk"});
  laws_->setObjectName("law_table");
  laws_->setToolTip("This move under each law.\nDouble click takes a law "
                    "over. ▾ marks the least of a column; ∞ where acceleration jumps.");
  laws_->setFont(face(-2));
  laws_->horizontalHeader()->setFont(face(-2));
  laws_->verticalHeader()->setDefaultSectionSize(20);
  connect(laws_, &QTableWidget::cellDoubleClicked, this, [this](int row, int) { use(row); });
  layout->addWidget(laws_, 1);
  profile_ = new ProfileView(session);
  layout->addWidget(profile_, 1);
  note_ = new QLabel;
  note_->setObjectName("move_note");
  note_->setWordWrap(true);
  note_->setFont(face(-1));
  connect(note_, &QLabel::linkActivated, this, &MovePage::take_scatter);
  layout->addWidget(note_);
}

void MovePage::fill_segments() {
  const auto& cycle = session().axis().cycle;
  const QVariant before = segments_->currentData();
  segments_->clear();
  for (std::size_t i = 0; i < cycle.size(); ++i)
    if (cycle[i].is("move") || cycle[i].is("profile"))
      segments_->addItem(QString::number(i + 1) + "  " + qt(cycle[i].spec().title) + "   " +
                             summarize(cycle[i]),
                         static_cast<int>(i));
  const int index = segments_->findData(before);
  if (segments_->count() > 0) segments_->setCurrentIndex(std::max(index, 0));
}

void MovePage::choose_segment(std::size_t segment) {
  fill_segments();
  segments_->setCurrentIndex(segments_->findData(static_cast<int>(segment)));
  ask();
}

StudyPage::Work MovePage::question() {
  if (!session().has_axis() || session().evaluation() == nullptr) return {};
  fill_segments();
  asked_ = session().axis();
  const bool any = segments_->count() > 0;
  const std::size_t segment = any ? static_cast<std::size_t>(segments_->currentData().toInt()) : 0;
  const bool profile = any && session().axis().cycle[segment].is("profile");
  laws_->setVisible(any && !profile);
  limit_row_->setVisible(any && !profile);
  profile_->setVisible(profile);
  if (!any) {
    note_->setText("Add a move: its laws are compared here.");
    return {};
  }
  return profile ? ask_profile(segment) : ask_laws(segment);
}

StudyPage::Work MovePage::ask_laws(std::size_t segment) {
  const auto within = limits();
  if (!within || segment >= session().evaluation()->model->load->cycle.facts.size()) return {};
  const double time = session().evaluation()->model->load->cycle.facts[segment].time;
  return [this, axis = asked_, segment, time, limits = *within](const JobLink& link) -> Show {
    auto compared = compare_laws(axis, segment, limits, [&] { return link.wanted(); });
    return [this, axis, time, compared = std::move(compared)] {
      shown_ = axis;
      choices_.clear();
      if (!compared) return note_->setText(qt(compared.problem().text()));
      choices_ = *compared;
      time_ = time;
      show_laws(choices_);
    };
  };
}

void MovePage::show_laws(const std::vector<LawChoice>& choices) {
  if (session().evaluation() == nullptr) return;
  const MotionKinds& kinds = session().evaluation()->model->load->cycle.kinds;
  const UnitSet units = session().document().units;
  double largest = 0.0;
  for (const LawChoice& choice : choices) largest = std::max(largest, choice.numbers.peak_torque);
  const DisplayUnit& torque = display_unit(largest, Kind::torque, units);
  laws_->setRowCount(static_cast<int>(choices.size()));
  int row = 0;
  for (const LawChoice& choice : choices) {
    const QuickNumbers& n = choice.numbers;
    const auto mark = [](bool least, const QString& text) { return least ? "▾ " + text : text; };
    const QString label = QString::fromStdString(choice.label);
    QString more = label;
    if (choice.accel_share > 0.0)
      more += QString("\nShares of the ramps %1 and %2")
                  .arg(choice.accel_share, 0, 'g', 3)
                  .arg(choice.decel_share, 0, 'g', 3);
    if (choice.rounding) more += QString(", %1 of each rounded").arg(*choice.rounding, 0, 'g', 3);
    if (!choice.within) more += "\nBeyond the limits above.";
    set_cell(laws_, row, 0, QString(label).replace(", least", " ▾").replace(" polynomial", ""),
             choice.present);
    set_cell(laws_, row, 1, mark(choice.least_peak, qt(significant(n.peak_torque / torque.factor))),
             choice.present);
    set_cell(laws_, row, 2, mark(choice.least_rms, qt(significant(n.rms_torque / torque.factor))),
             choice.present);
    set_cell(laws_, row, 3, qt(significant(n.max_speed * 30.0 / M_PI)), choice.present);
    set_cell(laws_, row, 4,
             std::isfinite(n.peak_jerk) ? mark(choice.least_jerk, qt(significant(n.peak_jerk, 2)))
                                        : QString("∞"),
             choice.present);
    laws_->item(row, 0)->setToolTip(more);
    if (!choice.within)
      for (int column = 0; column < laws_->columnCount(); ++column)
        laws_->item(row, column)->setForeground(theme().faint);
    ++row;
  }
  note_->setText("In the same " + qt(format(time_, Kind::time).text()) + ", in " + qt(torque.symbol) +
                 " and " + qt(info(kinds.jerk).si) + "; rms of the cycle. ▾ least. Double click takes over.");
}

std::optional<MoveLimits> MovePage::limits() {
  const MotionKinds& kinds = session().evaluation()->model->load->cycle.kinds;
  MoveLimits limits;
  for (const auto& [edit, kind, value] : {std::tuple{speed_limit_, kinds.speed, &limits.speed},
                                          {acceleration_limit_, kinds.acceleration, &limits.acceleration}}) {
    if (edit->text().trimmed().isEmpty()) continue;
    const auto read = parse_quantity(edit->text().toStdString(), kind, info(kind).si);
    if (!read || !(read->value > 0.0)) {
      note_->setText(edit->accessibleName() + ": " +
                     (read ? QString("it must be greater than 0.") : qt(read.problem().text())));
      return std::nullopt;
    }
    *value = read->value;
  }
  return limits;
}

void MovePage::use(int row) {
  if (!up_to_date() || row < 0 || row >= static_cast<int>(choices_.size())) return;
  const LawChoice choice = choices_[static_cast<std::size_t>(row)];
  if (choice.present) return;
  const auto segment = static_cast<std::size_t>(segments_->currentData().toInt());
  session().edit("Law " + QString::fromStdString(choice.label).toLower(), "", [&](Document& document) {
    use_law(document.axes[session().axis_index()].cycle[segment], choice, time_);
  });
}

StudyPage::Work MovePage::ask_profile(std::size_t segment) {
  return [this, axis = asked_, segment](const JobLink&) -> Show {
    auto compared = ProfileView::compare(axis.cycle[segment]);
    return [this, axis, compared = std::move(compared)] {
      shown_ = axis;
      choices_.clear();
      if (session().evaluation() != nullptr) note_->setText(profile_->show(compared));
    };
  };
}

bool MovePage::up_to_date() {
  if (session().has_axis() && session().axis() == shown_) return true;
  ask();
  return false;
}

void MovePage::take_scatter() {
  if (!up_to_date()) return;
  const auto segment = static_cast<std::size_t>(segments_->currentData().toInt());
  session().type(session().axis().cycle[segment].path, "smoothing", profile_->scatter_text());
  session().seal();
}

} // namespace fulmox::app

#include "app/machine/supply_page.hpp"

#include "app/session/session.hpp"
#include "app/study/table.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/quantity/format.hpp"

#include <QVBoxLayout>

#include <cmath>

namespace fulmox::app {
namespace {

const QString supplies_job = "supplies";

QString paragraphs(const QString& title, const std::vector<std::string>& lines) {
  QString html = "<p style='margin:8px 0 2px 0'><b>" + title.toHtmlEscaped() + "</b></p>";
  for (const std::string& line : lines)
    html += "<p style='margin:1px 0 4px 0'>" + qt(line).toHtmlEscaped() + "</p>";
  return html;
}

QTextBrowser* text_area(const char* name, const char* what) {
  auto* area = new QTextBrowser;
  area->setObjectName(name);
  area->setAccessibleName(what);
  area->setOpenLinks(false);
  area->setFrameShape(QFrame::NoFrame);
  area->setFont(face(-1));
  return area;
}

} // namespace

SupplyPage::SupplyPage(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), list_(reading_table({"Supply", "Used", "Price"})),
      reasons_(text_area("supply_reasons", "What speaks for and against it")),
      words_(text_area("supply_words", "Schools, braking, and what the installer must be told")),
      put_in_(outlined_button("supply_put_in", "Put it in")), told_(wrapped_label("supply_told", "soft")) {
  setObjectName("supply_page");
  list_->setObjectName("supply_list");
  list_->setAccessibleName("Supplies tried on this bus");
  list_->setFont(face(-1));
  list_->setWordWrap(true);
  list_->setMinimumWidth(240);
  list_->horizontalHeader()->setSectionResizeMode(1, QHeaderView::Fixed);
  list_->horizontalHeader()->setSectionResizeMode(2, QHeaderView::Fixed);
  constexpr int narrow = 48;
  list_->setColumnWidth(1, narrow);
  list_->setColumnWidth(2, narrow);
  connect(list_->horizontalHeader(), &QHeaderView::sectionResized, this, &SupplyPage::fit_rows,
          Qt::QueuedConnection);
  auto* left = new QVBoxLayout;
  left->addWidget(heading("Tried on this bus"));
  left->addWidget(told_);
  left->addWidget(list_, 3);
  left->addWidget(reasons_, 2);
  left->addWidget(put_in_, 0, Qt::AlignLeft);
  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(8, 4, 8, 8);
  all->setSpacing(12);
  all->addLayout(left, 1);
  all->addWidget(words_, 1);
  connect(list_, &QTableWidget::itemSelectionChanged, this, &SupplyPage::show_trial);
  connect(put_in_, &QPushButton::clicked, this, &SupplyPage::put_in);
  connect(reasons_, &QTextBrowser::anchorClicked, this,
          [this](const QUrl& link) { emit moment_wanted(link.path().toDouble()); });
  const auto follow = [this](const QString& name) {
    if (name == supplies_job) tell();
  };
  connect(&session.jobs(), &Jobs::finished, this, follow);
}

void SupplyPage::show_bus(std::shared_ptr<const MachineRun> run, std::size_t bus) {
  run_ = std::move(run);
  bus_ = bus;
  const bool known = run_ != nullptr && run_->complete && bus_ < run_->buses.size() &&
                     run_->power.buses[bus_].problem.empty();
  if (!known) {
    if (run_ == nullptr || run_->complete) {
      words_->clear();
      take({});
    }
    return tell();
  }
  words_->setHtml(paragraphs("Schools", supply_schools(*run_, bus_, session_.document())) +
                  paragraphs("What comes back", brake_ways(*run_, bus_, session_.document())) +
                  paragraphs("To be told to the installer", installer_words(*run_, bus_)));
  start();
}

void SupplyPage::start() {
  if (asked_ == run_ && asked_bus_ == bus_) return;
  if (asked_bus_ != bus_) take({});
  asked_ = run_;
  asked_bus_ = bus_;
  session_.jobs().start(supplies_job, [this, run = run_, bus = bus_, machine = session_.document(),
                                       library = session_.library()](const JobLink& link) {
    // while an older list stands, what is marked in it stays until the new one is whole
    const auto first = [&](std::vector<SupplyTrial> kinds) {
      link.deliver([this, kinds = std::move(kinds)]() mutable {
        if (!trials_.empty()) return;
        partial_ = true;
        take(std::move(kinds));
      });
    };
    auto all = supply_trials(
        *run, bus, machine, library, [&] { return link.wanted(); }, first);
    link.deliver([this, all = std::move(all)]() mutable {
      partial_ = false;
      take(std::move(all));
    });
  });
  tell();
}

void SupplyPage::tell() {
  QString text = "By calculation first, then from the library, the smallest that is enough first.";
  if (session_.jobs().running(supplies_job))
    text = !partial_ ? "Being tried…" : "By calculation; those of the library are being tried…";
  else if (trials_.empty())
    text = "Nothing can be tried: the bus has no capacitance told, or there is no schedule.";
  told_->setText(text);
  put_in_->setEnabled(list_->currentRow() >= 0);
}

void SupplyPage::take(std::vector<SupplyTrial> trials) {
  const int old = list_->currentRow();
  const std::string before =
      old >= 0 && old < static_cast<int>(trials_.size()) ? trials_[static_cast<std::size_t>(old)].title : "";
  trials_ = std::move(trials);
  list_->setRowCount(static_cast<int>(trials_.size()));
  int row = 0;
  for (std::size_t i = 0; i < trials_.size(); ++i) {
    const SupplyTrial& trial = trials_[i];
    const QString used = std::isinf(trial.used) ? "∞" : QString::number(100.0 * trial.used, 'f', 0) + " %";
    const int line = static_cast<int>(i);
    set_cell(list_, line, 0,
             glyph(static_cast<int>(trial.fits ? LimitState::clear : LimitState::over)) + "  " +
                 qt(trial.title));
    set_cell(list_, line, 1, used);
    const bool priced = trial.bus && !trial.part.empty();
    set_cell(list_, line, 2, priced ? qt(trial.bus->text("price")) : QString());
    if (trial.title == before) row = line;
  }
  fit_rows();
  if (!trials_.empty())
    list_->selectRow(row);
  else
    reasons_->clear();
  tell();
}

/// High enough for the whole title: the table's own measure forgets the padding of its cells.
void SupplyPage::fit_rows() {
  constexpr int padding = 16, above_and_below = 8;
  const QFontMetrics metrics(list_->font());
  for (int row = 0; row < list_->rowCount(); ++row) {
    const QRect wide(0, 0, list_->columnWidth(0) - padding, list_->height());
    list_->setRowHeight(row,
                        metrics.boundingRect(wide, Qt::TextWordWrap, list_->item(row, 0)->text()).height() +
                            above_and_below);
  }
}

void SupplyPage::show_trial() {
  const int row = list_->currentRow();
  if (row < 0 || row >= static_cast<int>(trials_.size())) return reasons_->clear();
  const SupplyTrial& trial = trials_[static_cast<std::size_t>(row)];
  QString html = "<p><b>" + qt(trial.title).toHtmlEscaped() + (trial.fits ? "</b>: fits" : "</b>: fails") +
                 (trial.worst.empty() ? QString(".") : ", worst: " + qt(trial.worst).toLower() + ".") +
                 "</p>";
  for (const std::string& reason : trial.reasons)
    html += "<p style='margin:1px 0 3px 0'>" + qt(reason).toHtmlEscaped() + "</p>";
  if (trial.moment)
    html += "<p><a href='" + QString::number(*trial.moment, 'g', 12) +
            "'>Show where its worst limit binds</a></p>";
  reasons_->setHtml(html);
  put_in_->setEnabled(true);
}

void SupplyPage::put_in() {
  const int row = list_->currentRow();
  if (row < 0 || row >= static_cast<int>(trials_.size()) || run_ == nullptr) return;
  const SupplyTrial& trial = trials_[static_cast<std::size_t>(row)];
  if (!trial.bus) return;
  session_.edit("Choose supply", "", [&](Document& d) {
    for (Section& bus : d.lists.find("buses")->second)
      if (bus.text("name") == trial.bus->text("name")) bus = *trial.bus;
  });
}

} // namespace fulmox::app

#include "app/library/import_dialog.hpp"

#include "app/session/part_sources.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"

#include <QDialogButtonBox>
#include <QHeaderView>
#include <QScopedValueRollback>
#include <QVBoxLayout>

namespace fulmox::app {
namespace {

constexpr std::size_t rows_shown = 20;
enum Column { title, sample, meaning, unit, import_columns };

QLabel* small(const QString& text) {
  auto* label = new QLabel(text);
  label->setFont(face(-1));
  return label;
}

} // namespace

ImportDialog::ImportDialog(PartSources& sources, std::string text, QString file, const std::string& slot,
                           QWidget* parent)
    : QDialog(parent), sources_(sources), text_(std::move(text)), file_(std::move(file)), slot_(slot) {
  setWindowTitle("Import a list of parts");
  setObjectName("import_dialog");
  resize(760, 560);
  if (const auto table = look_into(text_, rows_shown)) table_ = *table;
  auto* all = new QVBoxLayout(this);
  auto* top = new QHBoxLayout;
  top->addWidget(small(file_ + " holds"));
  kind_ = new QComboBox;
  kind_->setObjectName("import_kind");
  kind_->setAccessibleName("Kind of parts");
  for (const SlotSpec* one : part_slots())
    for (SlotKind& kind : one->kinds()) {
      if (kind.library.empty()) continue;
      kind_->addItem(qt(kind.called()));
      kinds_.push_back({one, std::move(kind)});
    }
  top->addWidget(kind_, 1);
  comma_ = new QCheckBox("decimal comma");
  comma_->setObjectName("import_comma");
  comma_->setToolTip("1,25 is one and a quarter");
  top->addWidget(comma_);
  all->addLayout(top);
  columns_ = new QTableWidget(0, import_columns);
  columns_->setObjectName("import_columns");
  columns_->setAccessibleName("Columns of the list");
  columns_->setHorizontalHeaderLabels({"Column", "First values", "Means", "Unit of plain numbers"});
  columns_->verticalHeader()->hide();
  columns_->setShowGrid(false);
  columns_->setSelectionMode(QAbstractItemView::NoSelection);
  columns_->setFont(face(-1));
  columns_->horizontalHeader()->setSectionResizeMode(sample, QHeaderView::Stretch);
  all->addWidget(columns_, 1);
  auto* bottom = new QHBoxLayout;
  bottom->addWidget(small("Maker, where no column tells it"));
  maker_ = new QLineEdit;
  maker_->setObjectName("import_maker");
  maker_->setAccessibleName("Maker of all parts");
  bottom->addWidget(maker_, 1);
  all->addLayout(bottom);
  told_ = wrapped_label("import_told", "");
  all->addWidget(told_);
  troubles_ = wrapped_label("import_troubles", "soft");
  troubles_->setFont(face(-1));
  all->addWidget(troubles_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
  take_ = buttons->addButton("Take them into my own library", QDialogButtonBox::AcceptRole);
  take_->setObjectName("import_take");
  all->addWidget(buttons);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  connect(comma_, &QCheckBox::toggled, this, [this](bool on) {
    mapping_.decimal_comma = on;
    renew();
  });
  connect(maker_, &QLineEdit::textChanged, this, [this](const QString& name) {
    mapping_.maker = name.trimmed().toStdString();
    renew();
  });
  // the kind of the list that is open, unless a list of these titles was read before
  int chosen = 0;
  for (std::size_t i = 0; i < kinds_.size(); ++i) {
    CsvMapping guess = guess_mapping(table_, *kinds_[i].kind.form);
    if (sources_.mapping(guess.key()) != nullptr) {
      chosen = static_cast<int>(i);
      break;
    }
    if (kinds_[i].slot->id == slot && kinds_[static_cast<std::size_t>(chosen)].slot->id != slot)
      chosen = static_cast<int>(i);
  }
  kind_->setCurrentIndex(chosen);
  choose_kind(chosen);
  connect(kind_, &QComboBox::currentIndexChanged, this, &ImportDialog::choose_kind);
}

void ImportDialog::choose_kind(int index) {
  slot_ = kinds_[static_cast<std::size_t>(index)].slot->id;
  mapping_ = guess_mapping(table_, form());
  if (const CsvMapping* known = sources_.mapping(mapping_.key())) mapping_ = *known;
  fill();
  renew();
}

void ImportDialog::fill() {
  const QScopedValueRollback quiet(filling_, true);
  comma_->setChecked(mapping_.decimal_comma);
  maker_->setText(QString::fromStdString(mapping_.maker));
  columns_->setRowCount(0);
  columns_->setRowCount(static_cast<int>(mapping_.columns.size()));
  for (std::size_t i = 0; i < mapping_.columns.size(); ++i) {
    const int row = static_cast<int>(i);
    const auto put = [&](int column, const QString& text) {
      auto* item = new QTableWidgetItem(text);
      item->setFlags(Qt::ItemIsEnabled);
      columns_->setItem(row, column, item);
    };
    put(title, QString::fromStdString(mapping_.columns[i].title));
    QStringList samples;
    for (std::size_t r = 0; r < std::min<std::size_t>(3, table_.rows.size()); ++r)
      if (i < table_.rows[r].size()) samples << QString::fromStdString(table_.rows[r][i]);
    put(sample, samples.join("  ·  "));
    auto* box = new QComboBox;
    box->setObjectName(QString("import_means_%1").arg(i));
    box->setAccessibleName("What the column means");
    box->addItem("passed over", "");
    for (const FieldSpec& field : form().fields)
      if (!field.setting) box->addItem(qt(field.label), qt(field.id));
    box->setCurrentIndex(std::max(0, box->findData(QString::fromStdString(mapping_.columns[i].field))));
    connect(box, &QComboBox::currentIndexChanged, this, [this, box, i] {
      mapping_.columns[i].field = box->currentData().toString().toStdString();
      renew();
    });
    columns_->setCellWidget(row, meaning, box);
    auto* line = new QLineEdit(QString::fromStdString(mapping_.columns[i].unit));
    line->setObjectName(QString("import_unit_%1").arg(i));
    line->setAccessibleName("Unit of plain numbers");
    connect(line, &QLineEdit::textChanged, this, [this, i](const QString& text) {
      mapping_.columns[i].unit = text.trimmed().toStdString();
      renew();
    });
    columns_->setCellWidget(row, unit, line);
  }
  columns_->resizeColumnToContents(title);
  columns_->setColumnWidth(meaning, 190);
  columns_->setColumnWidth(unit, 140);
}

void ImportDialog::renew() {
  if (filling_) return;
  read_ = read_foreign(text_, mapping_, form(), file_.toStdString());
  told_->setText(QString("Parts that can be read: %1").arg(read_.parts.size()) +
                 (read_.problems.empty() ? QString("; nothing is left out.")
                                         : QString("; left out: %1.").arg(read_.problems.size())));
  QStringList all;
  constexpr std::size_t most = 5;
  for (std::size_t i = 0; i < std::min(most, read_.problems.size()); ++i) all << qt(read_.problems[i].text());
  if (read_.problems.size() > most) all << QString("and %1 more").arg(read_.problems.size() - most);
  troubles_->setText(all.join('\n'));
  take_->setEnabled(!read_.parts.empty());
}

} // namespace fulmox::app

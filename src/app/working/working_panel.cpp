#include "app/working/working_panel.hpp"

#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/working/working_source.hpp"
#include "core/quantity/format.hpp"
#include "core/working/explain.hpp"

#include <QAbstractTextDocumentLayout>
#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QLabel>
#include <QScrollBar>
#include <QTextBlock>
#include <QTextTable>
#include <QUrl>
#include <QVBoxLayout>

#include <algorithm>

namespace fulmox::app {
namespace {

/// More steps than this are left behind their links.
constexpr std::size_t longest_chain = 24;
/// As many as may stand on the screen where that was not seen yet: while somebody types, the others wait for
/// a pause.
constexpr std::size_t usually_in_sight = 4;
constexpr int pause = 250; ///< ms

QString esc(std::string_view text) { return qt(text).toHtmlEscaped(); }

const Step* step_of(const std::vector<Step>& steps, std::string_view id) {
  const auto found = std::find_if(steps.begin(), steps.end(), [&](const Step& s) { return s.id == id; });
  return found != steps.end() ? &*found : nullptr;
}

/// An input as a link to where it is typed, with what stands there.
QString input_link(const Session& session, const std::string& path) {
  const QString name = qt(describe_path(session.document(), session.axis_index(), path));
  const auto dot = path.rfind('.');
  const Entry& entry = session.section(path.substr(0, dot))->entry(path.substr(dot + 1));
  const QString link = QString("<a href=\"input:%1\">%2</a>").arg(esc(path), name.toHtmlEscaped());
  if (entry.blank()) return link + " <span class=\"soft\">left blank</span>";
  return link + " <span class=\"soft\">typed “" + esc(entry.text) + "”" +
         (entry.origin == Origin::guess ? ", a guess" : "") + "</span>";
}

QString term_line(const WorkingSource& source, const Session& session, const Step& step, std::size_t i) {
  const Term& term = step.terms[i];
  const Parameter& p = parameter_of(*step.formula, i);
  const bool list = step.formula->list && i + 1 >= step.formula->parameters.size();
  const Kind kind = kind_of(step, i) == Kind::share ? Kind::number : kind_of(step, i);
  const QString value = esc(format(term.value, kind, session.document().units, 4).text());
  QString meaning = esc(meaning_of(step, i, *source.steps()));
  const Step* from = term.ref.empty() ? nullptr : step_of(*source.steps(), term.ref);
  if (from != nullptr && (!list || term.value != 0.0))
    meaning = QString("<a href=\"step:%1\">%2</a>").arg(esc(from->id), meaning);
  else if (const std::string input = source.input_behind(step, term); !input.empty())
    meaning = input_link(session, input);
  return QString("<tr><td class=\"sym\">%1</td><td class=\"num\" align=\"right\">%2</td><td>%3</td></tr>")
      .arg(list ? QString() : esc(p.symbol), value, meaning);
}

QString step_html(const WorkingSource& source, const Session& session, const Step& step, bool first) {
  const UnitSet units = session.document().units;
  const Formula& f = *step.formula;
  const Kind kind = f.kind == Kind::share ? Kind::number : f.kind;
  QString html = QString("<p class=\"%1\">%2</p>").arg(first ? "head" : "sub", esc(step.title));
  html += "<p class=\"formula\">" + esc(in_symbols(f)) + "<br>&nbsp;= " + esc(in_numbers(step, units)) +
          "<br>&nbsp;= <span class=\"value\">" + esc(format(step.value, kind, units, 4).text()) +
          "</span></p><table cellspacing=\"0\" cellpadding=\"1\">";
  for (std::size_t i = 0; i < step.terms.size(); ++i) html += term_line(source, session, step, i);
  html += "</table>";
  if (!step.note.empty()) html += "<p class=\"note\">" + esc(step.note) + "</p>";
  html += "<p class=\"source\">" + esc(f.source) + " · " + esc(f.id) + "</p>";
  return html;
}

QString style_html() {
  const Theme& t = theme();
  return QString("<style>p{margin:2px 0} .head{font-size:15px;font-weight:600} "
                 ".sub{font-weight:600;margin-top:12px}"
                 ".formula{margin-left:8px} .value{font-weight:600} .source,.soft{color:%1;font-size:12px} "
                 ".note{color:%2} .sym{color:%1;padding-left:8px}"
                 ".num{padding-left:6px;padding-right:10px} a{color:%2;text-decoration:none}</style>")
      .arg(t.soft.name(), t.accent.name());
}

} // namespace

WorkingPanel::WorkingPanel(Session& session, std::unique_ptr<WorkingSource> source, const QString& name,
                           QWidget* parent)
    : QWidget(parent), session_(session), source_(std::move(source)) {
  setObjectName(name);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  auto* bar = new QHBoxLayout;
  bar->setContentsMargins(8, 4, 4, 2);
  auto* title = new QLabel("Working");
  title->setFont(face(0, true));
  bar->addWidget(title);
  bar->addStretch();
  const auto add = [&](const QString& text, const QString& tip) {
    auto* button = new QToolButton;
    button->setText(text);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    bar->addWidget(button);
    return button;
  };
  back_ = add("← Back", "Back to the result shown before");
  QToolButton* copy = add("Copy", "Copy this working as text");
  QToolButton* close = add("×", "Close the working (Esc)");
  layout->addLayout(bar);
  browser_ = new QTextBrowser;
  browser_->setOpenLinks(false);
  // else the text is laid out once without and once with the bar
  browser_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOn);
  browser_->setObjectName(name + "_text");
  browser_->document()->setDocumentMargin(8);
  layout->addWidget(browser_);
  connect(browser_, &QTextBrowser::anchorClicked, this, &WorkingPanel::follow);
  connect(close, &QToolButton::clicked, this, &WorkingPanel::closed);
  connect(back_, &QToolButton::clicked, this, [this] {
    if (trail_.size() > 1) trail_.removeLast();
    refresh();
  });
  connect(copy, &QToolButton::clicked, this, [this] {
    if (const std::vector<Step>* steps = source_->steps(); steps != nullptr && !trail_.isEmpty())
      QApplication::clipboard()->setText(
          QString::fromStdString(explain(*steps, shown_step(), session_.document().units)));
  });
  // laying out a long text takes longer than a frame: numbers and plots come first, the working follows
  follow_up_.setSingleShot(true);
  follow_up_.setInterval(0);
  connect(&follow_up_, &QTimer::timeout, this, [this] {
    // who has scrolled down reads further below
    const bool at_top = browser_->verticalScrollBar()->value() == 0;
    const bool seen = in_sight_ > 0 && seen_height_ == browser_->viewport()->height();
    show_chain(!at_top ? longest_chain : seen ? in_sight_ : usually_in_sight);
    if (at_top) settle_.start();
  });
  settle_.setSingleShot(true);
  settle_.setInterval(pause);
  connect(&settle_, &QTimer::timeout, this, &WorkingPanel::refresh);
  new Refresher(session, this, results_changed | Change::theme, [this](Changes) {
    if (!trail_.isEmpty()) follow_up_.start();
  });
}

WorkingPanel::~WorkingPanel() = default;

std::string_view WorkingPanel::shown_step() const {
  return source_->step_behind(trail_.last().toStdString());
}

void WorkingPanel::forget() { trail_.clear(); }

void WorkingPanel::show_result(const QString& id) {
  if (trail_.isEmpty() || trail_.last() != id) trail_ << id;
  refresh();
  browser_->verticalScrollBar()->setValue(0);
}

void WorkingPanel::refresh() {
  follow_up_.stop();
  settle_.stop();
  show_chain(longest_chain);
  in_sight_ = count_in_sight();
  seen_height_ = browser_->viewport()->height();
}

/// Steps that begin above the lower edge, their headings being bold and in no table.
std::size_t WorkingPanel::count_in_sight() const {
  const QTextDocument* text = browser_->document();
  std::size_t count = 0;
  for (QTextBlock block = text->begin(); block.isValid(); block = block.next()) {
    if (block.begin().atEnd()) continue;
    const QTextCharFormat first = block.begin().fragment().charFormat();
    if (first.fontWeight() < QFont::DemiBold || QTextCursor(block).currentTable() != nullptr) continue;
    if (text->documentLayout()->blockBoundingRect(block).top() > browser_->viewport()->height()) break;
    ++count;
  }
  return count;
}

void WorkingPanel::show_chain(std::size_t most) {
  back_->setEnabled(trail_.size() > 1);
  const std::vector<Step>* steps = source_->steps();
  if (steps == nullptr || trail_.isEmpty()) return browser_->clear();
  const auto chain = chain_of(*steps, shown_step());
  QString html = style_html();
  if (chain.empty()) html += "<p>There is no such result any more.</p>";
  if (const QString remark = source_->remark(); !remark.isEmpty())
    html += "<p class=\"note\">" + remark.toHtmlEscaped() + "</p>";
  for (std::size_t i = 0; i < chain.size() && i < most; ++i)
    html += step_html(*source_, session_, *chain[i], i == 0);
  if (chain.size() > most && most < longest_chain)
    html += "<p class=\"source\">…</p>";
  else if (chain.size() > longest_chain)
    html += QString("<p class=\"source\">%1 more steps: follow the links above.</p>")
                .arg(chain.size() - longest_chain);
  const int scrolled = browser_->verticalScrollBar()->value();
  browser_->setHtml(html);
  browser_->verticalScrollBar()->setValue(scrolled);
}

void WorkingPanel::follow(const QUrl& link) {
  const QString target = link.toString();
  if (target.startsWith("step:")) show_result(target.mid(5));
  if (target.startsWith("input:")) emit session_.input_requested(target.mid(6));
}

} // namespace fulmox::app

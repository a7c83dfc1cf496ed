#include "app/study/study_panel.hpp"

#include "app/session/session.hpp"
#include "app/sheet/inertia_shares.hpp"
#include "app/sheet/torque_stack.hpp"
#include "app/study/load_page.hpp"
#include "app/study/move_page.hpp"
#include "app/study/ratio_page.hpp"
#include "app/study/ways_page.hpp"
#include "app/study/what_if_page.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/page_stack.hpp"

#include <QHBoxLayout>
#include <QSplitter>
#include <QVBoxLayout>

namespace fulmox::app {

StudyPanel::StudyPanel(Session& session, QWidget* parent) : QWidget(parent) {
  setObjectName("study");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  row_ = new QWidget(this);
  auto* row = new QHBoxLayout(row_);
  row->setContentsMargins(4, 2, 4, 2);
  row->setSpacing(2);
  layout->addWidget(row_);
  pages_ = new PageStack(this);
  layout->addWidget(pages_, 1);

  auto* shares = new QSplitter(Qt::Vertical, pages_);
  shares->setHandleWidth(1);
  shares->setChildrenCollapsible(false);
  new InertiaShares(session, shares);
  new TorqueStack(session, shares);
  shares->setSizes({200, 300});
  add("Shares", "Inertia shares at the motor and torque parts over the cycle", shares);
  add("Load", "The load from its pieces to the motor", new LoadPage(session, pages_));
  add("Move", "Laws of motion compared, recorded profiles", new MovePage(session, pages_));
  add("Ratio", "What another gear ratio would do", new RatioPage(session, pages_));
  add("What if", "Which input eats the margin", new WhatIfPage(session, pages_));
  auto* ways = new WaysPage(session, pages_);
  add("Ways", "Ways out: the least change that clears a limit; how far each input may go", ways);
  connect(&session, &Session::limit_chosen, ways, &WaysPage::look_at);
  row->addStretch();
  show_page("Shares");
}

void StudyPanel::add(const QString& name, const QString& tip, QWidget* page) {
  auto* tab = new QToolButton(row_);
  tab->setText(name);
  tab->setToolTip(tip);
  tab->setAccessibleName(name);
  tab->setObjectName("study_" + name.toLower().replace(' ', '_'));
  tab->setCheckable(true);
  tab->setProperty("role", "chip");
  tab->setFont(face(-1));
  tab->setShortcut(QKeySequence(QString("Alt+%1").arg(tabs_.size() + 1)));
  connect(tab, &QToolButton::clicked, this, [this, name] { show_page(name); });
  row_->layout()->addWidget(tab);
  tabs_.push_back(tab);
  pages_->addWidget(page);
}

void StudyPanel::show_page(const QString& name) {
  for (std::size_t i = 0; i < tabs_.size(); ++i) {
    const bool chosen = tabs_[i]->text() == name;
    tabs_[i]->setChecked(chosen);
    if (chosen) pages_->setCurrentIndex(static_cast<int>(i));
  }
}

QWidget* StudyPanel::page(const QString& name) const {
  for (std::size_t i = 0; i < tabs_.size(); ++i)
    if (tabs_[i]->text() == name) return pages_->widget(static_cast<int>(i));
  return nullptr;
}

} // namespace fulmox::app

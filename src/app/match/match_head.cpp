#include "app/match/match_head.hpp"

#include <QHBoxLayout>

#include <array>

namespace fulmox::app {
namespace {

struct PageWord {
  const char *name, *word, *tip;
};

constexpr std::array<PageWord, MatchHead::pages> page_words{{
    {"fits", "Fit", "What fits, by your weights"},
    {"misses", "Near", "What comes nearest of what does not fit"},
    {"killers", "Ruled out", "The limits that rule the others out"},
    {"compare", "Compare", "Up to four side by side: select them in the list with Ctrl or Shift"},
    {"kinds", "Kinds", "Kinds of motor side by side, and which one to take"},
    {"choices", "Choices", "What was chosen before, and why"},
}};

} // namespace

MatchHead::MatchHead(QWidget* parent) : QWidget(parent) {
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(4);
  for (const PageWord& of : page_words) {
    const auto page = static_cast<Page>(words_.size());
    auto* word = new QToolButton;
    word->setObjectName(QString("match_show_") + of.name);
    word->setText(of.word);
    word->setToolTip(of.tip);
    word->setCheckable(true);
    word->setProperty("role", "chip");
    connect(word, &QToolButton::clicked, this, [this, page] { emit turned(page); });
    row->addWidget(word);
    words_.push_back(word);
  }
  row->addStretch();
  stop_ = new QToolButton;
  stop_->setText("Stop");
  stop_->setObjectName("match_stop");
  stop_->setProperty("role", "part");
  stop_->setToolTip("Stop trying combinations");
  connect(stop_, &QToolButton::clicked, this, &MatchHead::stopped);
  row->addWidget(stop_);
}

void MatchHead::tell(const Told& told, Page page) {
  const auto counted = [&](Page of, const QString& number) {
    words_[of]->setText(QString(page_words[of].word) + " " + number);
  };
  counted(fits, told.fits);
  counted(misses, told.misses);
  counted(compare, QString::number(told.marked));
  words_[compare]->setEnabled(told.marked > 0);
  for (std::size_t of = 0; of < words_.size(); ++of) words_[of]->setChecked(of == page);
  stop_->setVisible(told.running);
}

} // namespace fulmox::app

#include "app/keeping/unread_bar.hpp"

#include "app/session/session.hpp"
#include "app/session/words.hpp"
#include "core/project/unread.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace fulmox::app {
namespace {

/// "cycle[6].process_force (is “process” meant?), gearbox (is “gearhead” meant?) and 3 more"; all of them
/// one by one for the hint.
QString words_of(const std::vector<Unread>& members, std::size_t most, const char* between) {
  QString words;
  for (std::size_t i = 0; i < std::min(members.size(), most); ++i) {
    words += (i > 0 ? between : "") + qt(members[i].where());
    if (!members[i].meant.empty()) words += " (is “" + qt(members[i].meant) + "” meant?)";
  }
  if (members.size() > most) words += QString(" and %1 more").arg(members.size() - most);
  return words;
}

} // namespace

UnreadBar::UnreadBar(Session& session, QWidget* parent) : QFrame(parent), session_(session) {
  setObjectName("unread_bar");
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(12, 2, 12, 2);
  label_ = new QLabel;
  label_->setObjectName("unread_text");
  label_->setWordWrap(true);
  layout->addWidget(label_, 1);
  const auto add = [&](const QString& text, const char* name, const QString& hint, auto act) {
    auto* button = new QPushButton(text);
    button->setObjectName(name);
    button->setToolTip(hint);
    layout->addWidget(button);
    connect(button, &QPushButton::clicked, this, act);
  };
  add("Leave out", "unread_leave_out", "Takes these entries out of the machine; can be undone.", [this] {
    session_.edit("Leave out what nothing reads", "", [](Document& document) { leave_out_unread(document); });
  });
  add("Keep", "unread_keep", "They stay in the file and count for nothing.", [this] {
    put_away_ = told_;
    refresh();
  });
  connect(&session, &Session::changed, this, [this](Changes what) {
    if (what.testFlag(Change::machine)) refresh();
  });
  refresh();
}

void UnreadBar::refresh() {
  std::vector<Unread> members = unread_members(session_.document());
  std::erase_if(members, [](const Unread& member) { return member.another_kinds; });
  constexpr std::size_t readable = 3, all = 40;
  told_ = members.empty() ? QString() : words_of(members, all, "\n");
  setVisible(!told_.isEmpty() && told_ != put_away_);
  if (!isVisibleTo(parentWidget())) return;
  label_->setText("These entries of the file belong to no input and count for nothing: " +
                  words_of(members, readable, ", ") + ".");
  label_->setToolTip(told_);
}

} // namespace fulmox::app

#pragma once
#include <QListWidget>
#include <QSignalBlocker>

#include <vector>

namespace fulmox::app {

/// Changes what the items of a list hold and repaints those rows only. A list view answers every change of an
/// item by laying out all of them and painting itself whole, which takes longer than working out the axis.
/// Rows whose height or number changes need relayout().
class QuietItems {
public:
  explicit QuietItems(QListWidget& list) : list_(list), quiet_(list.model()) {}
  ~QuietItems() {
    quiet_.unblock();
    if (relayout_)
      list_.doItemsLayout();
    else
      for (const int row : changed_) list_.update(list_.model()->index(row, 0));
  }
  QuietItems(const QuietItems&) = delete;
  QuietItems& operator=(const QuietItems&) = delete;

  void set(int row, int role, const QVariant& value) {
    QListWidgetItem* item = list_.item(row);
    if (item->data(role) == value) return;
    item->setData(role, value);
    if (changed_.empty() || changed_.back() != row) changed_.push_back(row);
  }
  void relayout() { relayout_ = true; }

private:
  QListWidget& list_;
  QSignalBlocker quiet_;
  std::vector<int> changed_;
  bool relayout_ = false;
};

} // namespace fulmox::app

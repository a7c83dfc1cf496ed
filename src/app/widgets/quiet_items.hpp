#pragma once
#include <QListWidget>
#include <QSignalBlocker>

#include <algorithm>
#include <vector>

namespace fulmox::app {

/// The part of a row that something is drawn in, px: as far as its right or its lower end; 0: all of it.
struct RowPart {
  int from_right = 0, from_bottom = 0;

  [[nodiscard]] QRect of(const QRect& row) const {
    return from_right > 0    ? row.adjusted(std::max(0, row.width() - from_right), 0, 0, 0)
           : from_bottom > 0 ? row.adjusted(0, std::max(0, row.height() - from_bottom), 0, 0)
                             : row;
  }
  bool operator==(const RowPart&) const = default;
};

/// The part for a value at the right end of the room it shares with its label, both of a list that cuts a
/// label short where the value leaves too little: then all of the row.
inline RowPart part_of_value(int before, int after, int label, int room, int right_of_room) {
  constexpr int gap = 4, smooth = 1; // a letter's edge may lie on the next pixel
  const int taken = std::max(before, after);
  return label + gap + taken > room ? RowPart() : RowPart{right_of_room + taken + smooth, 0};
}

/// Changes what the items of a list hold and repaints those rows only, and of them the parts that changed. A
/// list view answers every change of an item by laying out all of them and painting itself whole, which takes
/// longer than working out the axis. Rows whose height or number changes need relayout().
class QuietItems {
public:
  explicit QuietItems(QListWidget& list) : list_(list), quiet_(list.model()) {}
  ~QuietItems() {
    quiet_.unblock();
    if (relayout_)
      list_.doItemsLayout();
    else
      repaint();
  }
  QuietItems(const QuietItems&) = delete;
  QuietItems& operator=(const QuietItems&) = delete;

  void set(int row, int role, const QVariant& value, RowPart drawn_in = {}) {
    QListWidgetItem* item = list_.item(row);
    if (item->data(role) == value) return;
    item->setData(role, value);
    const Changed now{row, drawn_in};
    if (changed_.empty() || changed_.back() != now) changed_.push_back(now);
  }
  /// What only hovers or is read aloud: nothing is drawn of it.
  void set_unseen(int row, int role, const QVariant& value) {
    QListWidgetItem* item = list_.item(row);
    if (item->data(role) != value) item->setData(role, value);
  }
  void relayout() { relayout_ = true; }

private:
  struct Changed {
    int row;
    RowPart part;
    bool operator==(const Changed&) const = default;
  };
  void repaint() const {
    int row = -1;
    QRect box;
    for (const Changed& one : changed_) {
      if (one.row != row) box = list_.visualItemRect(list_.item(one.row));
      row = one.row;
      list_.viewport()->update(one.part.of(box));
    }
  }

  QListWidget& list_;
  QSignalBlocker quiet_;
  std::vector<Changed> changed_;
  bool relayout_ = false;
};

} // namespace fulmox::app

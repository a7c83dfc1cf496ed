#pragma once
#include "core/match/ranking.hpp"

#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QToolButton>

#include <functional>

class QSlider;

namespace fulmox::app {

/// What is listed: a menu of every facet's values with how many combinations each would leave.
class MatchFilters : public QWidget {
  Q_OBJECT

public:
  explicit MatchFilters(QWidget* parent = nullptr);

  [[nodiscard]] const Filter& filter() const { return filter_; }
  /// How many combinations each value of a facet would leave, and parts in stock alone.
  struct Counts {
    std::vector<std::vector<FacetCount>> of;
    std::size_t in_stock = 0;
  };
  /// Asked as the menu opens: there may be a million to count.
  void count_by(std::function<Counts()> count) { count_ = std::move(count); }
  /// Lists only one value of a facet, whatever else is set of it.
  void only(std::string_view facet, const std::string& value);
  /// "only Kind of motor: Stepper"; "" where nothing is filtered.
  [[nodiscard]] QString told() const;

signals:
  void changed();

private:
  void fill();
  void fill(std::size_t facet, const std::vector<FacetCount>& counts, QMenu& menu);
  void add_stock(std::size_t in_stock);
  void word();
  void read_price();

  Filter filter_;
  std::function<Counts()> count_;
  QToolButton* only_;
  QLabel* told_;
  QLineEdit* price_;
  QToolButton* clear_;
};

/// How much each yardstick counts, a slider for each.
class MatchWeights : public QWidget {
  Q_OBJECT

public:
  explicit MatchWeights(QWidget* parent = nullptr);
  [[nodiscard]] Weights weights() const;
  /// "Worst limit 2, Price 1".
  [[nodiscard]] QString told() const;

signals:
  void changed();

private:
  std::vector<QSlider*> sliders_;
};

} // namespace fulmox::app

#pragma once
#include "app/match/match_search.hpp"

#include <QTableWidget>

namespace fulmox::app {

/// Up to four combinations side by side: every yardstick and every limit of the ladder, the best of each row
/// set off.
class MatchCompare : public QTableWidget {
  Q_OBJECT

public:
  static constexpr std::size_t most = 4;

  explicit MatchCompare(QWidget* parent = nullptr);
  void show(const Axis& axis, const Section& house_rules, UnitSet units, const MatchAnswer& answer,
            const std::vector<Trial>& trials);
};

} // namespace fulmox::app

#pragma once
#include "app/match/match_compare.hpp"
#include "app/match/match_filters.hpp"
#include "app/match/match_head.hpp"
#include "app/match/match_kinds.hpp"
#include "app/match/match_model.hpp"
#include "app/match/match_plot.hpp"
#include "app/match/match_ruled_out.hpp"
#include "app/match/match_ways.hpp"

#include <QCheckBox>
#include <QLabel>
#include <QPushButton>
#include <QStackedWidget>
#include <QTableView>

namespace fulmox::app {

/// Every motor, gearhead and drive tried at once: what fits by the user's weights, what comes nearest, what
/// rules the others out, up to four side by side; one of them is put into the axis with its reasons.
class MatchView : public QWidget {
  Q_OBJECT

public:
  explicit MatchView(Session& session, QWidget* parent = nullptr);
  bool eventFilter(QObject* watched, QEvent* event) override;

protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

private:
  QWidget* choice_row();
  QWidget* bottom();
  QTableView* make_table();
  void turn_to(MatchHead::Page page);
  void refresh(Changes what);
  /// Lists anew: another answer, other weights, another filter.
  void arrange();
  void show_list();
  [[nodiscard]] ListAsked asked() const;
  [[nodiscard]] const std::vector<std::size_t>& listed() const;
  [[nodiscard]] std::size_t passing() const; ///< how many of the fits pass the filter
  [[nodiscard]] const std::shared_ptr<const MatchAnswer>& shown_answer() const;
  void fit_columns();
  void tell();
  void follow_selection();
  void pick(const Combination& parts);
  void apply();
  void put_in(const Trial& trial, const Axis& axis, const QString& change);
  void look_for_ways(const std::vector<Trial>& marked);
  [[nodiscard]] bool can_apply() const;
  [[nodiscard]] std::vector<Trial> selected() const;

  Session& session_;
  MatchSearch search_;
  MatchHead* head_;
  QLabel *told_, *detail_;
  QCheckBox *brakes_, *couplings_;
  MatchFilters* filters_;
  MatchWeights* weights_;
  QWidget *choice_row_, *bottom_;
  QStackedWidget* body_;
  QTableView* table_;
  MatchModel* model_;
  MatchPlot* plot_;
  MatchWays* ways_;
  MatchRuledOut* ruled_out_;
  QTableWidget* choices_;
  MatchCompare* compare_;
  MatchKinds* kinds_;
  QLineEdit* reason_;
  QPushButton* apply_;
  MatchHead::Page page_ = MatchHead::fits;
  std::vector<Trial> compared_;
  bool open_ = false;
  bool arranging_ = false;
};

} // namespace fulmox::app

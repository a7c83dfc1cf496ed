#pragma once
#include "app/givens/section_form.hpp"

namespace fulmox::app {

/// The thresholds in force, open to change; the header offers the shipped sets.
class HouseRulesForm : public Fold {
  Q_OBJECT

public:
  HouseRulesForm(Session& session, int number, QWidget* parent = nullptr);
  void refresh();
  FieldRow* reveal(std::string_view field);

private:
  void build_rows();

  Session& session_;
  std::vector<FieldRow*> rows_;
};

} // namespace fulmox::app

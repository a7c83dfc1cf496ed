#pragma once
#include "app/givens/section_form.hpp"

namespace fulmox::app {

/// A form that belongs to the whole machine: house rules, duty and place.
class MachineForm : public Fold {
  Q_OBJECT

public:
  /// `path` as find_section() takes it; `told`: the fields that its folded header tells.
  MachineForm(Session& session, int number, const Section& section, std::vector<std::string_view> told,
              QWidget* parent = nullptr);
  void refresh();
  [[nodiscard]] const std::string& path() const { return path_; }
  FieldRow* reveal(std::string_view field);

private:
  void build_rows();

  Session& session_;
  std::string path_;
  std::vector<std::string_view> told_;
  std::vector<FieldRow*> rows_;
};

} // namespace fulmox::app

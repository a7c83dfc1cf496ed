#pragma once
#include "app/working/working_source.hpp"

namespace fulmox::app {

class Session;

/// The working of the axis in view.
class AxisWorking : public WorkingSource {
public:
  explicit AxisWorking(const Session& session) : session_(session) {}
  [[nodiscard]] const std::vector<Step>* steps() const override;
  [[nodiscard]] std::string_view step_behind(std::string_view result) const override;
  [[nodiscard]] std::string input_behind(const Step& step, const Term& term) const override;
  [[nodiscard]] QString remark() const override;

private:
  const Session& session_;
};

} // namespace fulmox::app

#pragma once
#include "core/working/recorder.hpp"

#include <QString>

#include <string>
#include <string_view>
#include <vector>

namespace fulmox::app {

/// What a working is read from: the steps behind results, and the inputs they start with.
class WorkingSource {
public:
  virtual ~WorkingSource() = default;
  /// nullptr where there is nothing to look at.
  [[nodiscard]] virtual const std::vector<Step>* steps() const = 0;
  /// Id of the step behind a result, a limit or a step; "" where there is none any more.
  [[nodiscard]] virtual std::string_view step_behind(std::string_view result) const = 0;
  /// Path of the input a term is; "" where it is none.
  [[nodiscard]] virtual std::string input_behind(const Step& step, const Term& term) const = 0;
  /// Said above the steps; "" where nothing is to be said.
  [[nodiscard]] virtual QString remark() const = 0;
};

} // namespace fulmox::app

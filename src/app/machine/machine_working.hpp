#pragma once
#include "app/working/working_source.hpp"
#include "core/limits/limit.hpp"

#include <optional>
#include <utility>

namespace fulmox::app {

class Session;

/// The working of the limits of a bus, or of the machine itself.
class MachineWorking : public WorkingSource {
public:
  explicit MachineWorking(Session& session) : session_(session) {}
  /// Which bus is meant; nothing: the machine itself. Whether it is another one than before.
  bool set_bus(std::optional<std::size_t> bus) { return std::exchange(bus_, bus) != bus; }
  [[nodiscard]] const std::vector<Step>* steps() const override;
  [[nodiscard]] std::string_view step_behind(std::string_view result) const override;
  [[nodiscard]] std::string input_behind(const Step& step, const Term& term) const override;
  [[nodiscard]] QString remark() const override;

private:
  Session& session_;
  std::optional<std::size_t> bus_;
};

/// Where the governing or missing value of a limit is typed: on its bus, in an axis on it, or of the machine.
/// "" where nothing governs it.
std::string governing_input(Session& session, const Limit& limit, std::size_t bus);

} // namespace fulmox::app

#pragma once
#include "core/machine/machine_run.hpp"

#include <QString>

#include <optional>

namespace fulmox::app {

class Session;

/// Gives a block of the machine another start; one that only stood for an axis becomes a real one.
void set_block_start(Session& session, const MachinePower& machine, std::size_t block, double seconds,
                     const QString& merge_key);
/// Puts an axis on a bus ("shared_bus", "brake_bus"); "" takes it off.
void set_bus(Session& session, std::size_t axis, const std::string& field, const std::string& bus);
/// Adds a bus of a kind; the first takes all axes.
void add_bus(Session& session, const SectionSpec& form);
void add_block(Session& session, const std::string& axis);
void add_load(Session& session, const std::string& bus);
void remove_entry(Session& session, const std::string& list, std::size_t index);
/// A copy of an axis behind it, with a name of its own.
void copy_axis(Session& session, std::size_t axis);
void move_axis(Session& session, std::size_t axis, int by);
/// Types what every axis gets from its bus into it.
void take_bus_volts(Session& session, const std::vector<FedVolts>& fed);

} // namespace fulmox::app

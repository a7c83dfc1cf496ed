#pragma once
#include "core/project/document.hpp"

#include <functional>
#include <string>
#include <vector>

namespace fulmox {

// Axes, buses and blocks are spoken of by their names: blocks name axes and the blocks they wait for, axes
// and loads the bus they hang on. What gets another name is followed by all that speak of it.

/// "48 V", or with a number behind it where `taken` says so.
std::string fresh_name(const std::string& wanted, const std::function<bool(const std::string&)>& taken);
/// The same for a new axis of a machine.
std::string fresh_axis_name(const Document& document, const std::string& wanted);

/// What a block is called: by its name, or else by its axis.
const std::string& block_name(const Section& block);

/// Whether another axis than this one is called so.
bool another_axis_called(const Document& document, std::size_t axis, const std::string& name);

void rename_axis(Document& document, std::size_t axis, const std::string& name);
/// Takes an axis out, and its blocks with it. Blocks that wait for one of these are left as they are: only
/// the user knows what they are to wait for instead.
void remove_axis(Document& document, std::size_t axis);
/// A name that another bus has gets a number: axes could not tell one from the other.
void rename_bus(Document& document, std::size_t bus, const std::string& name);
/// Puts a value into a field of a block; where the block is called otherwise then, blocks that wait for it
/// follow. A name that another block or axis has gets a number: it may be one on the way to another, while it
/// is typed, and who waits for one must not come to wait for the other.
void change_block(Document& document, std::size_t block, std::size_t field, Entry entry);

bool bus_exists(const Document& document, const std::string& name);

/// Buses that an axis hangs on and that do not exist.
std::vector<Problem> bus_faults(const Document& document, std::size_t axis);

/// Axes and buses without a name, and those with one that another has: nobody could tell which is meant.
/// Buses that axes and loads hang on and that do not exist: then nothing judges their supply.
std::vector<Problem> name_faults(const Document& document);

} // namespace fulmox

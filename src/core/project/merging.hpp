#pragma once
#include "core/project/document.hpp"

namespace fulmox {

/// "48 V", or with a number behind it where `taken` says so.
std::string fresh_name(const std::string& wanted, const std::function<bool(const std::string&)>& taken);

/// All axes of another machine behind those that are there, with their blocks and with the buses and loads
/// that are not there yet; names of axes that are taken get a number, and blocks follow them.
void take_axes(Document& into, const Document& from);

} // namespace fulmox

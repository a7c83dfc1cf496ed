#pragma once
#include "core/project/document.hpp"

namespace fulmox {

/// Bytes a document takes beyond what it shares with the state before it; roughly, never much too little.
std::size_t own_size(const Document& now, const Document& before);

} // namespace fulmox

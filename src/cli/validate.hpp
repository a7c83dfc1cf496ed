#pragma once
#include <string>

namespace fulmox::cli {

/// Names everything wrong in a file: what cannot be used, what cannot be worked out, what nothing reads. As
/// text also what is kept for another kind of a part, which is nothing wrong.
int validate_command(const std::string& file, bool json);

} // namespace fulmox::cli

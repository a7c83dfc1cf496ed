#pragma once
#include <QMenu>

#include <cstddef>

namespace fulmox::app {

class Session;

/// Fills a menu with what can be done to a segment of the present cycle; givens and ribbon offer the same.
/// What cannot be done now is greyed and says why.
void fill_segment_menu(QMenu& menu, Session& session, std::size_t index);

} // namespace fulmox::app

#pragma once
#include <QKeySequence>
#include <QWidget>

#include <span>
#include <string_view>

namespace fulmox::app {

class Session;

/// A main view: what stands in the sheet, between the givens and the ladder. Its make() may keep itself up to
/// date with a Refresher, which leaves it alone while another view is seen.
struct ViewSpec {
  std::string_view id;
  QString title; ///< a word
  QString tip;
  QKeySequence keys;
  QWidget* (*make)(Session& session);
  bool with_givens = true, with_ladder = true, with_ribbon = true; ///< what stays beside it
};

/// Every view in the order of the switch.
std::span<const ViewSpec> view_specs();
/// Adds one, before the window is made; what is already there stays.
void register_view(const ViewSpec& view);

} // namespace fulmox::app

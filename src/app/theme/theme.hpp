#pragma once
#include <QColor>
#include <QFont>
#include <QString>

namespace fulmox::app {

/// Colours of one look. State is told by glyph and word first; colour only supports it.
struct Theme {
  bool dark = false;
  QColor ground, panel, ink, soft, faint, rule, accent, accent_wash, alarm, field;
  QColor parts[9]; ///< torque parts, in the order of TorquePart; told apart by lightness too
};

const Theme& theme();
/// Switches the look of the whole program.
void apply_theme(bool dark);

/// Loads the bundled faces; call once after the application exists.
void load_fonts();
/// The interface face at a size relative to the base (0 = normal, -1 = small print).
QFont face(int step = 0, bool strong = false);

/// Glyph that stands before the word of a limit's state.
QString glyph(int limit_state);

} // namespace fulmox::app

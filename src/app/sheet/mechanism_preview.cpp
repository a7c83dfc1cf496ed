#include "app/sheet/mechanism_preview.hpp"

#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/sheet/drawing_painter.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"
#include "core/mechanism/mechanism.hpp"

#include <QPainter>

namespace fulmox::app {
namespace {

/// The drawing of an axis whose form may still be half empty; nothing where even so none can be made.
std::optional<Drawing> draw_early(Axis axis) {
  const std::string field(main_load_input(axis));
  Section& load = axis["load"];
  if (load.has(field) && load.blank(field)) {
    const FieldSpec& spec = load.field(*load.spec().index_of(field));
    load.type(field, spec.kind == Kind::mass ? "10 kg" : "0.01 kg.m2");
  }
  if (!faults(axis).empty()) return std::nullopt;
  Recorder silent(false);
  const MechanismSpec& spec = mechanism_of(axis);
  const auto mechanism = spec.build({axis["load"], axis["mechanism"], axis.pieces}, silent);
  if (!mechanism) return std::nullopt;
  Pose pose;
  pose.highest = spec.motion.rotary() ? 1.5 : 0.3; // rad or m
  return (*mechanism)->draw(pose);
}

} // namespace

MechanismPreview::MechanismPreview(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("mechanism_preview");
  setAccessibleName("The mechanism, to scale");
  new Refresher(session, this, results_changed | Change::theme, [this](Changes) { refresh(); });
}

void MechanismPreview::refresh() {
  drawing_.reset();
  if (session_.has_axis() && session_.evaluation() == nullptr) drawing_ = draw_early(session_.axis());
  update();
}

void MechanismPreview::paintEvent(QPaintEvent*) {
  constexpr int least_height = 90;
  if (!drawing_ || height() < least_height) return;
  QPainter painter(this);
  painter.setPen(theme().soft);
  draw_line(painter, QRect(0, 0, width(), 18), Qt::AlignLeft | Qt::AlignVCenter,
            "The mechanism, to scale; its travel and load follow what you type", face(-1));
  painter.setRenderHint(QPainter::Antialiasing);
  paint_drawing(painter, *drawing_, drawing_->bounds(), QRectF(0, 20, width(), height() - 22),
                session_.document().units, "");
}

} // namespace fulmox::app

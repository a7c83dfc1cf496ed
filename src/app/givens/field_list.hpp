#pragma once
#include "app/widgets/field_row.hpp"
#include "app/widgets/retired_widgets.hpp"

#include <QToolButton>
#include <QVBoxLayout>

#include <functional>
#include <optional>
#include <vector>

namespace fulmox::app {

/// The rows of one section. Those that are neither wanted nor filled in wait behind "more". Made anew when
/// the section turns into another form.
class FieldList : public QWidget {
  Q_OBJECT

public:
  /// Whether a field shows without asking for more.
  using Wanted = std::function<bool(const Section& section, const FieldSpec& field)>;
  FieldList(Session& session, Wanted wanted, QWidget* parent = nullptr);

  void show_section(const Section& section);
  /// The row of a field, shown if it was hidden; nullptr when there is none.
  FieldRow* reveal(std::string_view field);
  /// Text in lighter ink for a blank field: what it follows to.
  void show_hint(std::string_view field, const QString& hint);

private:
  void rebuild(const Section& section);
  void show_rows(const Section& section);

  Session& session_;
  Wanted wanted_;
  const SectionSpec* spec_ = nullptr;
  std::string path_;
  std::vector<FieldRow*> rows_;
  std::optional<Section> shown_; ///< as the rows show it; nothing where that is not certain
  QWidget* host_ = nullptr;
  QToolButton* more_;
  bool all_ = false;
  RetiredWidgets retired_;
};

} // namespace fulmox::app

#pragma once
#include "app/givens/section_form.hpp"
#include "app/widgets/attic.hpp"

namespace fulmox::app {

/// The cycle as a list of segments with buttons to add, remove and reorder.
class MoveForm : public Fold {
  Q_OBJECT

public:
  MoveForm(Session& session, int number, QWidget* parent = nullptr);
  void refresh();
  FieldRow* reveal(const std::string& section, std::string_view field);

private:
  struct Segment {
    const SectionSpec* spec;
    QWidget* box;
    std::vector<FieldRow*> rows;
  };
  void rebuild();
  QWidget* make_header(std::size_t index, const QString& title);
  void add_segment(std::string_view kind);

  Session& session_;
  std::vector<Segment> segments_;
  QWidget* list_ = nullptr;
  Attic attic_;
};

} // namespace fulmox::app

#pragma once
#include "app/givens/section_form.hpp"
#include "app/widgets/retired_widgets.hpp"

#include <QScrollArea>

#include <map>
#include <string>
#include <vector>

namespace fulmox::app {

class Session;

/// The machine's own inputs: its cycle, its buses, its blocks, what else takes power.
class MachineGivens : public QScrollArea {
  Q_OBJECT

public:
  explicit MachineGivens(Session& session, QWidget* parent = nullptr);
  /// Takes the user to an input: "buses[0].limit".
  void go_to(const QString& path);

private:
  struct Item {
    std::string path;
    const SectionSpec* spec = nullptr;
    Fold* fold = nullptr;
    FieldList* fields = nullptr;
  };

  void refresh();
  void rebuild();
  void add_item(QVBoxLayout* layout, const Section& section, const std::string& list, std::size_t index);
  void fill(Item& item);
  [[nodiscard]] QString title_of(const Section& section) const;
  [[nodiscard]] QString summary_of(const Section& section) const;
  void complete_names(FieldList* fields, const Section& section) const;
  QToolButton* adder(const char* name, const QString& text);

  Session& session_;
  std::vector<Item> items_;
  std::map<std::string, bool> open_; ///< by path
  QWidget* host_ = nullptr;
  RetiredWidgets retired_;
};

} // namespace fulmox::app

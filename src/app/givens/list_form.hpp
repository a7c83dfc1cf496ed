#pragma once
#include "app/givens/section_form.hpp"

namespace fulmox::app {

/// A list of sections, each a line that unfolds into its rows: the cycle, the stages, the pieces of the load.
class ListForm : public Fold {
  Q_OBJECT

public:
  ListForm(Session& session, int number, const ListInfo& list, QWidget* parent = nullptr);
  void refresh();
  /// The row of a field of the section with that path; the first section's when the path is empty.
  FieldRow* reveal(const std::string& section, std::string_view field);
  [[nodiscard]] std::string_view id() const { return list_.id; }

signals:
  /// Something else than a form is wanted for this section: "import", "laws".
  void tool_requested(const QString& tool, int index);

private:
  struct Item {
    const SectionSpec* spec = nullptr;
    QWidget* box = nullptr; ///< as the three below, only while its page is shown
    QPushButton* line = nullptr;
    FieldList* fields = nullptr; ///< made when unfolded
    bool open = false;
  };
  using Sections = std::vector<Section>;

  void add_button(QLayout* layout, std::string_view kind);
  void add_section(std::string_view kind);
  void rebuild();
  void make_item(std::size_t index);
  QToolButton* more_button(std::size_t index);
  QLayout* pager();
  void show_page(std::size_t first);
  [[nodiscard]] std::size_t shown_end() const;
  void open_item(std::size_t index, bool open);
  void show_item(std::size_t index);
  void change(const QString& name, const std::function<void(Sections&)>& how);
  QString line_of(std::size_t index) const;

  Session& session_;
  const ListInfo& list_;
  static constexpr std::size_t page = 50; ///< sections shown at once
  std::vector<Item> items_;
  std::size_t first_ = 0; ///< of the page shown
  QWidget* host_ = nullptr;
  RetiredWidgets retired_;
};

/// One line that tells a section of a list: "−150 mm in 0.35 s".
QString summarize(const Section& section);

} // namespace fulmox::app

#pragma once
#include "core/library/catalogue.hpp"
#include "core/library/foreign_csv.hpp"

#include <QString>

#include <vector>

namespace fulmox::app {

/// The libraries that parts are chosen from: what is shipped, those the user has added, the user's own. Kept
/// from one start to the next. The later one counts where two hold the same part.
class PartSources {
public:
  /// Reads what was kept; `shipped` is the folder that comes with the program.
  void restore(const std::filesystem::path& shipped);
  [[nodiscard]] const std::vector<PartSource>& all() const { return all_; }
  /// The one that may be changed here.
  [[nodiscard]] const PartSource& own() const { return all_.back(); }

  /// Adds a folder or file before the own one; false where it is there already.
  bool add(const QString& path);
  /// Takes one off the list; nothing on disk is touched. Shipped and own ones stay.
  void remove(std::size_t place);
  /// Moves one up (earlier, so that others count before it) or down; shipped stays first, own last.
  void move(std::size_t place, int step);
  void turn(std::size_t place, bool on);
  [[nodiscard]] bool movable(std::size_t place) const { return place > 0 && place + 1 < all_.size(); }

  /// How lists of a layout were read before; nullptr when none of that key was.
  [[nodiscard]] const CsvMapping* mapping(const std::string& key) const;
  std::optional<Problem> remember(const CsvMapping& mapping);

  [[nodiscard]] static std::filesystem::path own_folder();

private:
  void keep() const;
  [[nodiscard]] static std::filesystem::path mappings_file();

  std::vector<PartSource> all_;
  std::vector<CsvMapping> mappings_;
};

} // namespace fulmox::app

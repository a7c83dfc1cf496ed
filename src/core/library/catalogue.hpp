#pragma once
#include "core/library/part_library.hpp"
#include "core/support/expected.hpp"

#include <filesystem>
#include <optional>

namespace fulmox {

/// Where parts come from: a folder with a file for each kind ("motors.csv"), or one such file.
struct PartSource {
  std::filesystem::path path;
  std::string name;
  bool own = false; ///< may be changed here
  bool on = true;
  bool operator==(const PartSource&) const = default;
};

/// A part with where it stands.
struct StoredPart {
  Section part;
  std::size_t source = 0;
  std::string file; ///< "motors.csv"
  int line = 0;
  /// Place in the same list of the part of the same maker and number that counts instead.
  std::optional<std::size_t> hidden_by;
};

/// Several libraries read one after another. Of parts with the same maker and number the one of the later
/// source counts; what cannot be read is told, the rest counts.
class Catalogue {
public:
  static Catalogue load(std::vector<PartSource> sources);

  [[nodiscard]] const std::vector<PartSource>& sources() const { return sources_; }
  /// Of all kinds of a slot ("motor"), hidden ones included, by source, then as they stand in the files.
  [[nodiscard]] const std::vector<StoredPart>& of(std::string_view slot) const;
  struct Trouble {
    std::size_t source = 0;
    Problem problem;
  };
  [[nodiscard]] const std::vector<Trouble>& troubles() const { return troubles_; }
  /// What counts.
  [[nodiscard]] Library library() const;
  [[nodiscard]] std::size_t size_of(std::size_t source) const;

private:
  void read(std::size_t source);
  void read_file(std::size_t source, const std::filesystem::path& path, const SlotSpec& slot,
                 const SlotKind& kind);
  void hide_doubles();

  std::vector<PartSource> sources_;
  std::map<std::string, std::vector<StoredPart>, std::less<>> parts_;
  std::vector<Trouble> troubles_;
};

/// One folder, as a whole: its first trouble where there is any. For what is shipped.
Expected<Library> load_library(const std::filesystem::path& folder);

/// Puts a part into the file of its kind in an own source's folder; one of the same maker and number is
/// replaced. Gives the problem, if any, and then leaves the file as it was. `was`: the maker and number under
/// which it stood before, where they changed.
struct PartName {
  std::string maker, number;
  bool operator==(const PartName&) const = default;
};
PartName name_of(const Section& part);
std::optional<Problem> keep_part(const PartSource& own, std::string_view slot, const Section& part,
                                 const std::optional<PartName>& was = std::nullopt);
/// Many at once, all of one kind.
std::optional<Problem> keep_parts(const PartSource& own, std::string_view slot, const Parts& parts);
std::optional<Problem> remove_part(const PartSource& own, std::string_view slot, const Section& part);

} // namespace fulmox

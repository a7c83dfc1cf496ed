#include "core/project/json_shape.hpp"

#include <algorithm>
#include <string>
#include <unordered_set>
#include <utility>
#include <vector>

namespace fulmox {
namespace {

class Scan {
public:
  explicit Scan(std::string_view text) : text_(text) {}

  JsonShape operator()() {
    for (at_ = 0; at_ < text_.size() && !shape_.too_much; ++at_) {
      switch (text_[at_]) {
      case '"':
        take_text();
        break;
      case '\n':
        ++line_;
        break;
      case '{':
      case '[':
        begin(text_[at_] == '{');
        break;
      case '}':
      case ']':
        if (!levels_.empty()) levels_.pop_back();
        break;
      case ',':
        take_comma();
        break;
      default:
        break;
      }
    }
    return shape_;
  }

private:
  static constexpr std::size_t deepest = 200, most_members = 2000, most_items = 200'000,
                               most_objects = 60'000;
  struct Level {
    bool object;
    std::size_t commas = 0;
    bool name_is_next = true;
    std::unordered_set<std::string_view> names; ///< as they are written
  };

  [[nodiscard]] Problem here(std::string what, std::string remedy) const {
    return {"line " + std::to_string(line_), std::move(what), std::move(remedy)};
  }
  void refuse(std::string what, std::string remedy) {
    shape_.too_much = here(std::move(what), std::move(remedy));
  }

  void begin(bool object) {
    levels_.push_back({object, 0, true, {}});
    objects_ += object ? 1U : 0U;
    if (levels_.size() > deepest)
      return refuse("the file is nested too deeply.", "This is no Fulmox machine.");
    if (objects_ > most_objects)
      refuse("the file holds more than " + std::to_string(most_objects) + " parts.",
             "Split the machine into several.");
  }

  void take_comma() {
    if (levels_.empty()) return;
    Level& level = levels_.back();
    level.name_is_next = true;
    if (++level.commas < (level.object ? most_members : most_items)) return;
    refuse(level.object ? "an object has more than " + std::to_string(most_members) + " members."
                        : "a list has more than " + std::to_string(most_items) + " entries.",
           "This is no Fulmox machine.");
  }

  /// To its end.
  void take_text() {
    const std::size_t begin = ++at_;
    for (; at_ < text_.size() && text_[at_] != '"'; ++at_)
      if (text_[at_] == '\\') ++at_;
    if (levels_.empty() || !levels_.back().object || !levels_.back().name_is_next) return;
    Level& level = levels_.back();
    level.name_is_next = false;
    const std::string_view name = text_.substr(begin, std::min(at_, text_.size()) - begin);
    if (!level.names.insert(name).second && !shape_.doubled)
      shape_.doubled = here("\"" + std::string(name) + "\" stands here a second time.",
                            "Only one of them can count: delete the other.");
  }

  std::string_view text_;
  std::size_t at_ = 0, objects_ = 0;
  int line_ = 1;
  std::vector<Level> levels_;
  JsonShape shape_;
};

} // namespace

JsonShape shape_of(std::string_view text) { return Scan(text)(); }

} // namespace fulmox

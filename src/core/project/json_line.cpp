#include "core/project/json_line.hpp"

#include <string>
#include <vector>

namespace fulmox {
namespace {

struct Level {
  bool array = false;
  std::size_t index = 0;
  std::string key;
};

std::string escaped(const std::string& key) {
  std::string out;
  for (const char c : key) {
    if (c == '~')
      out += "~0";
    else if (c == '/')
      out += "~1";
    else
      out += c;
  }
  return out;
}

class Scanner {
public:
  Scanner(std::string_view text, std::string_view wanted) : text_(text), wanted_(wanted) {}

  int scan() {
    while (pos_ < text_.size() && found_ == 0) step();
    return found_;
  }

private:
  void step() {
    const char c = text_[pos_];
    switch (c) {
    case '\n':
      ++line_;
      break;
    case '{':
    case '[':
      mark();
      levels_.push_back({c == '[', 0, ""});
      break;
    case '}':
    case ']':
      if (!levels_.empty()) levels_.pop_back();
      break;
    case ',':
      if (!levels_.empty() && levels_.back().array) ++levels_.back().index;
      break;
    case '"':
      string();
      return;
    case ' ':
    case '\t':
    case '\r':
    case ':':
      break;
    default:
      scalar();
      return;
    }
    ++pos_;
  }

  void string() {
    const std::size_t start = ++pos_;
    while (pos_ < text_.size() && text_[pos_] != '"') pos_ += text_[pos_] == '\\' ? 2 : 1;
    std::string content(text_.substr(start, pos_ - start));
    ++pos_;
    std::size_t next = pos_;
    while (next < text_.size() && std::string_view(" \t\r\n").find(text_[next]) != std::string_view::npos)
      ++next;
    const bool key = !levels_.empty() && !levels_.back().array && next < text_.size() && text_[next] == ':';
    if (key)
      levels_.back().key = std::move(content);
    else
      mark();
  }

  void scalar() {
    mark();
    while (pos_ < text_.size() && std::string_view(",]}\n \t\r").find(text_[pos_]) == std::string_view::npos)
      ++pos_;
  }

  void mark() {
    pointer_.clear();
    for (const Level& level : levels_) {
      pointer_ += "/" + (level.array ? std::to_string(level.index) : escaped(level.key));
      if (!wanted_.starts_with(pointer_)) return;
    }
    if (pointer_ == wanted_) found_ = line_;
  }

  std::string_view text_, wanted_;
  std::size_t pos_ = 0;
  int line_ = 1, found_ = 0;
  std::string pointer_;
  std::vector<Level> levels_;
};

} // namespace

int json_line(std::string_view text, std::string_view pointer) { return Scanner(text, pointer).scan(); }

} // namespace fulmox

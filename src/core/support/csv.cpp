#include "core/support/csv.hpp"

#include <algorithm>

namespace fulmox {
namespace {

class Reader {
public:
  Reader(std::string_view text, char separator) : text_(text), separator_(separator) {
    if (text_.starts_with("\xEF\xBB\xBF")) text_.remove_prefix(3); // byte order mark written by spreadsheets
  }

  CsvRead rows() {
    CsvRead all;
    while (pos_ < text_.size()) {
      if (skip_comment()) continue;
      CsvRow row;
      do {
        auto cell = next_cell();
        if (!cell) {
          all.problem = cell.problem();
          return all;
        }
        row.push_back(std::move(*cell));
      } while (take(separator_));
      end_line();
      if (row.size() > 1 || !row.front().text.empty()) all.rows.push_back(std::move(row));
    }
    return all;
  }

private:
  bool take(char wanted) {
    if (pos_ >= text_.size() || text_[pos_] != wanted) return false;
    ++pos_;
    return true;
  }

  void end_line() {
    take('\r');
    if (take('\n')) ++line_;
  }

  bool skip_comment() {
    if (text_[pos_] != '#') return false;
    while (pos_ < text_.size() && text_[pos_] != '\n') ++pos_;
    end_line();
    return true;
  }

  Expected<CsvCell> next_cell() {
    CsvCell cell{"", line_};
    if (take('"')) return quoted(std::move(cell));
    const std::size_t start = pos_;
    while (pos_ < text_.size() && text_[pos_] != separator_ && text_[pos_] != '\n' && text_[pos_] != '\r')
      ++pos_;
    cell.text = std::string(text_.substr(start, pos_ - start));
    // a lone carriage return inside a line is part of no format we know: skip it
    while (pos_ < text_.size() && text_[pos_] == '\r' &&
           (pos_ + 1 >= text_.size() || text_[pos_ + 1] != '\n'))
      ++pos_;
    return cell;
  }

  Expected<CsvCell> quoted(CsvCell cell) {
    for (;;) {
      if (pos_ >= text_.size())
        return Problem{"line " + std::to_string(cell.line), "a quote is opened but never closed.",
                       "Add the closing quote."};
      const char c = text_[pos_++];
      if (c == '\n') ++line_;
      if (c != '"') {
        cell.text += c;
        continue;
      }
      if (take('"')) {
        cell.text += '"';
        continue;
      }
      const bool ends =
          pos_ >= text_.size() || text_[pos_] == separator_ || text_[pos_] == '\r' || text_[pos_] == '\n';
      if (!ends)
        return Problem{"line " + std::to_string(line_), "there is text after a closing quote.",
                       "Double the quotes inside a quoted cell."};
      return cell;
    }
  }

  std::string_view text_;
  char separator_;
  std::size_t pos_ = 0;
  int line_ = 1;
};

} // namespace

CsvRead read_csv_rows(std::string_view text, char separator) { return Reader(text, separator).rows(); }

Expected<std::vector<CsvRow>> read_csv(std::string_view text) {
  CsvRead read = read_csv_rows(text);
  if (read.problem) return *read.problem;
  return std::move(read.rows);
}

char guess_separator(std::string_view text) {
  std::size_t start = 0;
  while (start < text.size() && text[start] == '#') // remarks before the titles
    start = std::min(text.find('\n', start), text.size() - 1) + 1;
  const std::string_view first = text.substr(start, text.find('\n', start) - start);
  char best = ',';
  for (const char candidate : {',', ';', '\t'})
    if (std::count(first.begin(), first.end(), candidate) > std::count(first.begin(), first.end(), best))
      best = candidate;
  return best;
}

std::string csv_cell(std::string_view text) {
  if (text.find_first_of(",\"\r\n") == std::string_view::npos && !text.starts_with('#'))
    return std::string(text);
  std::string out = "\"";
  for (const char c : text) out += c == '"' ? std::string("\"\"") : std::string(1, c);
  return out + "\"";
}

} // namespace fulmox

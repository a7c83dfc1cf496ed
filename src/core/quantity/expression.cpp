#include "core/quantity/expression.hpp"

#include "core/quantity/constants.hpp"
#include "core/quantity/units.hpp"
#include "core/support/utf8.hpp"

#include <charconv>
#include <cmath>
#include <cstring>

namespace fulmox {
namespace {

using Value = ExpressionValue;
using Failure = ExpressionFailure;

bool is_letter(unsigned char c) { return std::isalpha(c) || c >= 0x80 || c == '%'; }

class Parser {
public:
  explicit Parser(std::string_view text) : text_(text) {}

  Value whole() {
    Value value = sum();
    skip();
    if (pos_ < text_.size()) {
      if (text_[pos_] == ',')
        throw Failure{pos_, "a comma is not a decimal mark here.", "Write 0.5, not 0,5."};
      throw Failure{pos_, "cannot read '" + shortened(text_.substr(pos_)) + "'.",
                    "Write a number and a unit, like 2*4.5 kg."};
    }
    return value;
  }

  static void unbind(Value& value, std::size_t at) {
    if (value.offset != 0.0)
      throw Failure{at, "a temperature in °C or °F cannot be part of a calculation.",
                    "Write it alone, or use K."};
  }

  static Value multiply(const Value& a, const Value& b, std::size_t at) {
    Value out;
    out.number = a.number * b.number;
    for (std::size_t i = 0; i < out.dimension.size(); ++i)
      out.dimension[i] = power_of(a.dimension[i] + b.dimension[i], at);
    out.bare = a.bare && b.bare;
    if (a.bare) {
      out.only = b.only;
      if (b.offset != 0.0) {
        out.offset = b.offset;
        out.number = (a.number + b.offset) * b.number;
      }
    } else if (b.bare) {
      out.only = a.only;
      Value copy = a;
      unbind(copy, at);
    } else if (a.offset != 0.0 || b.offset != 0.0) {
      throw Failure{at, "a temperature in °C or °F cannot be multiplied.",
                    "Use K for temperature differences."};
    }
    return out;
  }

private:
  static constexpr int max_depth = 100;

  /// No quantity has a unit to a power like this, and the numbers that hold it end soon after.
  static std::int8_t power_of(int sum, std::size_t at) {
    constexpr int highest = 40;
    if (std::abs(sum) > highest)
      throw Failure{at, "the unit is multiplied too often.", "Write a number and a unit, like 5 mm."};
    return static_cast<std::int8_t>(sum);
  }

  void skip() {
    while (pos_ < text_.size() && std::string_view(" \t\r\n").find(text_[pos_]) != std::string_view::npos)
      ++pos_;
  }

  bool take(std::string_view token) {
    skip();
    if (!text_.substr(pos_).starts_with(token)) return false;
    pos_ += token.size();
    return true;
  }

  Value sum() {
    Value left = product();
    for (;;) {
      skip();
      const std::size_t at = pos_;
      const bool minus = take("-") || take("−");
      if (!minus && !take("+")) return left;
      Value right = product();
      if (left.dimension != right.dimension)
        throw Failure{at, "cannot add values of different dimension.", "Give both the same kind of unit."};
      unbind(left, at);
      unbind(right, at);
      left.number += minus ? -right.number : right.number;
      left.bare = left.bare && right.bare;
    }
  }

  Value product() {
    Value left = signed_factor();
    for (;;) {
      skip();
      const std::size_t at = pos_;
      if (take("*") || take("·") || take("×"))
        left = multiply(left, signed_factor(), at);
      else if (take("/"))
        left = divide(left, signed_factor(), at);
      else if (pos_ < text_.size() && is_letter(static_cast<unsigned char>(text_[pos_])) &&
               !starts_operator())
        left = multiply(left, unit(), at);
      else
        return left;
    }
  }

  bool starts_operator() const {
    const std::string_view rest = text_.substr(pos_);
    return rest.starts_with("·") || rest.starts_with("×") || rest.starts_with("−") || rest.starts_with("±");
  }

  static Value divide(const Value& a, const Value& b, std::size_t at) {
    if (b.number == 0.0) throw Failure{at, "division by zero.", "Change the divisor."};
    Value inverse;
    inverse.number = 1.0 / b.number;
    inverse.bare = b.bare;
    for (std::size_t i = 0; i < inverse.dimension.size(); ++i)
      inverse.dimension[i] = static_cast<std::int8_t>(-b.dimension[i]);
    if (b.offset != 0.0) throw Failure{at, "cannot divide by °C or °F.", "Use K."};
    Value out = multiply(a, inverse, at);
    // a.number / b.number rounds once where the product of the inverse rounds twice
    if (out.offset == 0.0) out.number = a.number / b.number;
    if (!b.bare) out.only = Kind::count_;
    return out;
  }

  Value signed_factor() {
    skip();
    const std::size_t at = pos_;
    if (++depth_ > max_depth) throw Failure{at, "too deeply nested.", "Write a simpler expression."};
    Value value;
    if (take("-") || take("−")) {
      value = signed_factor();
      value.number = -value.number;
    } else if (take("+")) {
      value = signed_factor();
    } else {
      value = power();
    }
    --depth_;
    return value;
  }

  Value power() {
    Value base = primary();
    skip();
    const std::size_t at = pos_;
    if (!take("^")) return attach_unit(base);
    skip();
    const int exponent = integer();
    if (!base.bare)
      throw Failure{at, "only plain numbers can be raised here.", "Write the power on the unit, like mm2."};
    base.number = std::pow(base.number, exponent);
    return attach_unit(base);
  }

  /// A unit that follows a number directly binds to it before * and / do.
  Value attach_unit(Value value) {
    skip();
    const std::size_t at = pos_;
    if (value.bare && pos_ < text_.size() && is_letter(static_cast<unsigned char>(text_[pos_])) &&
        !starts_operator())
      return multiply(value, unit_product(), at);
    return value;
  }

  int integer() {
    const char* first = text_.data() + pos_;
    int value = 0;
    const auto [end, error] = std::from_chars(first, text_.data() + text_.size(), value);
    if (error != std::errc{} || value < -9 || value > 9)
      throw Failure{pos_, "expected a whole exponent between -9 and 9.", ""};
    pos_ += static_cast<std::size_t>(end - first);
    return value;
  }

  Value primary() {
    skip();
    if (pos_ >= text_.size())
      throw Failure{pos_, "something is missing here.", "Write a number and a unit, like 5 mm."};
    const std::size_t at = pos_;
    if (take("(")) {
      Value inner = sum();
      if (!take(")")) throw Failure{pos_, "a closing bracket is missing.", "Add )."};
      return inner;
    }
    if (take("π") || take_word("pi")) return Value{constants::pi, {}, Kind::count_, 0.0, true};
    if (std::isdigit(static_cast<unsigned char>(text_[pos_])) || text_[pos_] == '.') return number();
    if (is_letter(static_cast<unsigned char>(text_[pos_]))) return unit_product();
    throw Failure{at, "cannot read '" + shortened(text_.substr(at)) + "'.",
                  "Write a number and a unit, like 5 mm."};
  }

  bool take_word(std::string_view word) {
    if (!text_.substr(pos_).starts_with(word)) return false;
    const std::size_t after = pos_ + word.size();
    if (after < text_.size() && is_letter(static_cast<unsigned char>(text_[after]))) return false;
    pos_ = after;
    return true;
  }

  Value number() {
    const char* first = text_.data() + pos_;
    double value = 0.0;
    const auto [end, error] = std::from_chars(first, text_.data() + text_.size(), value);
    if (error == std::errc::result_out_of_range)
      throw Failure{pos_, "the number is too large or too small.", "Check the exponent."};
    if (error != std::errc{}) throw Failure{pos_, "this is not a number.", "Write digits, like 4.5."};
    pos_ += static_cast<std::size_t>(end - first);
    if (pos_ < text_.size() && text_[pos_] == ',')
      throw Failure{pos_, "a comma is not a decimal mark here.", "Write 0.5, not 0,5."};
    if (pos_ < text_.size() && (std::isdigit(static_cast<unsigned char>(text_[pos_])) || text_[pos_] == '.'))
      throw Failure{pos_, "this is not a number.", "Write one decimal point at most."};
    return Value{value, {}, Kind::count_, 0.0, true};
  }

  /// Units joined by a point without spaces ("ozf.in", "N·m"): tighter than * and /.
  Value unit_product() {
    Value left = unit();
    for (;;) {
      const std::string_view rest = text_.substr(pos_);
      std::size_t width = 0;
      if (rest.starts_with(".")) width = 1;
      if (rest.starts_with("·")) width = std::strlen("·");
      if (width == 0 || rest.size() <= width || !is_letter(static_cast<unsigned char>(rest[width])))
        return left;
      const std::size_t at = pos_;
      pos_ += width;
      left = multiply(left, unit(), at);
    }
  }

  Value unit() {
    skip();
    const std::size_t start = pos_;
    while (pos_ < text_.size() && is_letter(static_cast<unsigned char>(text_[pos_])) &&
           !starts_superscript() && !starts_operator())
      ++pos_;
    const std::string_view word = text_.substr(start, pos_ - start);
    // "kgcm2" is one symbol: try the letters with their digit before reading the digit as an exponent
    if (pos_ < text_.size() && std::isdigit(static_cast<unsigned char>(text_[pos_]))) {
      const std::string_view with_digit = text_.substr(start, pos_ + 1 - start);
      if (const auto exact = find_unit(with_digit)) {
        ++pos_;
        return from_unit(*exact, 1, start);
      }
    }
    const auto found = find_unit(word);
    if (!found) throw unknown_unit(start, word);
    return from_unit(*found, exponent(), start);
  }

  static Failure unknown_unit(std::size_t at, std::string_view word) {
    std::string hint = "Known are for example mm, kg, N, N·m, rpm, kg·cm2, ozf·in.";
    if (word == "oz-in" || word == "ozin") hint = "For a torque write ozf.in.";
    if (word == "lbin" || word == "inlb") hint = "For a torque write lbf.in.";
    return {at, "unknown unit '" + shortened(word) + "'.", hint};
  }

  static Value from_unit(const Unit& unit, int exponent, std::size_t at) {
    Value value;
    value.bare = false;
    value.number = std::pow(unit.factor, exponent);
    for (std::size_t i = 0; i < value.dimension.size(); ++i)
      value.dimension[i] = static_cast<std::int8_t>(unit.dimension[i] * exponent);
    if (exponent == 1) {
      value.only = unit.only;
      value.offset = unit.offset;
    } else if (unit.offset != 0.0) {
      throw Failure{at, "a temperature scale cannot be raised.", "Use K."};
    }
    return value;
  }

  bool starts_superscript() const {
    const std::string_view rest = text_.substr(pos_);
    return rest.starts_with("²") || rest.starts_with("³") || rest.starts_with("⁻");
  }

  int exponent() {
    if (take_here("⁻"))
      return take_here("¹") ? -1 : take_here("²") ? -2 : take_here("³") ? -3 : throw bad_exponent();
    if (take_here("²")) return 2;
    if (take_here("³")) return 3;
    if (pos_ < text_.size() && text_[pos_] == '^') {
      ++pos_;
      return integer();
    }
    const bool digit = pos_ < text_.size() && std::isdigit(static_cast<unsigned char>(text_[pos_]));
    return digit ? integer() : 1;
  }

  Failure bad_exponent() const { return {pos_, "expected an exponent.", "Write m/s2 or m·s^-2."}; }

  bool take_here(std::string_view token) {
    if (!text_.substr(pos_).starts_with(token)) return false;
    pos_ += token.size();
    return true;
  }

  std::string_view text_;
  std::size_t pos_ = 0;
  int depth_ = 0;
};

/// Start of the trailing unit when everything before it is a calculation with plain numbers, else npos.
std::size_t trailing_unit(std::string_view text) {
  for (std::size_t i = 0; i < text.size(); ++i) {
    const auto c = static_cast<unsigned char>(text[i]);
    const std::string_view rest = text.substr(i);
    if (rest.starts_with("π") || rest.starts_with("·") || rest.starts_with("×") || rest.starts_with("−")) {
      ++i;
      if (rest.starts_with("−")) ++i;
      continue;
    }
    if (rest.starts_with("pi") && (rest.size() == 2 || !is_letter(static_cast<unsigned char>(rest[2])))) {
      ++i;
      continue;
    }
    const bool exponent =
        (c == 'e' || c == 'E') && i > 0 &&
        (std::isdigit(static_cast<unsigned char>(text[i - 1])) || text[i - 1] == '.') &&
        i + 1 < text.size() &&
        (std::isdigit(static_cast<unsigned char>(text[i + 1])) || text[i + 1] == '-' || text[i + 1] == '+');
    if (exponent) continue;
    if (is_letter(c)) return i;
  }
  return std::string_view::npos;
}

/// The unit at the end of "3 kg + 2 kg" or "(2 + 3) kg" when it has the dimension of the whole, else "".
std::string last_unit(std::string_view text, const Dimension& dimension) {
  const auto before = text.find_last_of("0123456789) ", text.find_last_not_of("0123456789 "));
  const std::string unit = trimmed(before == std::string_view::npos ? text : text.substr(before + 1));
  try {
    const Value value = Parser(unit).whole();
    return !value.bare && value.dimension == dimension ? unit : "";
  } catch (const Failure&) {
    return "";
  }
}

} // namespace

/// "2*4.5 kg" and "2+3 kg" mean (2*4.5) kg and (2+3) kg: a lone trailing unit covers all before it.
ExpressionValue evaluate_expression(std::string_view text, std::string& unit_text) {
  const std::size_t at = trailing_unit(text);
  if (at != std::string_view::npos && at > 0) {
    const std::string_view before = text.substr(0, at);
    const std::string_view after = text.substr(at);
    const bool lone =
        after.find_first_of("+-*(") == std::string_view::npos && before.find('(') == before.npos;
    const bool open =
        before.find_last_not_of(" \t") != before.npos &&
        std::string_view("+-*/^(").find(before[before.find_last_not_of(" \t")]) != std::string_view::npos;
    bool digits_after_slash = false;
    for (std::size_t i = after.find('/'); i != after.npos; i = after.find('/', i + 1)) {
      const auto next = after.find_first_not_of(' ', i + 1);
      digits_after_slash |= next != after.npos && std::isdigit(static_cast<unsigned char>(after[next]));
    }
    if (lone && !open && !digits_after_slash) {
      unit_text = trimmed(after);
      const Value number = Parser(before).whole();
      try {
        return Parser::multiply(number, Parser(after).whole(), at);
      } catch (Failure& failure) {
        failure.at += at;
        throw;
      }
    }
  }
  const ExpressionValue value = Parser(text).whole();
  if (!value.bare) unit_text = last_unit(text, value.dimension);
  return value;
}

ExpressionValue evaluate_in_unit(std::string_view number_text, std::string_view unit) {
  return Parser("(" + std::string(number_text) + ")" + std::string(unit)).whole();
}

} // namespace fulmox

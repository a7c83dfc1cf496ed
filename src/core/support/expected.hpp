#pragma once
#include <string>
#include <utility>
#include <variant>

namespace fulmox {

/// A mistake of the user or of the world, told as a value: where it is, what is wrong, how to mend it.
struct Problem {
  std::string where;  ///< field path, file:line, or column of a typed text
  std::string what;   ///< what is wrong, in the user's terms
  std::string remedy; ///< what to do about it

  [[nodiscard]] std::string text() const {
    std::string all = where.empty() ? what : where + ": " + what;
    if (!remedy.empty()) all += " " + remedy;
    return all;
  }
  bool operator==(const Problem&) const = default;
};

/// Either a value or the problem that kept it from being one.
template <class T> class Expected {
public:
  Expected(T value) : content_(std::move(value)) {}
  Expected(Problem problem) : content_(std::move(problem)) {}
  explicit operator bool() const { return std::holds_alternative<T>(content_); }
  const T& operator*() const { return std::get<T>(content_); }
  T& operator*() { return std::get<T>(content_); }
  const T* operator->() const { return &std::get<T>(content_); }
  [[nodiscard]] const Problem& problem() const { return std::get<Problem>(content_); }

private:
  std::variant<T, Problem> content_;
};

} // namespace fulmox

#pragma once
#include "core/working/formula.hpp"

#include <initializer_list>
#include <span>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace fulmox {

/// A number together with where it came from: an input path ("mechanism.lead") or the id of an earlier step.
struct Term {
  double value = 0.0;
  std::string_view ref; ///< "" for a constant or the state of motion at one moment
  operator double() const { return value; }
};

/// How a step is found again, and told where its formula's own title is too general ("" = that title). Both
/// must outlive the program (literal or interned).
struct StepName {
  std::string_view id;
  std::string_view title;
  constexpr StepName(const char* id_) : id(id_) {}
  constexpr StepName(std::string_view id_, std::string_view title_ = {}) : id(id_), title(title_) {}
};

/// One worked step: a formula, the numbers put in, the result.
struct Step {
  std::string_view id;
  std::string_view title; ///< what it gives, in words
  const Formula* formula = nullptr;
  std::vector<Term> terms;
  double value = 0.0;
  std::string note;             ///< a choice or a moment worth saying, "" otherwise
  Kind plain_as = Kind::number; ///< what plain numbers among the terms stand for: a used share compares any
};

/// Applies formulas and, when switched on, writes down each step. Off, it costs a function call.
class Recorder {
public:
  explicit Recorder(bool on) : on_(on) {
    if (on) steps_.reserve(usual_steps);
  }

  /// Computes the formula. The step gets the id `scope + id`.
  Term apply(const Formula& formula, StepName name, std::initializer_list<Term> terms) {
    return apply(formula, name, std::span<const Term>(terms.begin(), terms.size()));
  }
  Term apply(const Formula& formula, StepName name, std::span<const Term> terms) {
    // inline and without a heap: every study runs through here a hundred thousand times
    if (on_ || terms.size() > usual) return write(formula, name, terms);
    double values[usual]; // NOLINT(cppcoreguidelines-pro-type-member-init): filled just below
    for (std::size_t i = 0; i < terms.size(); ++i) values[i] = terms[i].value;
    return {formula.compute({values, terms.size()}), name.id};
  }

  /// The same for the innermost calculations: `Function`, the one behind the formula, is called directly
  /// when nothing is written down.
  template <auto Function, class... Terms>
  Term apply(const Formula& formula, StepName name, const Terms&... terms) {
    if (on_) return write(formula, name, std::initializer_list<Term>{Term(terms)...});
    return {Function(static_cast<double>(terms)...), name.id};
  }

  /// Adds a remark to the step written last.
  void note(std::string text);
  /// Says what the plain numbers of the step written last stand for.
  void plain_numbers_are(Kind kind);

  [[nodiscard]] bool on() const { return on_; }
  [[nodiscard]] const std::vector<Step>& steps() const { return steps_; }
  std::vector<Step> take() { return std::move(steps_); }

  /// While alive, ids of new steps start with the prefix, within that of the scope around it: the same chain
  /// at another moment gets other ids.
  class Scope {
  public:
    Scope(Recorder& recorder, std::string_view prefix)
        : recorder_(recorder), outer_(recorder.prefix_.size()) {
      if (recorder.on_) recorder.prefix_ += prefix;
    }
    ~Scope() { recorder_.prefix_.resize(outer_); }
    Scope(const Scope&) = delete;
    Scope& operator=(const Scope&) = delete;

  private:
    Recorder& recorder_;
    std::size_t outer_;
  };

private:
  static constexpr std::size_t usual = 16; ///< terms of a formula; lists may have more
  static constexpr std::size_t usual_steps = 512;
  Term write(const Formula& formula, StepName name, std::span<const Term> terms);
  Term write(const Formula& formula, StepName name, std::initializer_list<Term> terms) {
    return write(formula, name, std::span<const Term>(terms.begin(), terms.size()));
  }

  bool on_;
  std::string prefix_;
  std::vector<Step> steps_;
};

} // namespace fulmox

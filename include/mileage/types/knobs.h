// Knobs: named settings, and the values of one run.
#pragma once

#include <cstdint>
#include <map>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace mileage {

using KnobValue = std::variant<double, std::string>;

/// `default_value` in [min, max].
struct RealRange {
  double default_value = 0;
  double min = 0;
  double max = 1;
  const char* unit = "";  ///< Empty for a pure number.
};
struct IntegerRange {
  std::int64_t default_value = 0;
  std::int64_t min = 0;
  std::int64_t max = 1;
  const char* unit = "";
};

/// A setting of a scenario or variant.
struct Knob {
  std::string name;     ///< Lower case, no spaces; unique in a scenario.
  std::string meaning;  ///< One line.
  std::string unit;     ///< Empty for a pure number.
  double min = 0;
  double max = 0;
  bool whole = false;
  std::vector<std::string> choices;  ///< Empty for a numeric knob.
  KnobValue default_value = 0.0;
  bool splits_count = false;         ///< The count is split among this number, e.g. kinds.
  std::vector<std::string> affects;  ///< Variants that it changes; empty: all. Others are measured once.

  static Knob real(std::string name, std::string meaning, RealRange range);
  static Knob integer(std::string name, std::string meaning, IntegerRange range);
  /// `choices` must not be empty; the first is the default.
  static Knob choice(std::string name, std::string meaning, std::vector<std::string> choices);

  Knob affecting(std::vector<std::string> variants) const;
  Knob splitting_count() const;

  bool numeric() const { return choices.empty(); }
  bool is_affecting(std::string_view variant) const;
};

/// Values by name.
class Knobs {
 public:
  void set(const std::string& name, KnobValue value) { values_[name] = std::move(value); }
  bool has(std::string_view name) const { return values_.find(name) != values_.end(); }

  /// An undeclared or non-numeric knob fails the run with its name.
  double number(std::string_view name) const;
  /// number(), rounded.
  std::int64_t whole(std::string_view name) const;
  /// Errors as for number().
  const std::string& text(std::string_view name) const;

  const std::map<std::string, KnobValue, std::less<>>& values() const { return values_; }
  bool operator==(const Knobs& other) const { return values_ == other.values_; }
  bool operator!=(const Knobs& other) const { return values_ != other.values_; }
  bool operator<(const Knobs& other) const { return values_ < other.values_; }

 private:
  std::map<std::string, KnobValue, std::less<>> values_;
};

}  // namespace mileage

// Knobs: the named settings of a scenario or a variant, and the values that one run was given for them.
#pragma once

#include <cstdint>
#include <map>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace mileage {

/// A knob's value: a number, or one of a few named values.
using KnobValue = std::variant<double, std::string>;

/// Default, limits and unit of a numeric knob; `default_value` in [min, max].
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

/// A setting of a scenario or a variant. Made by one of the three functions below; the fields are there to be read.
struct Knob {
  std::string name;                  ///< Lower case, no spaces; unique within a scenario and its variants.
  std::string meaning;               ///< One line for `mileage list`.
  std::string unit;                  ///< Unit of a numeric knob; empty for a pure number.
  double min = 0;                    ///< Smallest accepted number.
  double max = 0;                    ///< Largest accepted number.
  bool whole = false;                ///< Whether only whole numbers are accepted.
  std::vector<std::string> choices;  ///< Accepted names; empty for a numeric knob.
  KnobValue default_value = 0.0;
  bool splits_count = false;         ///< Whether the count is split among this many, such as kinds of lanterns.
  std::vector<std::string> affects;  ///< Variants whose work it changes; empty means all. Others are measured once.

  /// A knob that takes any number of a range.
  static Knob real(std::string name, std::string meaning, RealRange range);
  /// A knob that takes whole numbers of a range.
  static Knob integer(std::string name, std::string meaning, IntegerRange range);
  /// A knob that takes one of `choices`, which must not be empty; the first one is the default.
  static Knob choice(std::string name, std::string meaning, std::vector<std::string> choices);

  /// The same knob for these variants only.
  Knob affecting(std::vector<std::string> variants) const;
  /// The same knob with splits_count.
  Knob splitting_count() const;

  bool numeric() const { return choices.empty(); }
  bool is_affecting(std::string_view variant) const;
};

/// The values of a set of knobs, by name. A plain value; comparable, so that series differ significantly.
class Knobs {
 public:
  void set(const std::string& name, KnobValue value) { values_[name] = std::move(value); }
  bool has(std::string_view name) const { return values_.find(name) != values_.end(); }

  /// The value of a numeric knob. Asking for a knob that the scenario does not declare, or for a named one, is a
  /// mistake in the variant: the run fails and its record names the knob.
  double number(std::string_view name) const;
  /// As number(), rounded to the nearest whole number.
  std::int64_t whole(std::string_view name) const;
  /// The value of a knob with named values; mistakes are treated as in number().
  const std::string& text(std::string_view name) const;

  const std::map<std::string, KnobValue, std::less<>>& values() const { return values_; }
  bool operator==(const Knobs& other) const { return values_ == other.values_; }
  bool operator!=(const Knobs& other) const { return values_ != other.values_; }
  bool operator<(const Knobs& other) const { return values_ < other.values_; }

 private:
  std::map<std::string, KnobValue, std::less<>> values_;
};

}  // namespace mileage

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

/// Declares a knob. Made by one of the three functions below; the fields are there to be read.
struct Knob {
  std::string name;                  ///< Lower case, no spaces; unique within a scenario and its variants.
  std::string meaning;               ///< One line for `mileage list`.
  std::string unit;                  ///< Unit of a numeric knob; empty for a pure number.
  double least = 0;                  ///< Smallest accepted number.
  double most = 0;                   ///< Largest accepted number.
  bool whole = false;                ///< Only whole numbers are accepted.
  std::vector<std::string> choices;  ///< Accepted names; empty for a numeric knob.
  KnobValue preset = 0.0;            ///< Value when nobody says otherwise.
  bool divides =
      false;  ///< Whether the count is shared out among so many; break-evens are then given for one of them, too.
  std::vector<std::string> touches;  ///< Variants whose work it changes; empty means all. Others are measured once.

  /// A knob that takes any number in [least, most].
  static Knob real(std::string name, std::string meaning, double preset, double least, double most);
  /// A knob that takes whole numbers in [least, most].
  static Knob integer(std::string name, std::string meaning, std::int64_t preset, std::int64_t least,
                      std::int64_t most);
  /// A knob that takes one of `choices`; the first one is the preset. `choices` must not be empty.
  static Knob choice(std::string name, std::string meaning, std::vector<std::string> choices);

  /// The same knob, touching only these variants.
  Knob touching(std::vector<std::string> variants) const;
  /// The same knob, among whose number the count is shared out: `kinds` of lanterns.
  Knob dividing() const;
  /// The same knob with a unit.
  Knob in(std::string unit_name) const;

  bool numeric() const { return choices.empty(); }
  bool is_touching(std::string_view variant) const;
};

/// The values of a set of knobs, by name. A plain value; comparable, so that series can be told apart.
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

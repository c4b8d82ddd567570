// What a scenario may be, wherever it comes from: a catalogue, a plan file, another program.
#pragma once

#include <string>
#include <vector>

#include "mileage/types/catalogue.h"

namespace mileage {

/// Longest name of a scenario, variant or knob in bytes, and most variants and knobs of a scenario.
inline constexpr std::size_t longest_name = 64;
inline constexpr std::size_t max_variants = 1000;
inline constexpr std::size_t max_knobs = 100;

/// Lower case letters, digits, dashes and underscores, at most longest_name of them.
bool is_plain_name(const std::string& name);
/// The nearest plain name to a text such as the name of a file; "scenario" where none of it is plain.
std::string plain_name(const std::string& text);

/// What is wrong with a part of a scenario.
struct Mistake {
  std::string where;  ///< "" for the scenario itself, "variant.NAME" or "knob.NAME" for a part of it.
  std::string field;  ///< Such as "default".
  std::string problem;
  std::string found;     ///< May be empty.
  std::string accepted;  ///< May be empty.

  /// "knob.wind: default: outside its range; found 9; accepted: a number from 0 to 5".
  std::string text() const;
};

/// Of a scenario's own fields and knobs. Which variants its knobs touch is not looked at: a library that is not there
/// may have them.
std::vector<Mistake> mistakes_in_work(const Scenario& scenario);
/// Of a variant beside its scenario.
std::vector<Mistake> mistakes_in_variant(const VariantFacts& facts, const Scenario& scenario);
/// Of a scenario that is whole: all of these, double variants, knobs that touch variants it has not, a reference it has
/// not.
std::vector<Mistake> mistakes_in(const Scenario& scenario);

}  // namespace mileage

// Validity of scenarios from catalogues, plan files and programs.
#pragma once

#include <string>
#include <vector>

#include "mileage/types/catalogue.h"

namespace mileage {

/// In bytes.
inline constexpr std::size_t longest_name = 64;
inline constexpr std::size_t max_variants = 1000;
inline constexpr std::size_t max_knobs = 100;

/// Lower case letters, digits, dashes, underscores.
bool is_plain_name(const std::string& name);
/// "scenario" if nothing remains.
std::string plain_name(const std::string& text);

struct Mistake {
  std::string where;  ///< "", "variant.NAME" or "knob.NAME".
  std::string field;  ///< Such as "default".
  std::string problem;
  std::string found;
  std::string accepted;

  /// "knob.wind: default: outside its range; found 9; accepted: a number from 0 to 5".
  std::string text() const;
};

/// Fields and knobs only: affected variants may come from another library.
std::vector<Mistake> mistakes_in_work(const Scenario& scenario);
std::vector<Mistake> mistakes_in_variant(const VariantFacts& facts, const Scenario& scenario);
/// Of a complete scenario, with duplicates and unknown variants.
std::vector<Mistake> mistakes_in(const Scenario& scenario);

}  // namespace mileage

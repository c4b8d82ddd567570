// Simulated machines that share no form and no constant with the analysis: hidden states with random lengths, through
// which frames are integrated. For checking that 95 % means 95 %.
#pragma once

#include <cstdint>
#include <functional>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "study/study.h"

namespace mileage::foreign {

enum class Family {
  neighbour,      ///< A program on the sibling thread comes and goes: two kinds of slow, lengths with heavy tails.
  busy_programs,  ///< Programs on the same cores: slices of a scheduler, waiting, caches that are cold after each.
  drifting_clock  ///< The frequency drifts slowly, with bursts of throttling.
};
inline constexpr Family families[]{Family::neighbour, Family::busy_programs, Family::drifting_clock};
const char* name_of(Family family);

/// How much of the time the machine is disturbed.
enum class Load { quiet, some, heavy, always };
inline constexpr Load loads[]{Load::quiet, Load::some, Load::heavy, Load::always};
const char* name_of(Load load);

/// What is true of the variants: "objects", "records" (in every third world equal to objects) and "columns" (a larger
/// fixed cost, faster at large counts).
struct Truth {
  std::map<std::string, std::function<double(double)>> ms;  ///< Frame time at a count, undisturbed.
  bool are_equal = false;                                   ///< objects and records.

  double capacity(const std::string& variant, double budget_ms) const;
  /// The only place in a range from which `to` is faster; nothing where curves cross never, several times or the other
  /// way.
  std::optional<double> break_even(const std::string& from, const std::string& to, double min, double max) const;
  /// From where on `to` saves this much up to `max`; nothing where it does not at `max`.
  std::optional<double> pays_off_from(const std::string& from, const std::string& to, double saving_ms, double min,
                                      double max) const;
};

struct Simulated {
  Study study;
  Truth truth;
};

/// A study of some 25 cells, ten counts for each variant, in blocks of shuffled runs of about 20 ms. The same seed
/// gives the same study.
Simulated simulate(Family family, Load load, int blocks, std::uint64_t seed);

}  // namespace mileage::foreign

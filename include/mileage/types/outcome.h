// Outcome: the resulting world, for comparison between variants.
#pragma once

#include <initializer_list>
#include <string>
#include <vector>

namespace mileage {

struct Quantity {
  std::string name;  ///< "mean height", "lantern 17 x".
  double value = 0;
  double tolerance = 0;  ///< Relative to the larger magnitude or `scale`.
  double scale = 0;      ///< Smaller magnitudes count as zero; 0 for none.
};

/// Aggregates, spreads and samples of entities. Variants with equal set-up and frames must agree, so that skipped work
/// shows.
class Outcome {
 public:
  Outcome() = default;
  Outcome(std::initializer_list<Quantity> quantities) : quantities_(quantities) {}

  /// `tolerance` >= 0 is relative; set `scale` for values near zero.
  void state(std::string name, double value, double tolerance, double scale = 0);

  const std::vector<Quantity>& quantities() const { return quantities_; }
  bool empty() const { return quantities_.empty(); }

 private:
  std::vector<Quantity> quantities_;
};

/// Beyond tolerance, missing, or not a number.
struct Disagreement {
  std::string quantity;
  double expected = 0;   ///< Reference; NaN if missing.
  double found = 0;      ///< NaN if missing.
  double tolerance = 0;  ///< Absolute.
};

/// In the reference's order, with its tolerances. NaN and infinity agree with nothing. Linear.
std::vector<Disagreement> disagreements(const Outcome& reference, const Outcome& other);

}  // namespace mileage

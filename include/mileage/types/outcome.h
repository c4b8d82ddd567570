// Outcome: what a variant says its world looks like, and the comparison of two such statements.
#pragma once

#include <initializer_list>
#include <string>
#include <vector>

namespace mileage {

/// One stated number of an outcome.
struct Quantity {
  std::string name;      ///< Such as "mean height" or "lantern 17 x".
  double value = 0;      ///< In the scenario's own unit.
  double tolerance = 0;  ///< Largest accepted difference, relative to the larger of both magnitudes and `scale`.
  double scale = 0;      ///< Magnitude below which the quantity counts as zero; 0 for none.
};

/// Aggregates, spreads and a sample of single entities after some frames. Variants of one scenario that were given the
/// same set-up and the same number of frames must agree on it; a variant that does less work shows here.
class Outcome {
 public:
  Outcome() = default;
  /// The same as stating each of them.
  Outcome(std::initializer_list<Quantity> quantities) : quantities_(quantities) {}

  /// Adds a quantity. `tolerance` is relative and >= 0; give `scale` where values near zero are usual.
  void state(std::string name, double value, double tolerance, double scale = 0);

  const std::vector<Quantity>& quantities() const { return quantities_; }
  bool empty() const { return quantities_.empty(); }

 private:
  std::vector<Quantity> quantities_;
};

/// A quantity on which two outcomes differ by more than its tolerance, is missing in one of them, or is not a number.
struct Disagreement {
  std::string quantity;
  double expected = 0;   ///< The reference's value; NaN where it states none.
  double found = 0;      ///< The other's value; NaN where it states none.
  double tolerance = 0;  ///< Largest accepted difference, in the unit of the quantity.
};

/// All disagreements of `other` with `reference`, in the reference's order; tolerances and scales are the reference's.
/// Empty when they agree. A value that is NaN or infinite agrees with nothing. Linear in the number of quantities
/// apart from the look-up by name.
std::vector<Disagreement> disagreements(const Outcome& reference, const Outcome& other);

}  // namespace mileage

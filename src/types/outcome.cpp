#include "mileage/types/outcome.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <utility>

namespace mileage {
namespace {

constexpr double missing = std::numeric_limits<double>::quiet_NaN();

bool agree(double a, double b, double largest_difference) {
  return std::isfinite(a) && std::isfinite(b) && std::fabs(a - b) <= largest_difference;
}

std::map<std::string, double> by_name(const Outcome& outcome) {
  std::map<std::string, double> values;
  for (const Quantity& quantity : outcome.quantities()) values[quantity.name] = quantity.value;
  return values;
}

}  // namespace

void Outcome::state(std::string name, double value, double tolerance, double scale) {
  quantities_.push_back({std::move(name), value, tolerance, scale});
}

std::vector<Disagreement> disagreements(const Outcome& reference, const Outcome& other) {
  std::vector<Disagreement> differing;
  std::map<std::string, double> unmatched = by_name(other);
  for (const Quantity& expected : reference.quantities()) {
    const auto found = unmatched.find(expected.name);
    const double value = found == unmatched.end() ? missing : found->second;
    if (found != unmatched.end()) unmatched.erase(found);
    const double magnitude = std::max({std::fabs(expected.value), std::fabs(value), expected.scale});
    const double largest_difference = expected.tolerance * magnitude;
    if (!agree(expected.value, value, largest_difference))
      differing.push_back({expected.name, expected.value, value, largest_difference});
  }
  for (const auto& [name, value] : unmatched) differing.push_back({name, missing, value, 0});
  return differing;
}

}  // namespace mileage

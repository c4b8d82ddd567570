#include "measure/settling.h"

#include <algorithm>

namespace mileage {
namespace {

constexpr std::ptrdiff_t samples_without_new_low = 2;
constexpr double new_low = 0.95;

}  // namespace

bool has_settled(const std::vector<std::int64_t>& times_ns) {
  if (times_ns.size() >= most_warmup_samples) return true;
  if (static_cast<std::ptrdiff_t>(times_ns.size()) <= samples_without_new_low) return false;
  const auto recent = times_ns.end() - samples_without_new_low;
  const auto low_before = static_cast<double>(*std::min_element(times_ns.begin(), recent));
  const auto low_recent = static_cast<double>(*std::min_element(recent, times_ns.end()));
  return low_recent >= new_low * low_before;
}

}  // namespace mileage

#include "measure/in_process/settling.h"

#include "types/order_statistics.h"

namespace mileage {
namespace {

constexpr double still_falling = 0.98;

}  // namespace

bool is_warmed_up(const std::vector<std::int64_t>& times_ns) {
  if (times_ns.size() >= max_warmup_samples) return true;
  const auto third = static_cast<std::ptrdiff_t>(times_ns.size() / 3);
  if (third == 0) return false;
  const double last = median({times_ns.end() - third, times_ns.end()});
  const double before = median({times_ns.end() - 2 * third, times_ns.end() - third});
  return last >= still_falling * before;
}

}  // namespace mileage

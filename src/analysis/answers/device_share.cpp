#include "analysis/answers/device_share.h"

#include <algorithm>

#include "analysis/statistics/constants.h"

namespace mileage {

std::optional<DeviceShare> device_share(const CellDetail& detail, const VariantFacts& facts) {
  const auto waited = detail.phases_ms.find(wait_phase);
  if (facts.device.empty() || waited == detail.phases_ms.end()) return std::nullopt;
  const double wait_ms = waited->second;
  const auto timer = detail.counters.find(device_time_counter);
  const bool believed = timer != detail.counters.end() && timer->second >= min_timer_share * wait_ms &&
                        timer->second <= max_timer_share * wait_ms;
  return DeviceShare{std::max(0.0, detail.frame_ms - wait_ms), believed ? timer->second : wait_ms, believed,
                     facts.software_device};
}

}  // namespace mileage

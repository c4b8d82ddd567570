// When warm-up is over.
#pragma once

#include <cstdint>
#include <vector>

namespace mileage {

inline constexpr std::size_t max_warmup_samples = 60;

/// Whether the median of the last third is at most 2 % below that of the third before. Thirds grow, so that slow
/// descents show and single frames do not decide. At least three samples; true at the cap.
bool is_warmed_up(const std::vector<std::int64_t>& times_ns);

}  // namespace mileage

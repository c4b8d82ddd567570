// When warm-up is over.
#pragma once

#include <cstdint>
#include <vector>

namespace mileage {

/// Most samples that warm-up may take.
inline constexpr std::size_t max_warmup_samples = 60;

/// Whether a series of frame times has settled: the median of its last third lies no more than 2 % below the median of
/// the third before. Thirds grow with the series, so that a slow descent shows as well as a steep one, and one spike or
/// one lucky frame does not decide. At least three samples; true at the cap. A pure function of the times, usable while
/// measuring and afterwards. Linear in the number of samples.
bool is_warmed_up(const std::vector<std::int64_t>& times_ns);

}  // namespace mileage

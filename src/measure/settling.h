// When warm-up is over.
#pragma once

#include <cstdint>
#include <vector>

namespace mileage {

/// Most samples that warm-up may take.
inline constexpr std::size_t most_warmup_samples = 20;

/// Whether a series of frame times has settled: there are at least three, and the last two brought no new low of more
/// than 5 %, so that times have stopped falling; or the cap is reached. A pure function of the times, usable while
/// measuring and afterwards.
bool has_settled(const std::vector<std::int64_t>& times_ns);

}  // namespace mileage

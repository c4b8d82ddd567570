#pragma once

#include <algorithm>
#include <cstdint>
#include <vector>

namespace mileage::festival {

/// Up to this number of indices in [0, count), evenly spread from 0, for outcomes.
inline std::vector<std::int64_t> sampled(std::int64_t count, std::int64_t max) {
  const std::int64_t size = std::min(max, count);
  std::vector<std::int64_t> numbers;
  for (std::int64_t i = 0; i < size; ++i) numbers.push_back(i * count / size);
  return numbers;
}

}  // namespace mileage::festival

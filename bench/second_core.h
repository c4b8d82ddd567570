#pragma once

#include <cstdint>
#include <map>
#include <memory>
#include <string>

#include "in_pairs.h"
#include "measure/machine/clock.h"
#include "mileage/types/catalogue.h"
#include "support/default_set_up.h"
#include "types/unmarked.h"

namespace mileage {

/// Columns of 20 KB stay in L1.
inline constexpr std::int64_t near_lanterns = 512;

/// What a second core can gain now: ratio of two-core to one-core time for in-cache arithmetic, 500 times per frame.
inline PairedRatio arithmetic_on_two_cores(Clock& clock, const Factory& two, const Factory& one, int pairs) {
  const std::map<std::string, double> near{{"work", 500}, {"workers", 2}, {"batch", near_lanterns}};
  const auto frame_of = [&](const Factory& make) {
    return [&clock, world = std::shared_ptr<Variant>(make(drift_set_up(2 * near_lanterns, near)))] {
      Unmarked unmarked;
      Frame frame(unmarked);
      const std::int64_t start = clock.now_ns();
      world->run_frame(frame);
      return static_cast<double>(clock.now_ns() - start);
    };
  };
  return in_pairs(pairs, frame_of(two), frame_of(one));
}

}  // namespace mileage

// Studies made up from known curves and seeded noise, for tests and benchmarks.
#pragma once

#include <cstdint>
#include <functional>
#include <string>
#include <vector>

#include "study/study.h"

namespace mileage::made {

/// The truth of one series.
struct Truth {
  std::string variant;
  std::function<double(double)> ms;  ///< Cost of a frame at a count.
  Knobs knobs = {};
};

struct Setting {
  std::vector<Truth> truths;
  std::vector<std::int64_t> counts;
  int blocks = 5;
  int samples = 20;        ///< Per run.
  double block_noise = 0;  ///< Standard deviations on the log scale: shared by all runs of a block,
  double run_noise = 0;    ///< of each run,
  double frame_noise = 0;  ///< and of each frame.
  std::uint64_t seed = 1;
};

/// A study whose runs cost what the truths say, times noise.
Study study_of(const Setting& setting);

/// `points` counts at equal ratios.
std::vector<std::int64_t> counts_between(std::int64_t from, std::int64_t to, int points);

}  // namespace mileage::made

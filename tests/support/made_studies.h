// Studies from known curves and seeded noise.
#pragma once

#include <cstdint>
#include <functional>
#include <string>
#include <vector>

#include "study/study.h"

namespace mileage::made {

struct Truth {
  std::string variant;
  std::function<double(double)> ms;  ///< Of a frame at a count.
  Knobs knobs = {};
};

struct Setting {
  std::vector<Truth> truths;
  std::vector<std::int64_t> counts;
  int blocks = 5;
  int samples = 20;        ///< Per run.
  double block_noise = 0;  ///< Log scale, by block,
  double run_noise = 0;    ///< by run,
  double frame_noise = 0;  ///< and by frame.
  std::uint64_t seed = 1;
};

Study study_of(const Setting& setting);

/// At equal ratios.
std::vector<std::int64_t> counts_between(std::int64_t from, std::int64_t to, int points);

}  // namespace mileage::made

#include "festival/implementations.h"

#include <algorithm>
#include <thread>

namespace mileage::festival {

Build festival_build() {
  Build build = build_of_this_file();
  build.flags = MILEAGE_FESTIVAL_FLAGS;
  return build;
}

std::vector<Knob> job_knobs(const char* things, std::int64_t batch) {
  const auto cores = static_cast<std::int64_t>(std::max(1U, std::thread::hardware_concurrency()));
  return {
      Knob::integer("workers", "threads that share the batches (default: all cores)",
                    {.default_value = cores, .min = 1, .max = 256}),
      Knob::integer("batch", std::string(things) + " per batch", {.default_value = batch, .min = 1, .max = 1'000'000})};
}

}  // namespace mileage::festival

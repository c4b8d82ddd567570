#pragma once

#include <atomic>

#include "festival/drift/sorted_lanterns.h"
#include "festival/jobs.h"

namespace mileage::festival {

/// From inside the arena, part by part. Returns the number of lanterns updated.
inline std::int64_t carry_in_batches(Frame& frame, const Jobs& jobs, SortedColumns& columns, const FrameWork& work,
                                     Vectors vectors) {
  std::atomic<std::int64_t> updated{0};
  const auto carry_part = [&](std::size_t part) {
    const Sort sort = columns.sort(part);
    LanternColumns& lanterns = columns.parts()[part];
    const CarryStrip strip = carry_strip(vectors, sort.kind);
    jobs.batches_here(frame, lanterns.size(), [&](std::int64_t from, std::int64_t to) {
      lanterns.carry_range(from, to, work.of(sort), strip);
      updated.fetch_add(to - from, std::memory_order_relaxed);
    });
  };
  tbb::parallel_for(std::size_t{0}, columns.parts().size(), carry_part, tbb::simple_partitioner{});
  return updated;
}

}  // namespace mileage::festival

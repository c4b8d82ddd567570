// Batches on a task scheduler.
#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>

#include <tbb/global_control.h>
#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

#include "mileage/types/frame.h"
#include "mileage/types/knobs.h"

namespace mileage::festival {

/// Knobs workers and batch.
class Jobs {
 public:
  explicit Jobs(const Knobs& knobs)
      : batch_(knobs.whole("batch")),
        threads_(tbb::global_control::max_allowed_parallelism, static_cast<std::size_t>(knobs.whole("workers"))),
        arena_(static_cast<int>(knobs.whole("workers"))) {}

  tbb::task_arena& arena() { return arena_; }
  std::int64_t batch() const { return batch_; }

  /// Calls `work(from, to)` concurrently for batches of [0, count), and notes them.
  template <class Work>
  void for_batches(Frame& frame, std::int64_t count, const Work& work) {
    arena_.execute([&] { batches_here(frame, count, work); });
  }

  /// From inside the arena.
  template <class Work>
  void batches_here(Frame& frame, std::int64_t count, const Work& work) const {
    const std::int64_t batches = (count + batch_ - 1) / batch_;
    const auto one = [&](std::int64_t index) {
      const std::int64_t from = index * batch_;
      const std::int64_t to = std::min(count, from + batch_);
      const auto noted = frame.work(tbb::this_task_arena::current_thread_index(), static_cast<double>(to - from));
      work(from, to);
    };
    tbb::parallel_for(std::int64_t{0}, batches, one, tbb::simple_partitioner{});
  }

 private:
  std::int64_t batch_;
  tbb::global_control threads_;
  tbb::task_arena arena_;
};

}  // namespace mileage::festival

// Time that this process's threads waited for a core.
#pragma once

#include <cstdint>
#include <optional>
#include <vector>

namespace mileage {

/// From the scheduler's statistics: runnable but not running; no sleep, lock or file. 0.4 us per thread.
class ThreadWaits {
 public:
  /// Of existing threads: `of_all`, or the calling one.
  explicit ThreadWaits(bool of_all);
  ~ThreadWaits();
  ThreadWaits(const ThreadWaits&) = delete;
  ThreadWaits& operator=(const ThreadWaits&) = delete;

  /// Total since the threads began; nothing if not reported.
  std::optional<std::int64_t> waited_ns() const;

 private:
  std::vector<int> files_;
};

}  // namespace mileage

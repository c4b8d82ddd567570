// How long the threads of this process have waited for a core that others had: what a loaded machine adds to a frame,
// to the nanosecond.
#pragma once

#include <cstdint>
#include <optional>
#include <vector>

namespace mileage {

/// Reads what the system's scheduler has each thread: time in which it was ready to run and did not. Time that it
/// sleeps, or waits for a lock or a file, is not in it. About 0.4 us a thread.
class ThreadWaits {
 public:
  /// Of the threads that there are now; `of_all`: of all of them, else of the calling one alone.
  explicit ThreadWaits(bool of_all);
  ~ThreadWaits();
  ThreadWaits(const ThreadWaits&) = delete;
  ThreadWaits& operator=(const ThreadWaits&) = delete;

  /// Nanoseconds since the threads began, all together; nothing where the system does not tell.
  std::optional<std::int64_t> waited_ns() const;

 private:
  std::vector<int> files_;
};

}  // namespace mileage

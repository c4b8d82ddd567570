// Threads that run the work of the yardstick at the same moment as the thread that asks for it.
#pragma once

#include <atomic>
#include <thread>
#include <vector>

#include "measure/machine/clock.h"

namespace mileage {

/// Nanoseconds of the yardstick's work once, on the calling thread; more than 0.
double timed_work_ns(Clock& clock);

/// So many threads, asleep between probes. All functions are for one thread.
class ProbeThreads {
 public:
  ProbeThreads(int threads, Clock& clock);
  ~ProbeThreads();
  ProbeThreads(const ProbeThreads&) = delete;
  ProbeThreads& operator=(const ProbeThreads&) = delete;

  /// Wakes them, and returns when all are about to begin.
  void begin_together();
  /// Waits for all, and tells the slowest of them.
  double slowest_ns();

 private:
  void run(std::size_t thread);
  void wait_until(const std::atomic<int>& count);

  Clock* clock_;
  std::atomic<int> probe_{0};  ///< Number of the probe that is wanted; -1 ends the threads.
  std::atomic<int> awake_{0};
  std::atomic<int> begun_{0};  ///< Number of the probe that has begun.
  std::atomic<int> done_{0};
  std::vector<double> ns_;
  std::vector<std::thread> threads_;
};

}  // namespace mileage

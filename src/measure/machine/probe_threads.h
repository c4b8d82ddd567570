// Threads that run the work of the yardstick at the same moment as the thread that asks for it.
#pragma once

#include <atomic>
#include <thread>
#include <vector>

#include "measure/machine/clock.h"

namespace mileage {

/// Nanoseconds of the yardstick's work once, on the calling thread; more than 0.
double timed_work_ns(Clock& clock);

/// This many threads, asleep between probes. All functions are for one thread.
class ProbeThreads {
 public:
  ProbeThreads(int threads, Clock& clock);
  ~ProbeThreads();
  ProbeThreads(const ProbeThreads&) = delete;
  ProbeThreads& operator=(const ProbeThreads&) = delete;

  /// Wakes them, and returns when all are about to begin. Who is not awake within 0.1 ms takes no part: the machine's
  /// host gave that core to others, for milliseconds at times, and a probe would cost more than the frames around it.
  void begin_together();
  /// Waits for those who took part, and tells the slowest of them; 0 where nobody did.
  double slowest_ns();

 private:
  /// What one thread tells.
  struct Place {
    std::atomic<int> awake_for{0};  ///< Number of the last probe that it was awake for,
    std::atomic<int> done_with{0};  ///< and of the last one that it made.
    double ns = 0;                  ///< Of that.
    bool takes_part = false;        ///< Told by the asking thread.
  };
  void run(Place& place);

  Clock* clock_;
  std::atomic<int> probe_{0};  ///< Number of the probe that is wanted; -1 ends the threads.
  std::atomic<int> begun_{0};  ///< Number of the probe that has begun.
  std::vector<Place> places_;
  std::vector<std::thread> threads_;
};

}  // namespace mileage

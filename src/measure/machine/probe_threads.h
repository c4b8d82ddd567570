// Threads that run the yardstick at the same moment as the calling thread.
#pragma once

#include <atomic>
#include <thread>
#include <vector>

#include "measure/machine/clock.h"

namespace mileage {

/// Of one yardstick run on the calling thread; > 0.
double timed_work_ns(Clock& clock);

/// Asleep between probes. For one calling thread.
class ProbeThreads {
 public:
  ProbeThreads(int threads, Clock& clock);
  ~ProbeThreads();
  ProbeThreads(const ProbeThreads&) = delete;
  ProbeThreads& operator=(const ProbeThreads&) = delete;

  /// Wakes them and returns when all are ready. Threads not awake within 0.1 ms do not take part: the host has their
  /// core.
  void begin_together();
  /// Slowest participant; 0 for none.
  double slowest_ns();

 private:
  struct Place {
    std::atomic<int> awake_for{0};  ///< Last probe that it was awake for.
    std::atomic<int> done_with{0};  ///< Last probe that it finished.
    double ns = 0;                  ///< Of that probe.
    bool takes_part = false;        ///< Set by the caller.
  };
  void run(Place& place);

  Clock* clock_;
  std::atomic<int> probe_{0};  ///< Number of the wanted probe; -1 ends the threads.
  std::atomic<int> begun_{0};  ///< Number of the begun probe.
  std::vector<Place> places_;
  std::vector<std::thread> threads_;
};

}  // namespace mileage

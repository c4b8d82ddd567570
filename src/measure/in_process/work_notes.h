// What workers note of their batches while frames are timed.
#pragma once

#include <atomic>
#include <cstdint>
#include <optional>
#include <vector>

#include "measure/machine/clock.h"
#include "study/study.h"

namespace mileage {

/// begin() and end() may be called from any thread, a worker's number from one at a time. All else is called where no
/// batch is open: between frames.
class WorkNotes {
 public:
  explicit WorkNotes(Clock& clock);

  void begin(int worker, double entities);
  void end(int worker);

  /// A frame is over that began and ended then; of several that were timed at once, nothing is known of before and
  /// after.
  void after_frame(std::int64_t began_ns, std::int64_t ended_ns, bool is_single);
  /// Adds the batches of frame number `frame` to the spans.
  void after_traced_frame(std::size_t frame, std::int64_t began_ns, std::vector<std::vector<double>>& spans);

  /// What was noted so far is forgotten.
  void forget();
  /// Notes nothing from now on, where batches were so short that noting them would be felt.
  void give_up_if_short();
  /// Keeps every batch of a frame, for after_traced_frame().
  void keep_batches() { keeps_batches_ = true; }
  /// Nothing where there were no batches.
  std::optional<WorkByWorker> work() const;

 private:
  struct Batch {
    std::int64_t begin_ns = 0;
    std::int64_t end_ns = 0;
    double entities = 0;
  };
  /// Of one worker; a cache line or more of its own.
  struct alignas(128) Slot {
    int depth = 0;
    std::int64_t since_ns = 0;
    double open_entities = 0;
    double busy_ns = 0;
    double entities = 0;
    double batches = 0;
    std::int64_t largest_ns = 0;
    std::int64_t first_ns = 0;  ///< Of the frame that runs; where is_in_frame.
    std::int64_t last_ns = 0;
    bool is_in_frame = false;
    std::vector<Batch> kept;
  };
  Slot* slot(int worker);

  Clock* clock_;
  std::vector<Slot> slots_;
  std::atomic<int> used_{0};  ///< Workers that were seen: numbers below it.
  bool is_noting_ = true;
  bool keeps_batches_ = false;
  std::optional<double> before_ns_, after_ns_;
};

}  // namespace mileage

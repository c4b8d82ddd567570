// Batches that workers note while frames are timed.
#pragma once

#include <atomic>
#include <cstdint>
#include <optional>
#include <vector>

#include "measure/machine/clock.h"
#include "study/study.h"

namespace mileage {

/// begin() and end() may be called from any thread, one at a time per worker; everything else between frames.
class WorkNotes {
 public:
  explicit WorkNotes(Clock& clock);

  void begin(int worker, double entities);
  void end(int worker);

  /// After a single frame, for idle time before and after batches.
  void after_frame(std::int64_t began_ns, std::int64_t ended_ns, bool is_single);
  void after_traced_frame(std::size_t frame, std::int64_t began_ns, std::vector<std::vector<double>>& spans);

  void forget();
  /// Stops noting if batches are too short for it.
  void give_up_if_short();
  /// For after_traced_frame().
  void keep_batches() { keeps_batches_ = true; }
  /// Nothing without batches.
  std::optional<WorkByWorker> work() const;

 private:
  struct Batch {
    std::int64_t begin_ns = 0;
    std::int64_t end_ns = 0;
    double entities = 0;
  };
  /// Padded to avoid false sharing.
  struct alignas(128) Slot {
    int depth = 0;
    std::int64_t since_ns = 0;
    double open_entities = 0;
    double busy_ns = 0;
    double entities = 0;
    double batches = 0;
    std::int64_t largest_ns = 0;
    std::int64_t first_ns = 0;  ///< Of the current frame, where is_in_frame.
    std::int64_t last_ns = 0;
    bool is_in_frame = false;
    std::vector<Batch> kept;
  };
  Slot* slot(int worker);

  Clock* clock_;
  std::vector<Slot> slots_;
  std::atomic<int> used_{0};  ///< Workers seen are below it.
  bool is_noting_ = true;
  bool keeps_batches_ = false;
  std::optional<double> before_ns_, after_ns_;
};

}  // namespace mileage

// Times frames and collects what they mark.
#pragma once

#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "measure/machine/clock.h"
#include "measure/machine/cold_walk.h"
#include "measure/in_process/work_notes.h"
#include "mileage/types/variant.h"

namespace mileage {

/// Runs frames of a variant and times them. Neighbouring samples share one reading of the clock: the end of one is the
/// start of the next. With a walk, other memory is walked before every sample, outside its time.
class FrameMeter : public FrameSink {
 public:
  /// `walk` may be missing (nullptr): frames run back to back.
  FrameMeter(Variant& variant, Clock& clock, ColdWalk* walk = nullptr)
      : variant_(&variant), clock_(&clock), walk_(walk), work_(clock) {}

  /// Starts timing now; what was marked so far is forgotten.
  void start();
  /// What passed since the last sample is of no frame.
  void pass_over() { last_ns_ = clock_->now_ns(); }
  /// Runs `frames` frames and returns the time since start(), the last sample or the walk, in nanoseconds. In each of
  /// them `arriving` entities come.
  std::int64_t sample(int frames, std::int64_t arriving = 0);

  /// Sums over all frames since start().
  std::map<std::string, double> phases_ms() const;
  std::map<std::string, double> counters() const;
  /// Names of phases that began inside another one.
  std::vector<std::string> inner_phases() const;
  std::optional<WorkByWorker> work() const { return work_.work(); }

  /// Batches that are too short to be noted are not, from now on.
  void give_up_short_batches() { work_.give_up_if_short(); }
  /// Keeps each frame's phases and batches from now on. Samples are then of one frame.
  void trace();
  /// What was kept since start(); nothing where nothing was to be.
  const std::optional<Trace>& traced() const { return trace_; }

  void begin_phase(const char* name) override;
  void end_phase() override;
  void add(const char* counter, double amount) override;
  void begin_work(int worker, double entities) override { work_.begin(worker, entities); }
  void end_work(int worker) override { work_.end(worker); }

 private:
  struct Sum {
    const char* name;
    double total;
    double before = 0;  ///< Total before the frame that runs, where frames are traced.
    bool is_inner = false;
  };
  struct OpenPhase {
    std::size_t sum;
    std::int64_t since_ns;
  };
  void keep_frame(std::int64_t began_ns);
  static std::size_t place_of(std::vector<Sum>& sums, const char* name);
  static std::map<std::string, double> by_name(const std::vector<Sum>& sums, double factor);

  Variant* variant_;
  Clock* clock_;
  ColdWalk* walk_;
  std::int64_t last_ns_ = 0;
  std::vector<Sum> phases_;
  std::vector<Sum> counters_;
  std::vector<OpenPhase> open_;
  WorkNotes work_;
  std::optional<Trace> trace_;
  std::size_t frames_kept_ = 0;
};

}  // namespace mileage

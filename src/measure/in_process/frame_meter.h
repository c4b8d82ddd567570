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

/// Runs and times frames of a variant. The end of one sample is the start of the next. A walk reads other memory before
/// every sample, untimed.
class FrameMeter : public FrameSink {
 public:
  /// `walk` may be nullptr: frames run back to back.
  FrameMeter(Variant& variant, Clock& clock, ColdWalk* walk = nullptr)
      : variant_(&variant), clock_(&clock), walk_(walk), work_(clock) {}

  /// Discards all marks and starts timing.
  void start();
  /// Time since the last sample belongs to no frame.
  void pass_over() { last_ns_ = clock_->now_ns(); }
  /// Runs `frames` frames, adding `arriving` entities in each; returns the nanoseconds since the last sample, start()
  /// or walk.
  std::int64_t sample(int frames, std::int64_t arriving = 0);

  /// Sums over all frames since start().
  std::map<std::string, double> phases_ms() const;
  std::map<std::string, double> counters() const;
  /// Phases nested in others.
  std::vector<std::string> inner_phases() const;
  std::optional<WorkByWorker> work() const { return work_.work(); }

  void give_up_short_batches() { work_.give_up_if_short(); }
  /// Keeps phases and batches of each frame; samples are then of one frame.
  void trace();
  /// Since start(); nothing without trace().
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
    double before = 0;  ///< Total before the current frame, if traced.
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

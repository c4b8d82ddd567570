// Times frames and collects what they mark.
#pragma once

#include <cstdint>
#include <map>
#include <string>
#include <vector>

#include "measure/machine/clock.h"
#include "measure/machine/cold_walk.h"
#include "mileage/types/variant.h"

namespace mileage {

/// Runs frames of a variant and times them. Neighbouring samples share one reading of the clock: the end of one is the
/// start of the next. With a walk, other memory is walked before every sample, outside its time.
class FrameMeter : public FrameSink {
 public:
  /// `walk` may be missing (nullptr): frames run back to back.
  FrameMeter(Variant& variant, Clock& clock, ColdWalk* walk = nullptr)
      : variant_(&variant), clock_(&clock), walk_(walk) {}

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

  void begin_phase(const char* name) override;
  void end_phase() override;
  void add(const char* counter, double amount) override;

 private:
  struct Sum {
    const char* name;
    double total;
  };
  struct OpenPhase {
    std::size_t sum;
    std::int64_t since_ns;
  };
  static std::size_t place_of(std::vector<Sum>& sums, const char* name);
  static std::map<std::string, double> by_name(const std::vector<Sum>& sums, double factor);

  Variant* variant_;
  Clock* clock_;
  ColdWalk* walk_;
  std::int64_t last_ns_ = 0;
  std::vector<Sum> phases_;
  std::vector<Sum> counters_;
  std::vector<OpenPhase> open_;
};

}  // namespace mileage

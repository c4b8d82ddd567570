// What is read of the machine during a run: yardstick between or around frames, and load.
#pragma once

#include "measure/machine/clock.h"
#include "measure/machine/hardware_meter.h"
#include "measure/machine/process_facts.h"
#include "measure/machine/yardstick.h"
#include "measure/in_process/run_request.h"

namespace mileage {

/// All but the clock may be nullptr.
struct Instruments {
  Clock* clock = nullptr;
  Yardstick* yardstick = nullptr;
  LoadReading (*load)() = nullptr;  ///< read_load on a real machine.
  /// read_spent on a real machine; then threads are asked how long they waited for a core.
  SpentReading (*spent)() = nullptr;
  HardwareMeter* hardware = nullptr;  ///< Made before the world is set up.

  bool is_real() const { return spent != nullptr; }
  /// Nothing if not real.
  SpentReading spent_now() const { return is_real() ? spent() : SpentReading{}; }
};

class RunBracket {
 public:
  /// Starts measuring load.
  RunBracket(const RunRequest& request, const Instruments& instruments);

  /// For a program without probes between frames: 20 ms of probes right before and after. Checks need none.
  void before_frames();
  void after_frames();

  /// For a program with probes between frames: one per millisecond after a sample, at most sixteen, and at most 2 % of
  /// the time (three probes are made beforehand). Tied to samples instead of time, so that slow moments are not
  /// over-represented.
  void expect_samples(double sample_ns);
  /// Probes all cores that frames use, less often since that takes longer.
  void probe_on(int cores);
  /// After every sample. Returns whether time has passed that is no frame's.
  bool between_frames();
  /// Ensures a probe in each half.
  void after_last_frame();
  double probes_ns() const { return probes_.total_ns(); }
  /// CPU time of probes between frames; 0 if unknown.
  const SpentReading& spent() const { return spent_; }

  /// Stores what was read; the yardstick unless the run has its own.
  void tell(Run& run) const;

 private:
  bool is_probed() const { return instruments_.yardstick != nullptr && request_.check_frames == 0; }
  void probe_for_a_while(Probes::Half half);
  /// Wall time, so that waking threads counts; the shortest of a few.
  double probe_takes_ns() const;
  /// Consecutive probes belong to the same half.
  void probe_next_half(int probes);

  const RunRequest& request_;
  const Instruments& instruments_;
  LoadReading load_before_;
  Probes probes_;
  ProbedBy probed_by_ = ProbedBy::work;
  Probes::Half next_half_ = Probes::one;
  SpentReading spent_;
  int cores_ = 1;
  int samples_for_a_probe_ = 1;
  int probes_at_once_ = 1;
  int since_probe_ = 0;  ///< Samples.
};

}  // namespace mileage

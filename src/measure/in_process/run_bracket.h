// What is read of the machine during a run of any runner: the yardstick, between the frames or around
// them, and the load during that time.
#pragma once

#include "measure/machine/clock.h"
#include "measure/machine/hardware_meter.h"
#include "measure/machine/process_facts.h"
#include "measure/machine/yardstick.h"
#include "measure/in_process/run_request.h"

namespace mileage {

/// What a run is timed with. All but the clock may be missing (nullptr).
struct Instruments {
  Clock* clock = nullptr;
  Yardstick* yardstick = nullptr;
  LoadReading (*load)() = nullptr;  ///< Tells what the whole machine does; read_load, where that is a real machine.
  /// Tells what this process has spent; read_spent, where that is a real machine. Only there its threads are asked how
  /// long they waited for a core.
  SpentReading (*spent)() = nullptr;
  HardwareMeter* hardware = nullptr;  ///< Made before the world is set up.

  bool is_real() const { return spent != nullptr; }
  /// Nothing where nobody tells.
  SpentReading spent_now() const { return is_real() ? spent() : SpentReading{}; }
};

class RunBracket {
 public:
  /// Begins to look at the load.
  RunBracket(const RunRequest& request, const Instruments& instruments);

  /// Of a program that is not probed between its frames: probes for 20 ms right before and right after them. A check is
  /// not timed and needs none.
  void before_frames();
  void after_frames();

  /// Of a program that is probed between its frames: how long a sample of them is expected to take. Probes come after
  /// the samples that take about a millisecond; one for each millisecond where a sample takes more, sixteen at most.
  /// A slow machine has fewer of them, so that they take no more than 2 % of the time: three probes tell beforehand.
  /// They keep to samples and not to the clock, so that slow moments are not seen more often than frames were in them.
  void expect_samples(double sample_ns);
  /// Frames keep this many cores busy: all of them are probed at once, and less often, for that takes longer.
  void probe_on(int cores);
  /// After every sample. Returns whether time has passed that is of no frame.
  bool between_frames();
  /// After the last frame: makes sure that there is a probe in each half.
  void after_last_frame();
  /// Time that passed in probes so far.
  double probes_ns() const { return probes_.total_ns(); }
  /// Processor time spent on probes beside frames; 0 where nobody tells.
  const SpentReading& spent() const { return spent_; }

  /// Tells a run what was read; its yardstick unless it has told its own.
  void tell(Run& run) const;

 private:
  bool is_probed() const { return instruments_.yardstick != nullptr && request_.check_frames == 0; }
  void probe_for_a_while(Probes::Half half);
  /// By the clock, so that waking other threads counts; the shortest of a few, so that an interruption does not.
  double probe_takes_ns() const;
  /// Probes in a row see the same moment, and are of the same half.
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

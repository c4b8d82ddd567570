// What the samples of a run waited for a core that others had.
#pragma once

#include <cstdint>
#include <optional>

#include "measure/machine/process_facts.h"
#include "measure/machine/thread_waits.h"
#include "measure/in_process/frame_meter.h"
#include "study/study.h"

namespace mileage {

/// Asks right before and right after every sample, outside its time. Short samples are not asked: the system lets
/// others run for milliseconds, so that only a few per cent of them hold any of it, and those are cut off. Watches the
/// threads that there are when it is made.
class WaitWatch {
 public:
  /// `sample_ns`: what a sample is expected to take; `cores`: what samples keep busy, 0 where nobody is to be asked.
  WaitWatch(FrameMeter& meter, double sample_ns, int cores);

  void before_sample();
  /// Tells the run of its last sample. Of work that several cores share, each waits for a part: together they finish
  /// later by the mean. Never more than the sample took without processor time: some kernels count a twentieth of the
  /// waiting twice.
  void after_sample(Run& run);
  /// Forgets what is next to nothing.
  void tell(Run& run) const;
  /// Processor time spent on asking: the calling thread's alone, nearly all of it inside the system's calls.
  SpentReading spent() const { return {spent_ns_, spent_ns_, spent_ns_}; }

 private:
  /// Of the threads that are watched.
  std::int64_t busy_ns() const;

  FrameMeter& meter_;
  int cores_;
  std::optional<ThreadWaits> waits_;
  std::int64_t before_ns_ = 0;
  std::int64_t busy_before_ns_ = 0;
  std::int64_t spent_ns_ = 0;
};

}  // namespace mileage

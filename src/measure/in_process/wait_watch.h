// Time that samples waited for a core.
#pragma once

#include <cstdint>
#include <optional>

#include "measure/machine/process_facts.h"
#include "measure/machine/thread_waits.h"
#include "measure/in_process/frame_meter.h"
#include "study/study.h"

namespace mileage {

/// Reads waiting before and after every sample, outside its time. Short samples are skipped: few contain a scheduler
/// slice of milliseconds, and trimming removes those. Watches the threads that exist at construction.
class WaitWatch {
 public:
  /// `sample_ns`: expected; `cores`: used by samples, 0 to disable.
  WaitWatch(FrameMeter& meter, double sample_ns, int cores);

  void before_sample();
  /// Appends the last sample's waiting: the mean over cores, at most its time minus CPU time, since some kernels count
  /// a twentieth twice.
  void after_sample(Run& run);
  /// Omits negligible waiting.
  void tell(Run& run) const;
  /// CPU time of asking, nearly all in the kernel.
  SpentReading spent() const { return {spent_ns_, spent_ns_, spent_ns_}; }

 private:
  std::int64_t busy_ns() const;

  FrameMeter& meter_;
  int cores_;
  std::optional<ThreadWaits> waits_;
  std::int64_t before_ns_ = 0;
  std::int64_t busy_before_ns_ = 0;
  std::int64_t spent_ns_ = 0;
};

}  // namespace mileage

// What is read of the machine while a visit is made, whoever makes it: the yardstick, between the frames or around
// them, and the load meanwhile.
#pragma once

#include "measure/machine/clock.h"
#include "measure/machine/process_facts.h"
#include "measure/machine/yardstick.h"
#include "measure/runners/visit_request.h"

namespace mileage {

/// What a visit is timed with. All but the clock may be missing (nullptr).
struct Instruments {
  Clock* clock = nullptr;
  Yardstick* yardstick = nullptr;
  LoadReading (*load)() = nullptr;  ///< Tells what the whole machine does; read_load, where that is a real machine.
};

class VisitBracket {
 public:
  /// Begins to look at the load.
  VisitBracket(const VisitRequest& request, const Instruments& instruments);

  /// Of a program that is not probed between its frames: probes for 20 ms right before and right after them. A check is
  /// not timed and needs none.
  void before_frames();
  void after_frames();

  /// Between frames, after so many nanoseconds of them: a probe for every millisecond since the last probes, sixteen at
  /// most; none below one. Returns whether time has passed that is of no frame.
  bool between_frames(double frames_ns);
  /// After the last frame: makes sure that there is a probe in each half.
  void after_last_frame();
  /// Spent on probes so far.
  double probes_ns() const { return probes_.total_ns(); }

  /// Tells a visit what was read.
  void tell(Visit& visit) const;

 private:
  bool is_probed() const { return instruments_.yardstick != nullptr && request_.check_frames == 0; }
  void probe_for_a_while(Probes::Half half);
  /// Probes in a row see the same moment, and are of the same half.
  void probe_next_half(int probes);

  const VisitRequest& request_;
  const Instruments& instruments_;
  LoadReading load_before_;
  Probes probes_;
  Probes::Half next_half_ = Probes::one;
  double since_probes_ns_ = 0;
};

}  // namespace mileage

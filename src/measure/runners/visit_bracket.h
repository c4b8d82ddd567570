// What is read of the machine around the frames of a visit, whoever makes them: the yardstick before and after, and the
// load meanwhile.
#pragma once

#include "measure/machine/clock.h"
#include "measure/machine/process_facts.h"
#include "measure/machine/yardstick.h"
#include "measure/runners/visit_request.h"

namespace mileage {

/// What a visit process waits between two looks at the yardstick.
inline constexpr double pause_between_looks_s = 0.02;

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

  /// Right before the frames. Waits for a quiet moment where the request wants that, and takes the yardstick; a check
  /// is not timed and needs none.
  void before_frames();
  /// Right after the frames: takes the yardstick again. Not called for a visit that came to nothing.
  void after_frames();
  /// Tells a visit what was read.
  void tell(Visit& visit) const;

 private:
  YardstickTimes take_when_quiet();

  const VisitRequest& request_;
  const Instruments& instruments_;
  LoadReading load_before_;
  YardstickReading yardstick_;
  bool has_yardstick_ = false;  ///< On both sides.
  double waited_s_ = 0;
};

}  // namespace mileage

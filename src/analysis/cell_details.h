// What else the visits of a cell tell besides their frame time: processor time, phases, counters, memory.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "study/study.h"

namespace mileage {

/// Medians over the kept visits of one cell; times in milliseconds per frame.
struct CellDetail {
  double x = 0;
  double frame_ms = 0;        ///< Mean wall time over the measured frames (the parts add up to it, medians would not).
  double thread_busy_ms = 0;  ///< Processor time of the frame's thread.
  double processor_ms = 0;    ///< Processor time of all threads.
  std::map<std::string, double> phases_ms;  ///< Wall time on the frame's thread.
  std::map<std::string, double> counters;   ///< Per frame.
  double bytes_per_entity = 0;              ///< Growth of resident memory by setting up, per entity; in steps of pages.
  std::optional<double> growth_bytes_per_frame;  ///< Nothing where memory did not grow by more than 1 MiB over the frames.
  int frames_per_sample = 1;

  /// Of an amount per frame, at the rate that frames run back to back.
  double per_second(double amount) const { return frame_ms > 0 ? amount * 1000 / frame_ms : 0; }
  double cores_used() const { return frame_ms > 0 ? processor_ms / frame_ms : 0; }
};

/// Details of a series, one per place with a kept visit, ascending.
std::vector<CellDetail> details_of(const Study& study, const Series& series);

}  // namespace mileage

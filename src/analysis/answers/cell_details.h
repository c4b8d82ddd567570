// What runs report besides frame time: processor time, phases, counters, memory.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace mileage {

struct SeriesEvidence;

/// Medians over the kept runs of one cell; times in ms per frame, uncorrected (parts.h corrects them).
struct CellDetail {
  double x = 0;
  double frame_ms = 0;  ///< Mean, without waiting for a core.
  std::optional<double> setup_ms;
  std::optional<double> thread_busy_ms;     ///< CPU time of the main thread.
  std::optional<double> processor_ms;       ///< CPU time of all threads.
  std::optional<double> whole_cores_used;   ///< Of a command: cores used over its process, set-up included.
  std::map<std::string, double> phases_ms;  ///< Wall time on the main thread.
  std::map<std::string, double> counters;   ///< Per frame.
  /// Resident memory per entity beyond the series' smallest world. Nothing below 256 KiB, since memory comes in pages.
  std::optional<double> bytes_per_entity;
  std::optional<double> start_ms;  ///< Of a driven program, before the world.
  std::optional<double> start_bytes;
  std::optional<double> peak_bytes;  ///< Resident.
  /// Growth of resident memory in the measured frames, if at least three quarters of runs (and three) grow by over 256
  /// KiB in each half.
  std::optional<double> growth_bytes_per_frame;
  int frames_per_sample = 1;

  /// Of an amount per frame, for back-to-back frames.
  double per_second(double amount) const { return frame_ms > 0 ? amount * 1000 / frame_ms : 0; }
  std::optional<double> cores_used() const {
    return processor_ms && frame_ms > 0 ? std::optional(*processor_ms / frame_ms) : std::nullopt;
  }
};

/// By measured place, ascending.
std::vector<CellDetail> details_of(const SeriesEvidence& evidence);

}  // namespace mileage

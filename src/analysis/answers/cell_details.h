// What else the runs of a cell tell besides their frame time: processor time, phases, counters, memory.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace mileage {

struct SeriesEvidence;

/// Medians over the kept runs of one cell; times in milliseconds per frame, as recorded (parts.h corrects them).
struct CellDetail {
  double x = 0;
  double frame_ms = 0;                   ///< Mean over the measured frames, without waiting for a core.
  std::optional<double> setup_ms;        ///< Set-up time of the world; nothing where it is not known.
  std::optional<double> thread_busy_ms;  ///< Processor time of the main thread; nothing where it is not known.
  std::optional<double> processor_ms;    ///< Processor time of all threads; nothing where it is not known.
  std::optional<double>
      whole_cores_used;  ///< Of a command: cores used over its whole run, set-up included; nothing where not known.
  std::map<std::string, double> phases_ms;  ///< Wall time on the main thread.
  std::map<std::string, double> counters;   ///< Per frame.
  /// Resident memory that setting up takes beyond the series' smallest world, per entity beyond it: what a library
  /// takes for itself is in both. Nothing at the smallest world itself, where it is not known, and below 256
  /// KiB: memory comes in pages.
  std::optional<double> bytes_per_entity;
  std::optional<double> start_ms;     ///< Of a driver, before the world; nothing where none was started.
  std::optional<double> start_bytes;  ///< What it took.
  std::optional<double> peak_bytes;   ///< Of resident memory; nothing where it is not known.
  /// Of resident memory over the measured frames. Only where it grows in three quarters of the runs, three at least,
  /// by more than 256 KiB in each half of the frames: caches that fill and pools that settle do not.
  std::optional<double> growth_bytes_per_frame;
  int frames_per_sample = 1;

  /// Of an amount per frame, at the rate that frames run back to back.
  double per_second(double amount) const { return frame_ms > 0 ? amount * 1000 / frame_ms : 0; }
  std::optional<double> cores_used() const {
    return processor_ms && frame_ms > 0 ? std::optional(*processor_ms / frame_ms) : std::nullopt;
  }
};

/// Details of a series, one per place that was measured, ascending.
std::vector<CellDetail> details_of(const SeriesEvidence& evidence);

}  // namespace mileage

// Limits: which resource ends a series at its capacity, and how many entities each resource would allow.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/answers/capacity.h"
#include "analysis/answers/parts.h"

namespace mileage {

struct Analysis;
struct GrowthAnswer;
struct Questions;

enum class Resource {
  frame_thread,  ///< The main thread is always busy.
  all_cores,
  memory_traffic,  ///< As many bytes as a bare pass over memory.
  memory_size,     ///< The world fills the memory allowed.
  device,          ///< The graphics device is always busy.
  submission,      ///< The main thread is busy submitting to the device.
  waiting,         ///< For a lock, or for the slowest thread.
  inconclusive
};

struct ResourceUse {
  Resource what = Resource::inconclusive;
  double share = 0;  ///< Of the total, while a frame runs.
  /// Capacity if all else cost nothing; nothing beyond extrapolation.
  std::optional<double> alone_at;
};

struct SeriesLimit {
  std::size_t series = 0;
  double x = 0;  ///< Measured place nearest to the capacity.
  Resource first = Resource::inconclusive;
  std::vector<ResourceUse> uses;      ///< Known ones, largest first.
  std::vector<std::string> evidence;  ///< In words, without a full stop.
};

struct MemoryCapacity {
  std::size_t series = 0;
  std::optional<double> at;  ///< Nothing if bytes per entity are unknown or memory grows.
  double bytes_each = 0;
  bool keeps_growing = false;  ///< Grows with every frame, so that no count fits.
};

/// A fixed tick with catch-up.
struct TickLimit {
  std::size_t series = 0;
  Capacity keeps_up;        ///< Above it, ticks fall behind forever.
  Capacity spike_recovery;  ///< Above it, a spike is not recovered within a second.
};

struct LimitsAnswer {
  double budget_ms = 0;
  std::vector<SeriesLimit> limits;
  double memory_limit_bytes = 0;  ///< 0 for none.
  std::vector<MemoryCapacity> memory;
  double tick_ms = 0;  ///< 0 for none.
  double spike_ms = 0;
  std::vector<TickLimit> ticks;
};

/// For the first budget. `parts` and `growth` of the same study. Bytes moved: the counter bytes_counter, or the world
/// read and written once if it exceeds the last cache.
LimitsAnswer limits_answer(const Analysis& analysis, const PartsAnswer& parts, const GrowthAnswer& growth,
                           const Questions& questions);

}  // namespace mileage

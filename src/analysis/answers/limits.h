// Limits: which resource ends a series at its capacity, and how far each of them would go alone.
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

/// What a frame may run out of.
enum class Resource {
  frame_thread,    ///< The thread of the frame is busy all the time.
  all_cores,       ///< All cores of the machine are.
  memory_traffic,  ///< It moves as many bytes as a bare pass over memory could.
  memory_size,     ///< Its world fills the memory allowed.
  device,          ///< The graphics device works all the time.
  submission,      ///< The thread of the frame is busy with handing work to the device.
  waiting,         ///< Threads wait: for a lock, or for the slowest of them.
  inconclusive
};

/// What a series takes of one resource at a place.
struct ResourceUse {
  Resource what = Resource::inconclusive;
  double share = 0;  ///< Of what there is of it, while a frame runs.
  /// The place at which it would fill the budget if all else cost nothing; nothing where that lies beyond what can be
  /// told.
  std::optional<double> alone_at;
};

struct SeriesLimit {
  std::size_t series = 0;  ///< Place among the series of the study.
  double x = 0;            ///< Measured place that the evidence is of: the nearest to the capacity.
  Resource first = Resource::inconclusive;
  std::vector<ResourceUse> uses;      ///< Those that are known, the largest share first.
  std::vector<std::string> evidence;  ///< What it rests on, in words without a full stop.
};

/// How far a series goes within a memory limit.
struct MemoryCapacity {
  std::size_t series = 0;
  std::optional<double> at;  ///< Nothing where it is not known how much an entity takes, and where that grows.
  double bytes_each = 0;
  bool keeps_growing = false;  ///< Whether its memory grows from frame to frame: no count stays within a limit.
};

/// A series under a fixed tick with catch-up: what is late is done as soon as there is time.
struct TickLimit {
  std::size_t series = 0;
  Capacity keeps_up;        ///< Above it every tick makes it later, for ever.
  Capacity spike_recovery;  ///< Above it a spike is not made good within a second.
};

struct LimitsAnswer {
  double budget_ms = 0;
  std::vector<SeriesLimit> limits;
  double memory_limit_bytes = 0;  ///< 0 where none was asked for.
  std::vector<MemoryCapacity> memory;
  double tick_ms = 0;  ///< 0 where none was asked for.
  double spike_ms = 0;
  std::vector<TickLimit> ticks;
};

/// For the first budget asked for. `parts` and `growth` are those of the same study. What a frame moves is what its
/// counter bytes_counter says, or its world once read and once written, where that is larger than the last cache.
LimitsAnswer limits_answer(const Analysis& analysis, const PartsAnswer& parts, const GrowthAnswer& growth,
                           const Questions& questions);

}  // namespace mileage

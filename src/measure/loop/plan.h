// From a request to a plan: which series, at which counts.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "study/study.h"

namespace mileage {

/// Empty lists mean "all" or "the default".
struct PlanRequest {
  std::vector<std::string> variants;  ///< Empty: all that can run here, software devices only without others.
  std::map<std::string, std::vector<std::string>> knobs;  ///< As typed; several make several series.
  std::vector<std::string> without;  ///< Phases: one more series each, for variants that can skip it.
  std::vector<std::string> builds;   ///< Of one program; one series each.
  std::vector<std::int64_t> counts;  ///< Ascending.
  double budget_ms = 1000.0 / 60.0;
  std::vector<double> cold_bytes{0};  ///< Walked between frames; one series each.
  int blocks = 0;
  double precision = 0;  ///< Relative half-width; 0 for none.
  Goal goal;
  bool aim = false;            ///< Add counts around the goal's figures.
  bool listed = false;         ///< Counts were listed.
  std::int64_t max_count = 0;  ///< 0 for any.
  double time_s = 0;
  std::uint64_t seed = 1;
  std::optional<int> min_frames;  ///< Default: 20, or 10 for heavy frames.
  double min_ms = 20;
  std::int64_t arrive = 0;        ///< Part of the count that arrives at once; 0 for none.
  int trace = 0;                  ///< Traced runs per cell.
  std::vector<std::string> tune;  ///< Knobs.
};

/// Without blocks, time or precision.
inline constexpr int usual_blocks = 5;

/// Throws Error (usage) with the nearest known name.
const Scenario& scenario_named(const std::string& name, const std::vector<Scenario>& offered);

/// `capacity`, `capacity@60hz`, `capacity@60hz:99%` or `breakeven:objects,columns`. Throws Error (usage).
Goal parse_goal(const std::string& text, const std::string& field);

/// One series per variant and combination of values of the knobs that affect it; other knobs at defaults. Throws Error
/// (usage) for unknown or unavailable names, values out of range and knobs that affect no variant, with what would be
/// accepted.
Plan make_plan(const Scenario& scenario, const PlanRequest& request);

/// Distributes the time over the series' runs; at least `min_ms` each. Called by make_plan(), and again after
/// changes of the series.
void lengthen_runs_at_one_count(Plan& plan, double min_ms);

}  // namespace mileage

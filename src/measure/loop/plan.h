// From what a person asks for to a plan: which series, at which counts.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "study/study.h"

namespace mileage {

/// What a person asks for. Empty lists mean "all" or "the default".
struct PlanRequest {
  std::vector<std::string>
      variants;  ///< Empty: all that can run here, those on a software device only where there are no others.
  std::map<std::string, std::vector<std::string>> knobs;  ///< Values as written; several make several series.
  std::vector<std::string> without;  ///< Phases: each is excluded in a series more of the variants that can.
  std::vector<std::string> builds;   ///< Names of builds of one program; several make a series each.
  std::vector<std::int64_t> counts;  ///< Ascending.
  double budget_ms = 1000.0 / 60.0;
  std::vector<double> cold_bytes{0};  ///< Memory walked between frames; several values make several series of each.
  int blocks = 0;
  double precision = 0;  ///< Relative half-width wanted; 0 means none.
  Goal goal;
  bool aim = false;            ///< Add counts around the figures of the goal.
  bool listed = false;         ///< The counts were listed one by one.
  std::int64_t max_count = 0;  ///< Largest count that may be tried; 0 means any.
  double time_s = 0;
  std::uint64_t seed = 1;
  std::optional<int> min_frames;  ///< Of every run; nothing: 20, and 10 where frames are heavy.
  double min_ms = 20;
  std::int64_t arrive = 0;  ///< This many of the count come at once in every run; 0: the world is set up with all.
  int trace = 0;            ///< This many runs of every cell keep their frames one by one.
  std::vector<std::string> tune;  ///< Knobs whose best value is looked for.
};

/// Blocks of a plan that names neither blocks, time nor precision.
inline constexpr int usual_blocks = 5;

/// The scenario of that name among those offered. Throws Error (usage) with the nearest known name.
const Scenario& scenario_named(const std::string& name, const std::vector<Scenario>& offered);

/// A goal as people write it: `capacity`, `capacity@60hz`, `capacity@60hz:99%` (for 99 % of frames) or
/// `breakeven:objects,columns`. Throws Error (usage).
Goal parse_goal(const std::string& text, const std::string& field);

/// Checks a request against a scenario and spells it out: for every variant one series per combination of the values
/// given for the knobs that touch it, all other knobs at their defaults. Throws Error (usage) for an unknown or
/// unavailable variant, an unknown knob, a value out of range, or a knob that touches none of the variants; the message
/// names what would be accepted.
Plan make_plan(const Scenario& scenario, const PlanRequest& request);

/// Gives runs of a plan with a time at a single count, where nothing is aimed at, as much of it as its series allow:
/// `min_ms` at least. make_plan() does; who changes the series of a plan does again.
void lengthen_runs_at_one_count(Plan& plan, double min_ms);

}  // namespace mileage

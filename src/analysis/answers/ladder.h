// Ladder: changes in order. Effect of each on top of those before, alone, and when removed from the last.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/answers/capacity.h"
#include "analysis/curves/reading.h"
#include "study/study.h"

namespace mileage {

struct Analysis;
struct Questions;

/// Effect of a change on the cost.
struct Change {
  double takes = 1;  ///< Ratio to the cost without it.
  Interval takes_interval;
  double saves_ms = 0;  ///< Negative if it costs.

  bool is_known() const { return takes_interval.closed() && (*takes_interval.high < 1 || *takes_interval.low > 1); }
  bool is_gain() const { return is_known() && takes < 1; }
};

struct RungAt {
  std::string name;              ///< "base", or the settings as written.
  std::size_t series = 0;        ///< With everything up to this rung.
  bool changes_several = false;  ///< Sets several things at once.
  CostReading cost;
  std::optional<Change> on_top;      ///< Relative to the rung before; nothing for the base.
  std::optional<Change> alone;       ///< Base with it only, relative to the base.
  std::optional<Change> taken_away;  ///< Last rung relative to the last without it.
  Capacity capacity;
  double error = 0;                 ///< Largest relative error of its outcome, if it may differ.
  bool has_no_part_at_end = false;  ///< A later rung overrides it.
  bool is_inconclusive = false;     ///< No significant difference on top, alone or at the end.
  bool only_together = false;       ///< Significant gain with others only.
};

struct LadderAnswer {
  double x = 0;
  double budget_ms = 0;
  std::vector<RungAt> rungs;
  std::optional<Change> all;                ///< Last rung relative to the base.
  std::optional<std::size_t> first_within;  ///< First rung within budget at x.
  std::vector<std::string> not_measured;    ///< Names of rungs without runs at a place shared with the base.

  bool empty() const { return rungs.empty(); }
};

/// The series of a ladder. Settings that do not affect a series' variant are ignored; knobs that only that variant has
/// are at their defaults.
class Ladder {
 public:
  Ladder(const Scenario& scenario, const Plan& plan)
      : scenario_(scenario), base_(plan.series.front()), rungs_(plan.rungs) {}

  std::size_t rungs() const { return rungs_.size(); }
  /// Base with the first rungs.
  Series up_to(std::size_t rungs) const;
  Series alone(std::size_t rung) const;
  Series without_rung(std::size_t rung) const;
  /// All series that the answer compares, without repetition; base first.
  std::vector<Series> all() const;

 private:
  Series fitted(const Series& series) const;

  Scenario scenario_;
  Series base_;
  std::vector<Rung> rungs_;
};

/// At the first place asked for that the base covers; else the largest within budget, or the smallest. Empty without
/// rungs.
LadderAnswer ladder_answer(const Analysis& analysis, const Questions& questions);

/// One study per rung: its series named by Questions::between, or its only one. Intervals are those of independent
/// studies. Throws Error (usage) if a study has several series and none is named.
LadderAnswer ladder_of_studies(const std::vector<const Analysis*>& studies, const std::vector<std::string>& names,
                               const Questions& questions);

}  // namespace mileage

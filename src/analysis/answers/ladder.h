// Ladder: changes in order. What each brings on top of those before, alone, and when it is taken away from the last.
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

/// What a change does to the cost of a frame.
struct Change {
  double takes = 1;         ///< Times the cost without it.
  Interval takes_interval;  ///< 95 %; open below three blocks.
  double saves_ms = 0;      ///< Below zero where it costs.

  bool is_known() const { return takes_interval.closed() && (*takes_interval.high < 1 || *takes_interval.low > 1); }
  bool is_gain() const { return is_known() && takes < 1; }
};

struct RungAt {
  std::string name;              ///< "base", or the settings as they were written.
  std::size_t series = 0;        ///< Place among the series of the study: everything up to this rung.
  bool changes_several = false;  ///< Whether it sets two things at once, so that nobody knows which of them did it.
  CostReading cost;
  std::optional<Change> on_top;      ///< Against the rung before; nothing for the base.
  std::optional<Change> alone;       ///< Of the base with it alone, against the base.
  std::optional<Change> taken_away;  ///< Of the last rung, against the last without it: what it brings there.
  Capacity capacity;
  double error = 0;  ///< Largest relative difference of its outcome from the reference's, where it may differ.
  bool has_no_part_at_end = false;  ///< Taken away from the last, it leaves that as it is: a later rung undid it.
  bool is_inconclusive = false;     ///< Neither on top nor alone nor at the end is a difference told.
  bool only_together = false;       ///< Alone it brings nothing that is known, and with others it does.
};

struct LadderAnswer {
  double x = 0;
  double budget_ms = 0;
  std::vector<RungAt> rungs;                ///< The base first.
  std::optional<Change> all;                ///< The last against the base.
  std::optional<std::size_t> first_within;  ///< The first rung whose cost at x is within the budget.
  std::vector<std::string> not_measured;    ///< Rungs without runs at a place that the base has too, by name.

  bool empty() const { return rungs.empty(); }
};

/// The series of a ladder, as the rungs of a plan make them of its first series. Settings that do not touch the variant
/// of a series have no part in it, and knobs that only that variant has stand at their defaults.
class Ladder {
 public:
  Ladder(const Scenario& scenario, const Plan& plan)
      : scenario_(scenario), base_(plan.series.front()), rungs_(plan.rungs) {}

  std::size_t rungs() const { return rungs_.size(); }
  /// The base with this many rungs, from the first on.
  Series up_to(std::size_t rungs) const;
  /// The base with one rung.
  Series alone(std::size_t rung) const;
  /// All rungs but one.
  Series without_rung(std::size_t rung) const;
  /// All that the answer holds against each other, each once; the base first.
  std::vector<Series> all() const;

 private:
  Series fitted(const Series& series) const;

  Scenario scenario_;
  Series base_;
  std::vector<Rung> rungs_;
};

/// At the first place asked for that the base was measured at; else at the largest of the base that is within the
/// budget, or its smallest. Empty where the plan has no rungs.
LadderAnswer ladder_answer(const Analysis& analysis, const Questions& questions);

/// Studies one after the other, each a rung: of each the series named by Questions::between, or its only one. Their
/// costs do not share blocks: intervals are those of independent studies. Throws Error (usage) where a study has
/// several series and none is named.
LadderAnswer ladder_of_studies(const std::vector<const Analysis*>& studies, const std::vector<std::string>& names,
                               const Questions& questions);

}  // namespace mileage

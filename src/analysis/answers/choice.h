// Choice: which of several series to use from where to where along the axis.
#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "analysis/curves/reading.h"
#include "analysis/evidence/labels.h"

namespace mileage {

struct Analysis;
struct Questions;
class SeriesCurve;

/// One stretch of the axis.
struct ChoiceRange {
  double from = 0;
  double to = 0;
  std::size_t use = 0;  ///< Index of the series to use.
  bool matters = true;  ///< False where every series does as well: no difference is clear and worth anything.
  bool fits = true;     ///< Whether the series in use is within the budget.
  bool alone = false;   ///< Whether it began where no other series was measured.
  bool to_fit = false;  ///< Whether it is in use because simpler ones that do as well are over the budget.
  /// What was in use below, within the budget, and was not measured so far: the choice is among the others.
  std::optional<std::size_t> not_measured;
  bool past_budget = false;  ///< Whether it began where what was in use before, or still is, passes the budget.
  Interval from_interval;    ///< 95 % of `from`, where a change pays off (pays_off_from.h) or a budget is passed.
};

/// Goes upwards along the measured range, starting with the first series (the simplest), and stays with what is in use
/// as long as it does as well as the fastest: the saving is not significantly above `min_saving_ms`, corrected for the
/// number of places measured. Then it changes to the earliest series that does as well as the fastest and saves more
/// than `min_saving_ms` against what is in use. While only the fastest saves that much and simpler ones do nearly as
/// well, it waits for one of them, until twice `min_saving_ms` would be lost. No series that is over the budget is in
/// use where another one fits that is significantly faster. The border between two series is where the change pays off
/// (pays_off_from.h). If the series in use passes the budget, the border is its capacity (capacity.h), within both
/// stretches. A series takes part up to its largest count; where none was measured, there is no stretch. Beyond the end
/// of the series in use, others only replace it. Neighbouring places with the same answer become one stretch. `series`
/// must not be empty; `min_saving_ms` >= 0.
std::vector<ChoiceRange> choose(const std::vector<const SeriesCurve*>& series, double budget_ms, double min_saving_ms);

/// What a series saves against the first one of its group, in milliseconds a frame, from here to there.
struct Saving {
  double from = 0;
  double from_ms = 0;
  double to = 0;
  double to_ms = 0;
};

/// A stretch with what it saves.
struct ChosenStretch : ChoiceRange {
  std::optional<Saving> saving;  ///< As far as the first series of the group was measured; nothing where it was not.
  std::vector<std::pair<double, double>>
      saves_ms_at;  ///< At its ends, where both were measured: place and milliseconds.
};

/// What using one variant everywhere would lose against the best choice, where it was measured.
struct SingleVariant {
  std::size_t series = 0;
  double loses_ms = 0;  ///< At the worst place,
  double at = 0;        ///< which is here.
  double takes = 1;     ///< Times the cost of the choice there.
};

/// What stands at a place that was asked for: which series to use there, and from where on another.
struct Advice {
  double at = 0;
  std::size_t use = 0;  ///< Place among the series of the study.
  bool matters = false;
  bool fits = true;
  /// What to use from `next_from` on; nothing where only one is measured from there, or all but what was in use before.
  std::optional<std::size_t> next;
  double next_from = 0;
  Interval next_from_interval;                           ///< 95 %.
  std::vector<std::pair<std::size_t, double>> costs_ms;  ///< Of the group's series there, as far as they were measured.
};

/// The choice among series that share their conditions; series are named by their places in the study.
struct GroupChoice {
  Conditions shared;
  std::string conditions;            ///< Their text; empty when all series of the study share theirs.
  std::vector<std::size_t> members;  ///< Simplest first.
  std::vector<std::string> labels;   ///< One per member, without the conditions.
  std::vector<ChosenStretch> stretches;
  std::vector<SingleVariant> everywhere;
  std::vector<Advice> advice;  ///< One per place asked for that the group has measured.

  /// Of a member.
  const std::string& label(std::size_t series) const;
};

/// What is in use at a place; nullptr outside the stretches of the group.
const ChosenStretch* stretch_at(const GroupChoice& group, double x);

struct ChoiceAnswer {
  double budget_ms = 0;      ///< The first one asked for.
  double min_saving_ms = 0;  ///< What a difference must save to pay off.
  std::vector<GroupChoice> groups;
};

/// Advice is given at the places asked for, or at the only one.
ChoiceAnswer choice_answer(const Analysis& analysis, const Questions& questions);

}  // namespace mileage

// Choice: which series to use over which range.
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

struct ChoiceRange {
  double from = 0;
  double to = 0;
  std::size_t use = 0;  ///< Index of the series.
  bool matters = true;  ///< False if all series do as well.
  bool fits = true;     ///< Whether it is within the budget.
  bool alone = false;   ///< Began where no other series was measured.
  bool to_fit = false;  ///< Simpler ones that do as well are over budget.
  /// In use below and within budget, but not measured here.
  std::optional<std::size_t> not_measured;
  bool past_budget = false;  ///< Began where the previous series exceeds the budget.
  Interval from_interval;    ///< Of `from`: where the switch pays off or a budget is exceeded.
};

/// Starts with the first (simplest) series and keeps it until another one surely saves more than `min_saving_ms`,
/// corrected for the number of places. Then switches to the simplest series that is as good as the fastest and saves
/// that much. If only the fastest does and simpler ones nearly do, waits until twice `min_saving_ms` would be lost. No
/// series over budget is used where a significantly faster one fits; the border is then the capacity (capacity.h),
/// otherwise where the switch pays off (pays_off_from.h). Beyond its largest count a series is only replaced. `series`
/// must not be empty.
std::vector<ChoiceRange> choose(const std::vector<const SeriesCurve*>& series, double budget_ms, double min_saving_ms);

/// Against the first series of the group, in ms per frame.
struct Saving {
  double from = 0;
  double from_ms = 0;
  double to = 0;
  double to_ms = 0;
};

struct ChosenStretch : ChoiceRange {
  std::optional<Saving> saving;  ///< Where the first series was measured.
  std::vector<std::pair<double, double>>
      saves_ms_at;  ///< Place and milliseconds at its ends, where both were measured.
};

/// What using one variant throughout would lose against the best choice.
struct SingleVariant {
  std::size_t series = 0;
  double loses_ms = 0;  ///< At the worst place, `at`.
  double at = 0;
  double takes = 1;  ///< Ratio to the cost of the choice there.
};

/// For a place asked for.
struct Advice {
  double at = 0;
  std::size_t use = 0;
  bool matters = false;
  bool fits = true;
  /// What to use from `next_from`; nothing if only one is measured from there.
  std::optional<std::size_t> next;
  double next_from = 0;
  Interval next_from_interval;
  std::vector<std::pair<std::size_t, double>> costs_ms;  ///< Per series of the group, where measured.
};

/// Series under the same conditions, by their index in the study.
struct GroupChoice {
  Conditions shared;
  std::string conditions;  ///< Empty if all series share theirs.
  std::vector<std::size_t> members;
  std::vector<std::string> labels;  ///< Per member.
  std::vector<ChosenStretch> stretches;
  std::vector<SingleVariant> everywhere;
  std::vector<Advice> advice;  ///< Per place asked for.

  const std::string& label(std::size_t series) const;
};

/// nullptr outside the group's range.
const ChosenStretch* stretch_at(const GroupChoice& group, double x);

struct ChoiceAnswer {
  double budget_ms = 0;  ///< The first one.
  double min_saving_ms = 0;
  std::vector<GroupChoice> groups;
};

/// Advice is for the places asked for, or the only one.
ChoiceAnswer choice_answer(const Analysis& analysis, const Questions& questions);

}  // namespace mileage

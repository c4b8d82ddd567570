// The horizontal axis: the count, a numeric knob, or a counter.
#pragma once

#include <string>
#include <vector>

#include "analysis/evidence/agreement.h"
#include "analysis/evidence/judged_run.h"
#include "study/study.h"

namespace mileage {

inline constexpr const char* count_axis = "count";

struct Axis {
  std::string name = count_axis;  ///< Of the count, a knob or a counter.
  bool is_whole = true;
  std::string things;      ///< Plural: "lanterns", or the axis name.
  std::string thing;       ///< Singular: "lantern", "unit of work".
  bool is_choice = false;  ///< A variant's own knob: the question is its best value.
};

/// Count if whole or >= 1,000; otherwise up to three digits.
std::string place_text(double x, const Axis& axis);

struct StudyOnAxis {
  Axis axis;
  Head head;                    ///< With its series and knobs as they are on this axis.
  std::vector<JudgedRun> runs;  ///< In study order, not judged yet; without runs that have no place.
};

/// Over a knob, "count" takes its place among the knobs; series that it does not affect are excluded. Over a counter,
/// the place of a cell is the median over runs of the counter per frame. Checks and series that may not answer are
/// excluded on both. Throws Error (usage) for an unknown name, with the nearest one, for a knob without numbers and for
/// a single value. The study must outlive the result.
StudyOnAxis put_on_axis(const Study& study, const std::string& axis, const std::vector<Agreement>& agreements);

std::string one_entity(const Scenario& scenario);

}  // namespace mileage

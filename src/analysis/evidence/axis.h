// What stands on the horizontal axis: the count, or a numeric knob, or a counter.
#pragma once

#include <string>
#include <vector>

#include "analysis/evidence/agreement.h"
#include "analysis/evidence/judged_run.h"
#include "study/study.h"

namespace mileage {

inline constexpr const char* count_axis = "count";

struct Axis {
  std::string name = count_axis;  ///< The count, a knob or a counter.
  bool is_whole = true;           ///< Whether places are whole numbers of things.
  std::string things;             ///< What is counted along it, in the plural: "lanterns", or the name of the axis.
  std::string thing;              ///< One step along it: "lantern", "unit of work".
  bool is_choice = false;  ///< Whether it is a knob that variants alone have: which value is best is the question.
};

/// A place on the axis: as a count where places are whole numbers and from 1,000 on, at most three digits otherwise.
std::string place_text(double x, const Axis& axis);

/// A study with its runs put on an axis.
struct StudyOnAxis {
  Axis axis;
  Head head;                    ///< Series of the plan and knobs of the scenario as they are on this axis.
  std::vector<JudgedRun> runs;  ///< In the order of the study, not judged yet; those that have no place are excluded.
};

/// Over a knob, series are divided by count instead of by the knob ("count" joins the knobs of the scenario, the knob
/// leaves them), and series that the knob does not touch are excluded. Over a counter, a cell stands at the median over
/// its runs of the counter per frame. On either of them checks have no place, and neither have runs of series that
/// may not answer: outcomes were compared by series as they were measured. Throws Error (usage) for a name that is
/// neither, with the nearest that is, for a knob without numbers, and for one that the study holds at a single value.
/// The study must outlive the result.
StudyOnAxis put_on_axis(const Study& study, const std::string& axis, const std::vector<Agreement>& agreements);

/// "lantern": as the scenario says, or by its plural.
std::string one_entity(const Scenario& scenario);

}  // namespace mileage

// How often intervals hold the truth: many studies of one simulated machine, scored against what is known of it.
#pragma once

#include <array>
#include <vector>

#include "support/simulated_machine.h"

namespace mileage::simulated {

/// One figure of one cell, over all its studies.
struct Tally {
  int asked = 0;     ///< Studies that had to answer.
  int answered = 0;  ///< With an interval of which one end at least is known.
  int held = 0;
  int open_ended = 0;  ///< Of the answered: one end is open, the truth lies beyond the other end.
  int above = 0;       ///< Intervals wholly above the truth.
  int below = 0;
  std::vector<double> widths;  ///< Of the closed ones: relative, full.

  double share() const { return answered > 0 ? 100.0 * held / answered : 0; }
  void add(const Tally& other) {
    asked += other.asked;
    answered += other.answered;
    held += other.held;
    open_ended += other.open_ended;
    above += other.above;
    below += other.below;
    widths.insert(widths.end(), other.widths.begin(), other.widths.end());
  }
};

/// Costs and shares are those at half of the capacity; the last two are capacities at 0.5 and 1.8 times the budget. No
/// counts are aimed at any of these, and the last lies beyond the counts measured.
enum Figure {
  exponent,
  capacity_at_budget,
  break_even,
  capacity_for_99,
  cost,
  share,
  pays_off_from_text,
  capacity_at_half,
  capacity_beyond,
  best_value,       ///< Of a knob: whether the best one is among those that may be.
  plateau,          ///< Whether no value that is as good is excluded of them; widths: told against true, how many.
  serial_share,     ///< Of time against workers.
  rung_on_top,      ///< What a change of a ladder brings on top of those before,
  rung_alone,       ///< alone,
  rung_taken_away,  ///< and taken away from the last.
  figures
};
inline constexpr std::array<const char*, figures> figure_names{
    "exponent", "capacity",      "break-even",         "99 % capacity",  "cost",
    "share",    "pays off from", "at half the budget", "at 1.8 budgets", "best value",
    "plateau",  "serial share",  "rung on top",        "rung alone",     "rung taken away"};
inline constexpr bool is_aimed_at(std::size_t figure) { return figure <= capacity_for_99; }
/// Sets that are to hold something: how often they do has no upper bound.
inline constexpr bool is_a_set(std::size_t figure) { return figure == best_value || figure == plateau; }

struct CellTally {
  std::array<Tally, figures> figure;
  int laws_named = 0;
  int laws_wrong = 0;
  int never = 0;        ///< Studies of a pair that never crosses,
  int told_anyway = 0;  ///< and those of them that report a break-even.
};

/// Where 99 % of the frames of the one are within the budget, on the machine as it was in a study with at least a
/// thousand of them around one place. Longer frames add up more of its moments, so that how slow they are depends on
/// the place: between those that were measured, on a line. `log_slowness`: what measured_study told.
double truth_for_99(const Truth& truth, const Disturbance& noise, const Study& study,
                    const std::vector<std::vector<float>>& log_slowness);

/// This many studies of one machine, on all cores. Seeds depend on the number of the study
/// alone.
CellTally run_cell(const Truth& truth, const Disturbance& noise, int studies);

/// The same for the capacity that 99 % of frames hold, which takes runs of many more frames.
CellTally run_tail_cell(const Truth& truth, const Disturbance& noise, int studies);

/// Studies that tune a batch, that tell time against workers, and of a ladder of three changes: their values cost what
/// this file says, on a machine of that noise.
CellTally run_explaining_cell(Disturbance noise, int studies);

}  // namespace mileage::simulated

// Frames: one cell frame by frame. How high spikes are, how often they come, where in the frame they sit and whether
// they come back; how frames settle; how many are over the budget, and the longest run of those.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/statistics/interval.h"
#include "analysis/statistics/periods.h"
#include "study/study.h"

namespace mileage {

struct Analysis;
struct Questions;

/// What a phase has of the time by which spikes pass the frames around them.
struct SpikePart {
  std::string phase;  ///< Empty for what lies in no phase.
  double share = 0;
};

/// A spike: a frame, or a few in a row, that takes half more than the frames around it and than the typical one. A slow
/// stretch of the machine is none, as far as it lasts longer than that.
struct Spikes {
  std::size_t seen = 0;
  double a_thousand_frames = 0;
  Interval rate_interval;   ///< 95 %, of that rate, from the spread between runs; open below three of them.
  double times_around = 0;  ///< A spike takes this many times the frames around it: median.
  double worst_ms = 0;      ///< The highest.
  std::optional<Period> period;
  /// Of runs whose phases were kept frame by frame, the largest first; empty where there are none.
  std::vector<SpikePart> parts;
};

/// The first frames of runs: after entities came, or after a world was set up.
struct Settling {
  bool after_arrival = false;
  std::size_t seen = 0;   ///< Runs.
  double from_ms = 0;     ///< The highest of the first frames: median over runs.
  double frames = 0;      ///< Until frames stay within a tenth of the settled one: median,
  double takes_ms = 0;    ///< and the time these take.
  std::size_t never = 0;  ///< Runs whose frames did not settle.
};

/// How frames settle against how many arrive, where three sizes or more were seen.
struct SettlingLaw {
  double exponent = 0;  ///< Of frames until settled, over how many arrive at once.
  Interval interval;    ///< 95 %, from the scatter of the sizes around it.
};

/// Frames at one place after the beginning, over all runs: what stands in a figure.
struct FrameAfter {
  std::size_t number = 0;  ///< From 0.
  double typical_ms = 0;   ///< Median over runs,
  double worst_ms = 0;     ///< and the worst of them.
};

/// What the workers of a cell do in a frame, where its frames note it: means over runs, in milliseconds a frame.
struct WorkShare {
  std::vector<double> busy_ms;  ///< Of each worker, the busiest first: whose number is whose says nothing.
  double entities = 0;          ///< Worked through by all of them, a frame,
  double batches = 0;           ///< in this many batches.
  double largest_ms = 0;        ///< The longest batch of all.
  /// Nothing where frames are timed several at once.
  std::optional<double> before_ms;         ///< Until the first batch,
  std::optional<double> after_ms;          ///< and from the last one on.
  std::optional<double> idle_share;        ///< Of the workers' time between these.
  std::optional<double> balance_saves_ms;  ///< What a frame would save if the work were shared out evenly.
  Interval balance_interval;               ///< 95 %, from the spread between runs; open below three.
};

struct CellFrames {
  std::size_t series = 0;  ///< Place among the series of the study.
  double x = 0;
  std::optional<double> asked_at;  ///< Nothing where no place was asked for.
  std::size_t runs = 0;
  std::size_t traced = 0;  ///< Runs among them that kept their phases frame by frame.
  std::size_t frames = 0;
  int frames_per_sample = 1;      ///< Above 1 nothing is known of single frames, and all below is empty.
  double typical_ms = 0;          ///< Median of all frames, as recorded.
  std::optional<double> cost_ms;  ///< What `cost` says of the place: corrected for a slow machine.
  Spikes spikes;
  std::optional<Settling> settling;  ///< Nothing where no run has its first frames.
  std::optional<SettlingLaw> settling_law;
  std::optional<WorkShare> work;  ///< Nothing where nobody noted work.
  double share_over = 0;          ///< Of frames that are over the budget.
  Interval share_over_interval;
  std::size_t longest_run_over = 0;  ///< Frames in a row that are.
  double worst_ms = 0;
  std::vector<FrameAfter> beginning;  ///< The first frames, from the arrival or the set-up on.
  std::vector<double> sorted_ms;      ///< All frames by time, ascending, thinned to at most 400.
};

struct FramesAnswer {
  double budget_ms = 0;
  std::vector<CellFrames> cells;
};

/// Batches of the traced runs of these cells as CSV: series, place, run, frame, worker, begin_ms and end_ms after
/// the frame's start, entities. The header alone where none noted any.
std::string spans_csv(const Analysis& analysis, const FramesAnswer& answer);

/// One cell for each series, or for those of the variants named in Questions::between: the measured place nearest to
/// the (first) one asked for; without it the largest whose typical frame is within the first budget, or the smallest.
/// Times are wall times, as a player sees them: what frames waited for a core is in them, but makes no spike.
FramesAnswer frames_answer(const Analysis& analysis, const Questions& questions);

}  // namespace mileage

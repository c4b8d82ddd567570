// A study being measured. The phases of the loop (checking.h, range_finding.h, rounds.h) advance it.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <set>
#include <tuple>
#include <utility>
#include <vector>

#include "analysis/curves/rough_curves.h"
#include "measure/loop/block_order.h"
#include "measure/loop/run_cost.h"
#include "measure/loop/run_recorder.h"

namespace mileage {

/// A run whose outcome is to be compared.
struct DrawnRun {
  Cell cell;
  int frames = 0;
  double takes_s = 0;  ///< Upper bound.
};

/// Of a reference that is no series.
struct ReferenceCosts {
  Series reference;
  KnownCosts costs;
};

/// Which figure of which series.
using FigureKey = std::tuple<int, int, int, int, bool>;

struct StudyState {
  /// Arguments must outlive it.
  StudyState(const Head& head, const std::vector<Run>& made, Runner& runner, Clock& clock, const Watch& watch);

  /// Asks the watch; a stop is final.
  bool is_stop_asked();
  std::size_t index_of(const Series& series) const;
  /// Its outcome agrees, and it did not time out there.
  bool may_run(std::size_t series, std::int64_t count) const;
  /// And it is a count that may be added.
  bool may_be_tried(std::size_t series, double count) const;
  /// Repeats a run that timed out unexpectedly (the machine stood still) if time remains. A series that times out by
  /// itself ends at that count.
  Run run(const Order& order, double foreseen_s, Progress& progress);
  /// A run timed out there.
  void end_at(std::size_t series, std::int64_t count);
  /// True without a time.
  bool has_spent_less_than(double share) const;
  /// Recorded runs count whatever their time.
  bool is_out_of_time() const;
  /// Unless it is measured after all.
  void leave_out(std::size_t series, std::int64_t count, LeftOutWhy why) { left_out[{series, count}] = why; }

  const Head& head;
  const Plan& plan;
  const Watch& watch;
  RunRecorder recorder;

  std::vector<bool> is_excluded;                ///< By series.
  std::vector<std::int64_t> ends;               ///< By series: smallest count that timed out, or the maximum.
  std::vector<KnownCosts> known;                ///< By series.
  std::vector<ReferenceCosts> reference_costs;  ///< Unmeasured ones, from checks.
  std::map<std::pair<std::size_t, std::int64_t>, LeftOutWhy> left_out;  ///< By series and count.
  std::vector<Cell> ladder;                                             ///< Plan counts that each series reached.
  std::vector<Cell> cells;                                              ///< Of the current round.

  // What the runs so far show.
  std::map<std::pair<std::size_t, std::int64_t>, int> runs_of;  ///< In rounds, by series and count.
  std::vector<ModelRow> rows, range_rows;                       ///< Of rounds, and of range finding.
  std::map<DisturbanceFilter::Kind, int> kinds;                 ///< Of probes.
  std::set<std::int64_t> added;                                 ///< Counts around figures,
  std::map<FigureKey, double> middles;                          ///< and their middles.
  std::unique_ptr<RoughCurves> curves;

  double overrun = 1;  ///< Last round's time / predicted.
  double rounds_since_s = 0;
  bool is_cut_short = false;      ///< By time or the watch.
  std::optional<DrawnRun> drawn;  ///< Waiting for time.
  double run_checks_s = 0;
  Summary summary;

 private:
  void note(const Run& run);
};

}  // namespace mileage

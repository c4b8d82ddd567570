// Findings: everything that is read from one study, ready to be shown. Views take it as it is and compute nothing.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/agreement.h"
#include "analysis/break_even.h"
#include "analysis/capacity.h"
#include "analysis/cell_details.h"
#include "analysis/choice.h"
#include "analysis/device_share.h"
#include "analysis/disturbance.h"
#include "analysis/evidence.h"
#include "study/study.h"

namespace mileage {

/// What is asked of a study.
struct Questions {
  std::vector<double> budgets_ms;    ///< Each > 0; empty means the budget of the plan.
  std::vector<double> at;            ///< Places to state costs at; empty means a few within the measured range.
  std::string axis = "count";        ///< What stands on the axis: "count", a numeric knob or a counter.
  std::string against;               ///< Variant that all others are held against, place by place; empty for none.
  std::vector<std::string> between;  ///< Variants whose pairs are asked for; empty means each with the next one.
  bool compares = true;  ///< Whether series are held against each other; without it there are no pairs and no groups.
  bool within_runs = false;          ///< Leave out what is assumed between runs of a program: what more blocks of the same run would narrow.
  double worth_share = 0.02;         ///< Share of the first budget that a difference must save to be worth any code.
};

/// A cell's place on the curve.
struct PointFinding {
  double x = 0;
  double ms = 0;
  Interval interval;  ///< 95 %, from leaving out blocks.
  int visits = 0;
};

/// A place where the slope of a series changes.
struct KneeFinding {
  double at = 0;
  Interval interval;                  ///< 95 %; open where a curve without one of the blocks has no such knee.
  std::optional<double> slope_ratio;  ///< Slope above over slope below; nothing where it is flat below.
  std::string cache;                  ///< The cache whose size the entities pass nearest to it, within a factor of two; else empty.
};

struct SeriesFinding {
  Series series;
  std::string label;
  int rank = 0;  ///< Place of the variant in the scenario; decides colour and marker.
  int series_of_variant = 0;  ///< 0 for the variant's first series, 1 for its second ...; decides the dash.
  std::vector<std::optional<double>> setup_ms;  ///< Median set-up time at each point; nothing where it is not known.
  SeriesCurve curve;
  std::vector<PointFinding> points;
  std::vector<CellDetail> details;  ///< One per point.
  std::vector<std::optional<DeviceShare>> device_shares;  ///< One per detail; nothing where no device is at work.
  std::optional<double> exponent;  ///< Of the free power law with a fixed cost.
  Interval exponent_interval;
  std::optional<double> exponent_at_least;  ///< Local exponent at the smallest place, by the law or between the points;
                                            ///< nothing at a single place,
  std::optional<double> exponent_at_most;   ///< and at the largest.
  std::vector<KneeFinding> knees;
};

struct CapacityFinding {
  std::size_t series = 0;  ///< Index into Findings::series.
  Capacity capacity;               ///< For the typical frame.
  std::optional<Capacity> tail;    ///< For 99 % of frames; nothing where there are not enough frames around it.
  std::size_t tail_frames = 0;     ///< Pooled frames at the place nearest to the capacity.
};

/// A knob among whose number the count is shared out, where both series of a pair have the same.
struct Divider {
  std::string knob;  ///< Such as "kinds".
  double number = 1;
};

/// What a frame of a series takes at a place that was asked for.
struct PlaceFinding {
  double x = 0;
  std::size_t series = 0;    ///< Index into Findings::series.
  std::optional<double> ms;  ///< Nothing where the series was not measured that far.
  Interval interval;         ///< 95 %.
};

struct PairFinding {
  std::size_t one = 0;
  std::size_t other = 0;
  PairAnswer answer;
  std::optional<Divider> divider;  ///< Nothing unless the axis is the count.
};

/// What a frame of every series costs at one place.
struct CostFinding {
  struct Cost {
    std::size_t series = 0;
    std::optional<double> ms;  ///< Nothing where the series was not measured that far.
    Interval ms_interval;      ///< 95 %.
    double saves_ms = 0;       ///< Against the first series of the group; negative when it costs more.
    double share = 1;          ///< Takes this share of the time of the first series of the group.
    Interval share_interval;   ///< 95 %; open for the first series itself.
    std::optional<double> setup_ms;        ///< Set-up time there, between the points.
    std::optional<double> payback_frames;  ///< Frames until a dearer set-up than the first series' is earned back.
  };
  double x = 0;
  std::vector<Cost> costs;
};

/// What using one variant everywhere would lose against the best choice, where it was measured.
struct Everywhere {
  std::size_t series = 0;
  double loses_ms = 0;  ///< At the worst place,
  double at = 0;        ///< which is here.
  double takes = 1;     ///< Times the cost of the choice there.
};

/// What stands at a place that was asked for, in words' order: which series to use there, and from where on another.
struct Advice {
  double at = 0;
  std::size_t use = 0;               ///< Index into Findings::series.
  bool matters = false;
  bool fits = true;
  std::optional<std::size_t> next;   ///< What to use from `next_from` on.
  double next_from = 0;
};

/// A series held against another, at the places that both have measured.
struct AgainstFinding {
  std::size_t series = 0;
  std::size_t against = 0;
  struct Place {
    double x = 0;
    double share = 1;  ///< Takes this share of the other's time.
    Interval interval; ///< 95 %.
    double saves_ms = 0;
  };
  std::vector<Place> places;
};

/// Answers for series that share their conditions.
struct GroupFinding {
  std::string conditions;            ///< Empty when all series of the study share theirs.
  std::vector<std::size_t> members;  ///< Indices into Findings::series, simplest first.
  std::vector<Stretch> stretches;    ///< `use` is an index into Findings::series here.
  std::vector<Everywhere> everywhere;
  std::vector<Advice> advice;        ///< One per place asked for that the group has measured.
  std::vector<CostFinding> costs;
};

/// A cell of which only an upper bound is known.
struct BoundFinding {
  std::string label;
  double x = 0;
  double at_most_ms = 0;
  std::string reason;
};

struct Findings {
  std::string study;  ///< Base name of the study file.
  Head head;
  std::string axis;
  std::size_t blocks = 0;
  std::size_t runs = 0;    ///< Runs of a program that made several blocks each; 0 where no run made more than one.
  std::size_t visits = 0;  ///< Kept visits.
  std::vector<double> budgets_ms;
  std::vector<double> at;  ///< Places asked for; empty where none were.
  double worth_ms = 0;
  std::vector<SeriesFinding> series;
  std::vector<PlaceFinding> places;  ///< Place by place of `at`, in each the series in their order.
  std::vector<CapacityFinding> capacities;  ///< Budget by budget, in each the series in their order.
  std::vector<PairFinding> pairs;
  std::vector<AgainstFinding> against;
  std::vector<GroupFinding> groups;
  std::vector<Failure> failures;
  std::vector<BoundFinding> bounds;  ///< Ascending for each series.
  std::vector<Agreement> agreements;  ///< One per series of the plan.
  Quietness quiet;
  std::vector<std::string> warnings;
};

/// Analyses a study. Throws Error (bad input) when it holds no kept visit, or when `between` names an unknown variant.
/// Costs B + 1 fits per series; a study of 4 series, 12 counts and 8 blocks takes well under a second.
Findings analyse(const Study& study, const Questions& questions);

}  // namespace mileage

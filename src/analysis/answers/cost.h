// What a frame of every series costs at given places: whether it fits the budget, what it saves, what else differs.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/answers/parts.h"
#include "analysis/curves/reading.h"
#include "analysis/evidence/agreement.h"

namespace mileage {

struct Analysis;
struct Questions;

/// Whether a cost is within the budget.
enum class Fit {
  fits,
  over,
  inconclusive  ///< The budget is inside its interval.
};

/// How single frames spread around the cost, in the same corrected time.
struct FrameSpread {
  double typical_ms = 0;
  double mean_ms = 0;            ///< Total time / frames.
  std::optional<double> p99_ms;  ///< 99 % of frames stay below; nothing from fewer than 1,000 of them.
  double share_over = 0;         ///< Of frames that exceed the budget.
};

struct SeriesCost {
  std::size_t series = 0;           ///< Place among the series of the study.
  std::optional<CostReading> cost;  ///< Nothing where the series was not measured that far.
  Fit fit = Fit::fits;              ///< Of a cost that is known; by its value alone where it has no interval,
  double left_ms = 0;               ///< and what is left of the budget: negative where it is over.
  /// Nothing where no run at a place nearby timed its frames one by one. Where more than 5 % of the frames exceed a
  /// budget that the cost fits, the mean decides whether it does.
  std::optional<FrameSpread> spread;
  double saves_ms = 0;                   ///< Against the first series of the group; negative when it costs more.
  double share = 1;                      ///< Takes this share of the time of the first series of the group.
  Interval share_interval;               ///< 95 %; open for the first series itself.
  bool is_significant = false;           ///< Whether it is significant, corrected for all that are listed.
  std::optional<double> setup_ms;        ///< Set-up time there, between the points.
  std::optional<double> payback_frames;  ///< Frames until a slower set-up than the first series' is earned back.
};

/// What a frame costs at one place.
struct PlaceCosts {
  double x = 0;
  std::vector<SeriesCost> costs;  ///< One per member of the group.
};

/// Something besides the frame time in which members of a group differ.
struct Trait {
  std::string name;                           ///< "set-up", "cores used", "phase wind", "counter batches" ...
  std::string unit;                           ///< "ms", "bytes a lantern"; empty for a bare number.
  std::vector<std::optional<double>> values;  ///< One per member; nothing where it has none or unknown.
  std::vector<bool> is_known;  ///< One per member: whether it has it: of a phase or a counter also by having none.
};

struct GroupCosts {
  std::string conditions;            ///< Empty when all series of the study share theirs.
  std::vector<std::size_t> members;  ///< Simplest first.
  std::vector<std::string> labels;   ///< One per member, without the conditions.
  std::vector<PlaceCosts> places;
  /// The largest place at which the cost of the first series is known; the largest of all where that is nowhere.
  const PlaceCosts& known_place() const;
  double traits_at = 0;  ///< The place that the traits are of: the last one shown at which most members were measured,
                         ///< or where none of those was, the nearest to the told one.
  std::vector<Trait> traits;
  /// One per member: how far its pictures are from the reference's; nothing where it leaves none.
  std::vector<std::optional<PictureError>> pictures;
};

struct CostAnswer {
  double budget_ms = 0;   ///< The first one asked for.
  double reserve_ms = 0;  ///< What the rest of the frame takes: the budget is without it.
  std::vector<GroupCosts> groups;
};

/// At the places asked for; at all that were measured, where those are few, or at up to three round ones. `parts` of
/// the same study tell set-up times and the traits.
CostAnswer cost_answer(const Analysis& analysis, const PartsAnswer& parts, const Questions& questions);

}  // namespace mileage

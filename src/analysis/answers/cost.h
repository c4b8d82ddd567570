// Cost: frame time of every series at given places, whether it fits, what it saves, what else differs.
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

enum class Fit {
  fits,
  over,
  inconclusive  ///< The budget is inside the interval.
};

/// Spread of single frames around the cost, corrected as it is.
struct FrameSpread {
  double typical_ms = 0;
  double mean_ms = 0;
  std::optional<double> p99_ms;  ///< From 1,000 frames on.
  double share_over = 0;
};

struct SeriesCost {
  std::size_t series = 0;
  std::optional<CostReading> cost;
  Fit fit = Fit::fits;  ///< By its value alone if it has no interval.
  double left_ms = 0;   ///< Negative if over.
  /// If some run nearby timed single frames. The mean decides the fit where over 5 % of frames exceed a budget that the
  /// cost fits.
  std::optional<FrameSpread> spread;
  double saves_ms = 0;  ///< Against the first series of the group.
  double share = 1;     ///< Ratio to the first series of the group.
  Interval share_interval;
  bool is_significant = false;           ///< Corrected for all that are listed.
  std::optional<double> setup_ms;        ///< Interpolated.
  std::optional<double> payback_frames;  ///< Frames until a slower set-up than the first series' is repaid.
};

struct PlaceCosts {
  double x = 0;
  std::vector<SeriesCost> costs;  ///< Per member of the group.
};

/// What else members of a group differ in.
struct Trait {
  std::string name;  ///< "set-up", "cores used", "phase wind", "counter batches" ...
  std::string unit;
  std::vector<std::optional<double>> values;  ///< Per member.
  std::vector<bool> is_known;                 ///< Per member; an absent phase or counter is known, too.
};

struct GroupCosts {
  std::string conditions;  ///< Empty if all series share theirs.
  std::vector<std::size_t> members;
  std::vector<std::string> labels;  ///< Per member.
  std::vector<PlaceCosts> places;
  /// The largest place at which the cost of the first series is known, or else the largest.
  const PlaceCosts& known_place() const;
  double traits_at = 0;  ///< Last place shown at which most members were measured.
  std::vector<Trait> traits;
  /// Per member: difference of its pictures from the reference's.
  std::vector<std::optional<PictureError>> pictures;
};

struct CostAnswer {
  double budget_ms = 0;   ///< The first one.
  double reserve_ms = 0;  ///< Rest of the frame; already subtracted from the budget.
  std::vector<GroupCosts> groups;
};

/// At the places asked for, or else at all measured ones if few, or up to three round ones. `parts` of the same study.
CostAnswer cost_answer(const Analysis& analysis, const PartsAnswer& parts, const Questions& questions);

}  // namespace mileage

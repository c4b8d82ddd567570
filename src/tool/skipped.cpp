#include "tool/skipped.h"

#include <algorithm>
#include <map>
#include <utility>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/evidence/labels.h"
#include "views/words.h"

namespace mileage {
namespace {

/// JSON lists all.
constexpr std::size_t max_listed_counts = 4;

/// With what would keep it, if anything.
struct Reason {
  const char* why;
  const char* kept_by;
};

constexpr const char* more_time = "a longer --time keeps them";

/// `is_timed`: has a time limit.
Reason reason_of(LeftOutWhy why, bool is_timed) {
  switch (why) {
    case LeftOutWhy::outcome_differs:
      return {"wrong results", nullptr};
    case LeftOutWhy::over_limit:
      return is_timed ? Reason{"a run took longer than a tenth of the time", more_time}
                      : Reason{"a run took longer than 10 s, or 20x its prediction", nullptr};
    case LeftOutWhy::over_budget:
      return {"far over the budget", "--no-refine or a larger --budget keeps them"};
    case LeftOutWhy::beside_aim:
      return {"close to the capacity, where other counts are measured", "--no-refine keeps them"};
    case LeftOutWhy::range_finding_time:
      return {"no time to find their cost", more_time};
    case LeftOutWhy::block_time:
      return {"to fit enough blocks into the time", more_time};
    case LeftOutWhy::not_best:
      return {"clearly slower than the best value", "`measure` with these values keeps them"};
    case LeftOutWhy::not_reached:
      return {"the study ended before", more_time};
  }
  return {"", nullptr};
}

struct OneReason {
  LeftOutWhy why;
  std::vector<std::int64_t> counts;
  std::vector<std::string> labels;
};

std::vector<OneReason> reasons_by_series(const Summary& summary, const Plan& plan) {
  std::map<std::pair<LeftOutWhy, std::size_t>, std::vector<std::int64_t>> counts;
  for (const LeftOut& one : summary.left_out) counts[{one.why, one.series}].push_back(one.count);
  std::vector<OneReason> reasons;
  for (const auto& [key, of_series] : counts) {
    const LeftOutWhy why = key.first;
    auto same = std::find_if(reasons.begin(), reasons.end(), [&why, &counts = of_series](const OneReason& reason) {
      return reason.why == why && reason.counts == counts;
    });
    if (same == reasons.end()) same = reasons.insert(same, {why, of_series, {}});
    same->labels.push_back(label_of(plan.series[key.second], plan.series));
  }
  return reasons;
}

/// Listed, or as number and range.
std::string counts_text(const std::vector<std::int64_t>& counts, const Plan& plan) {
  std::vector<std::string> texts;
  for (const std::int64_t count : counts) texts.push_back(count_text(static_cast<double>(count)));
  if (counts.size() == plan.counts.size()) return "every count";
  if (counts.size() <= max_listed_counts) return fmt::format("{}", fmt::join(texts, ", "));
  return fmt::format("{} of {} counts from {} to {}", counts.size(), plan.counts.size(), texts.front(), texts.back());
}

std::string cells_text(const OneReason& reason, const Plan& plan) {
  return fmt::format("{} at {}", fmt::join(reason.labels, ", "), counts_text(reason.counts, plan));
}

const char* skipped_counts(Skipped skipped) {
  if (skipped < Skipped::middles) return "two of five";
  if (skipped == Skipped::aims) return "all";
  return skipped < Skipped::sides ? "three of five" : "four of five";
}

const char* skipped_frames(Skipped skipped) {
  if (skipped < Skipped::half_the_frames) return "";
  return skipped < Skipped::max_of_the_frames ? ", half of the frames" : ", most of the frames";
}

std::string skipped_text(Skipped skipped, const Goal& goal) {
  if (skipped < Skipped::ends) return {};
  const bool without_break_evens = skipped >= Skipped::break_evens && goal.figure.empty();
  return fmt::format("{}{}{}", without_break_evens ? "counts around break-evens, " : "", skipped_counts(skipped),
                     without_break_evens ? " around each capacity" : " counts around each figure") +
         skipped_frames(skipped);
}

}  // namespace

std::vector<std::string> skipped_lines(const Summary& summary, const Plan& plan) {
  std::vector<std::string> lines, cells;
  const std::vector<OneReason> reasons = reasons_by_series(summary, plan);
  for (auto reason = reasons.begin(); reason != reasons.end(); ++reason) {
    cells.push_back(cells_text(*reason, plan));
    if (std::next(reason) != reasons.end() && std::next(reason)->why == reason->why) continue;
    const auto [why, kept_by] = reason_of(reason->why, plan.time_s > 0);
    lines.push_back(fmt::format("skipped ({}): {}{}.", why, fmt::join(cells, "; "),
                                kept_by == nullptr ? "" : fmt::format("; {}", kept_by)));
    cells.clear();
  }
  const std::string skipped = skipped_text(summary.skipped, plan.goal);
  if (!skipped.empty())
    lines.push_back(fmt::format("skipped (to fit enough blocks into the time): {}; {}.", skipped, more_time));
  if (summary.untraced > 0)
    lines.push_back(
        fmt::format("skipped: {} runs that were to keep every frame; a fifth of the time goes to these; {}.",
                    summary.untraced, more_time));
  return lines;
}

Json skipped_json(const Summary& summary, const Plan& plan) {
  Json all = Json::array();
  for (const OneReason& reason : reasons_by_series(summary, plan)) {
    const auto [why, kept_by] = reason_of(reason.why, plan.time_s > 0);
    all.push_back({{"series", reason.labels},
                   {"counts", reason.counts},
                   {"reason", why},
                   {"kept_by", kept_by == nullptr ? Json(nullptr) : Json(kept_by)}});
  }
  return all;
}

}  // namespace mileage

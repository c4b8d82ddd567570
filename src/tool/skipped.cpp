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
    case LeftOutWhy::others_say_more:
      return {"other counts narrow the answers more", "--no-refine keeps them"};
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

#include "tool/left_out.h"

#include <algorithm>
#include <map>
#include <utility>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/evidence/labels.h"
#include "views/words.h"

namespace mileage {
namespace {

/// Counts that are listed one by one; JSON lists all.
constexpr std::size_t most_counts_told = 4;

/// Why, and the option that would have kept it; nothing where none would.
struct Reason {
  const char* why;
  const char* kept_by;
};

/// `is_timed`: whether the study has a limit of time.
Reason reason_of(LeftOutWhy why, bool is_timed) {
  switch (why) {
    case LeftOutWhy::outcome_differs:
      return {"the outcome differs", nullptr};
    case LeftOutWhy::over_limit:
      return is_timed ? Reason{"a run took longer than a tenth of the time", "a longer --time"}
                      : Reason{"a run took longer than its limit of 10 s, or twenty times its prediction", nullptr};
    case LeftOutWhy::over_budget:
      return {"far over the budget", "--as-given or a larger --budget"};
    case LeftOutWhy::beside_aim:
      return {"close to the capacity or beyond it, where other counts stand", "--as-given"};
    case LeftOutWhy::placing_time:
      return {"no time to find their cost", "a longer --time or --as-given"};
    case LeftOutWhy::block_time:
      return {"so that enough blocks fit into the time", "a longer --time or --as-given"};
    case LeftOutWhy::not_best:
      return {"clearly dearer than the best value", "mileage measure with these values"};
    case LeftOutWhy::not_reached:
      return {"the study ended before", "a longer --time"};
  }
  return {"", nullptr};
}

/// What several series were not measured at, for one reason.
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

/// All of them, or how many of them between which, where they would fill a line.
std::string counts_told(const std::vector<std::int64_t>& counts, const Plan& plan) {
  std::vector<std::string> texts;
  for (const std::int64_t count : counts) texts.push_back(count_text(static_cast<double>(count)));
  if (counts.size() == plan.counts.size()) return "every count given";
  if (counts.size() <= most_counts_told) return fmt::format("{}", fmt::join(texts, ", "));
  return fmt::format("{} of {} counts from {} to {}", counts.size(), plan.counts.size(), texts.front(), texts.back());
}

std::string told(const OneReason& reason, const Plan& plan) {
  return fmt::format("{} at {}", fmt::join(reason.labels, ", "), counts_told(reason.counts, plan));
}

const char* counts_given_up(GivenUp given_up) {
  if (given_up < GivenUp::middles) return "two of five";
  if (given_up == GivenUp::aims) return "all";
  return given_up < GivenUp::sides ? "three of five" : "four of five";
}

const char* frames_given_up(GivenUp given_up) {
  if (given_up < GivenUp::half_the_frames) return "";
  return given_up < GivenUp::most_of_the_frames ? ", half of the frames" : ", most of the frames";
}

/// Counts of the plan are named one by one.
std::string given_up_text(GivenUp given_up, const Goal& goal) {
  if (given_up < GivenUp::ends) return {};
  const bool without_break_evens = given_up >= GivenUp::break_evens && goal.figure.empty();
  return fmt::format("{}{}{}", without_break_evens ? "counts around break-evens, " : "", counts_given_up(given_up),
                     without_break_evens ? " around each capacity" : " counts around each figure") +
         frames_given_up(given_up);
}

}  // namespace

std::string left_out_text(const Summary& summary, const Plan& plan) {
  std::string text;
  std::vector<std::string> lines;
  const std::vector<OneReason> reasons = reasons_by_series(summary, plan);
  for (auto reason = reasons.begin(); reason != reasons.end(); ++reason) {
    lines.push_back(told(*reason, plan));
    if (std::next(reason) != reasons.end() && std::next(reason)->why == reason->why) continue;
    const auto [why, kept_by] = reason_of(reason->why, plan.time_s > 0);
    text += fmt::format("left out, {}: {}{}\n", why, fmt::join(lines, "; "),
                        kept_by == nullptr ? "" : fmt::format(" ({} keeps them)", kept_by));
    lines.clear();
  }
  const std::string given_up = given_up_text(summary.given_up, plan.goal);
  if (!given_up.empty())
    text +=
        fmt::format("left out, so that enough blocks fit into the time: {} (a longer --time keeps them)\n", given_up);
  return text;
}

Json left_out_json(const Summary& summary, const Plan& plan) {
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

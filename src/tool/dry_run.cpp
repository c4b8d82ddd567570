#include "tool/dry_run.h"

#include <algorithm>

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

#include "analysis/evidence/labels.h"
#include "measure/loop/block_order.h"
#include "measure/loop/check_plan.h"
#include "measure/loop/rounds.h"
#include "measure/loop/run_cost.h"
#include "study/study_file.h"
#include "tool/output.h"
#include "views/answer_json.h"
#include "views/words.h"

namespace mileage {
namespace {

/// Minimum for process start and yardstick.
constexpr double min_beside_s = 0.01;
constexpr double settling_frames = 6;

struct Seconds {
  double min = 0;
  double max = 0;
};

struct DryRun {
  std::size_t checks = 0;
  std::vector<Cell> order;
  int blocks = 0;            ///< 0: as time allows.
  std::size_t measured = 0;  ///< In the output already.
  Seconds block;
};

Seconds time_of_block(const Plan& plan, std::size_t cells) {
  const double edge_s = plan.budget_ms * far_over_budget * 1e-3;
  const auto runs = static_cast<double>(cells);
  return {runs * (min_beside_s + plan.min_ms * 1e-3),
          runs * (min_beside_s + std::max(plan.min_ms * 1e-3, (plan.heavy_frames + settling_frames) * edge_s))};
}

/// Measured blocks show their time.
std::size_t take_measured(const std::filesystem::path& output, DryRun& dry) {
  if (!std::filesystem::exists(output)) return 0;
  const Study study = read_study(output);
  double seconds = 0;
  int blocks = 0;
  for (const Run& run : study.runs) {
    if (run.block < 0) continue;
    seconds += run.took_s;
    blocks = std::max(blocks, run.block + 1);
  }
  if (blocks > 0) dry.block = {seconds / blocks, seconds / blocks};
  return study.runs.size();
}

DryRun preview(const Scenario& scenario, const Plan& plan, const std::filesystem::path& output) {
  DryRun run;
  run.checks = checks_of(scenario, plan).size();
  std::vector<Cell> cells;
  for (std::size_t series = 0; series < plan.series.size(); ++series)
    for (const std::int64_t count : plan.counts) cells.push_back({series, count});
  run.order = block_order(std::move(cells), plan.seed, 0);
  run.blocks = plan.blocks > 0 ? plan.blocks : plan.precision > 0 ? rounds_needed : 0;
  run.block = time_of_block(plan, run.order.size());
  run.measured = take_measured(output, run);
  return run;
}

Json dry_run_json(const Plan& plan, const DryRun& run) {
  Json json = envelope("measure", {});
  json["dry_run"] = true;
  json["checks"] = run.checks;
  json["cells"] = Json::array();
  for (const Cell& cell : run.order)
    json["cells"].push_back({{"series", label_of(plan.series[cell.series], plan.series)}, {"count", cell.count}});
  json["blocks"] = run.blocks > 0 ? Json(run.blocks) : Json(nullptr);
  json["block_s"] = {{"min", run.block.min}, {"max", run.block.max}};
  json["time_s"] = plan.time_s > 0 ? Json(plan.time_s) : Json(nullptr);
  return json;
}

std::string seconds_text(const Seconds& seconds) {
  return seconds.min == seconds.max ? three_digits(seconds.min) + " s"
                                    : fmt::format("{} to {} s", three_digits(seconds.min), three_digits(seconds.max));
}

std::string order_text(const Plan& plan, const DryRun& run) {
  std::string text;
  for (std::size_t i = 0; i < run.order.size();) {
    const std::int64_t count = run.order[i].count;
    std::vector<std::string> labels;
    for (; i < run.order.size() && run.order[i].count == count; ++i)
      labels.push_back(label_of(plan.series[run.order[i].series], plan.series));
    text += fmt::format("  {:>6}  {}\n", count_text(static_cast<double>(count)), fmt::join(labels, ", "));
  }
  return text;
}

std::string dry_run_text(const Scenario& scenario, const Plan& plan, const DryRun& run) {
  std::string text =
      fmt::format("{}: {} series at {} counts, {} cells; first {} checks of outcomes, then range finding.\n",
                  scenario.name, plan.series.size(), plan.counts.size(), run.order.size(), run.checks);
  text += "Order of the first block (cells far over the budget are skipped later):\n" + order_text(plan, run);
  text += fmt::format("A block takes {}{}.\n", seconds_text(run.block),
                      run.measured > 0 ? fmt::format(", from the {} runs in the file", run.measured)
                                       : std::string(", without set-up (nothing measured yet)"));
  if (run.blocks > 0)
    text += fmt::format("{} block{}{}: {}.\n", run.blocks, run.blocks == 1 ? "" : "s",
                        plan.precision > 0 ? " in the first stage, then as the precision requires" : "",
                        seconds_text({run.blocks * run.block.min, run.blocks * run.block.max}));
  if (plan.time_s > 0)
    text += fmt::format("It ends after {} s at the latest, with at least one block.\n", three_digits(plan.time_s));
  return text;
}

}  // namespace

void show_dry_run(const Scenario& scenario, const Plan& plan, const std::filesystem::path& output, bool json) {
  const DryRun run = preview(scenario, plan, output);
  if (json)
    print(dry_run_json(plan, run));
  else
    print(dry_run_text(scenario, plan, run));
}

}  // namespace mileage

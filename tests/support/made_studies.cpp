#include "support/made_studies.h"

#include <cmath>
#include <random>

namespace mileage::made {
namespace {

class Noise {
 public:
  explicit Noise(std::uint64_t seed) : random_(seed) {}
  double factor(double deviation) { return deviation > 0 ? std::exp(deviation * normal_(random_)) : 1.0; }

 private:
  std::mt19937_64 random_;
  std::normal_distribution<double> normal_;
};

Scenario scenario_of(const Setting& setting) {
  Scenario scenario;
  scenario.name = "made";
  scenario.note = "made up for a test";
  scenario.entities = "lanterns";
  scenario.build = {"made", "", true, true};
  scenario.knobs = {Knob::real("wind", "how hard it blows", {.default_value = 0, .min = 0, .max = 9})};
  for (const Truth& truth : setting.truths)
    if (scenario.find(truth.variant) == nullptr) scenario.variants.push_back({truth.variant, "", {}, ""});
  return scenario;
}

Run run_of(const Setting& setting, const Truth& truth, std::int64_t count, double slowdown, Noise& noise) {
  Run run;
  run.series = {truth.variant, truth.knobs};
  run.count = count;
  run.alive = count;
  run.setup_ms = 1;
  run.warmup_ns = {1000};
  const double cost_ns = truth.ms(static_cast<double>(count)) * 1e6 * slowdown * noise.factor(setting.run_noise);
  for (int i = 0; i < setting.samples; ++i)
    run.samples_ns.push_back(std::max<std::int64_t>(1, std::llround(cost_ns * noise.factor(setting.frame_noise))));
  run.outcome.state("alive", static_cast<double>(count), 0);
  return run;
}

}  // namespace

Study study_of(const Setting& setting) {
  Study study;
  study.name = "made.study.jsonl";
  study.head.program = "made";
  study.head.recorded = "2026-01-01";
  study.head.scenario = scenario_of(setting);
  study.head.plan.counts = setting.counts;
  for (const Truth& truth : setting.truths) study.head.plan.series.push_back({truth.variant, truth.knobs});
  Noise noise(setting.seed);
  for (int block = 0; block < setting.blocks; ++block) {
    const double slowdown = noise.factor(setting.block_noise);
    for (const std::int64_t count : setting.counts)
      for (const Truth& truth : setting.truths) {
        Run run = run_of(setting, truth, count, slowdown, noise);
        run.block = block;
        run.order = static_cast<int>(study.runs.size());
        run.process = run.order;
        study.runs.push_back(std::move(run));
      }
  }
  return study;
}

std::vector<std::int64_t> counts_between(std::int64_t from, std::int64_t to, int points) {
  std::vector<std::int64_t> counts;
  const double ratio = static_cast<double>(to) / static_cast<double>(from);
  for (int i = 0; i < points; ++i)
    counts.push_back(std::llround(static_cast<double>(from) * std::pow(ratio, i / (points - 1.0))));
  return counts;
}

}  // namespace mileage::made

#include <random>

#include <gmock/gmock.h>
#include <nlohmann/json.hpp>

#include "study/study_file.h"
#include "support/made_studies.h"
#include "support/scratch.h"

namespace mileage {
namespace {

using testing_support::Ran;
using testing_support::run_in;
using testing_support::ScratchFolder;

constexpr const char* answers[] = {"curve", "capacity", "breakeven", "choose"};

/// Everything that answers use: conditions, choices, cold series, builds, samples of several frames, discarded runs,
/// stolen time, failing checks, failed and bound runs, phases, counters.
class MadeUp {
 public:
  explicit MadeUp(std::uint64_t seed) : random_(seed) {}

  Study study() {
    made::Setting setting;
    const int variants = pick(2, 3);
    for (int i = 0; i < variants; ++i) {
      const double slope = 1e-4 * std::pow(3.0, i) * (1 + uniform());
      const double fixed = 0.1 * (variants - i);
      for (int value = 0; value < pick(1, 2); ++value) {
        Knobs knobs;
        knobs.set("scatter", static_cast<double>(value));
        if (i == variants - 1) knobs.set("way", std::string(value == 0 ? "near by" : "far=off"));
        setting.truths.push_back({names[i], [=](double n) { return fixed + slope * n * (1 + value); }, knobs});
      }
    }
    setting.counts = made::counts_between(500, 200'000, pick(4, 8));
    setting.blocks = pick(3, 6);
    setting.samples = pick(5, 40);
    setting.block_noise = 0.03;
    setting.run_noise = 0.03;
    setting.frame_noise = 0.05;
    setting.seed = random_();
    Study study = made::study_of(setting);
    describe(study);
    for (mileage::Run& run : study.runs) disturb(run);
    add_others(study);
    return study;
  }

 private:
  static constexpr const char* names[] = {"objects", "=columns", "jobs, \"new\""};

  int pick(int min, int max) { return std::uniform_int_distribution<int>(min, max)(random_); }
  double uniform() { return std::uniform_real_distribution<double>(0, 1)(random_); }

  void describe(Study& study) {
    study.head.scenario.entities = "lanterns";
    study.head.scenario.knobs = {Knob::real("scatter", "", {.default_value = 0, .min = 0, .max = 1})};
    for (VariantFacts& facts : study.head.scenario.variants) facts.note = "a way";
    study.head.scenario.variants.back().knobs = {Knob::choice("way", "", {"near by", "far=off"})};
    study.head.plan.budget_ms = 7;
    study.head.full_speed_ns = 50'000;
    study.head.notes = {"made up"};
    if (pick(0, 1) == 1) return;
    Series cold = study.head.plan.series.front();
    cold.cold_bytes = 8e6;
    for (mileage::Run& run : study.runs)
      if (run.series == study.head.plan.series.front() && run.block % 2 == 0) run.series.cold_bytes = 8e6;
    study.head.plan.series.push_back(cold);
  }

  void disturb(mileage::Run& run) {
    run.setup_ms = 3 * uniform();
    run.took_s = 0.5;
    run.phases_ms["move"] = 5 * uniform();
    run.counters["updates"] = 1000 * uniform();
    run.thread_busy_ms = 10 * uniform();
    run.processor_ms = 20 * uniform();
    run.memory = {1e6, 2e6 + 1e7 * uniform(), 1.3e7, 1.4e7, 1.5e7, 1.6e7};
    const double slowdown = 50'000 * (uniform() < 0.2 ? 2.5 : 1 + 0.05 * uniform());
    run.yardstick = YardstickReading{3, 20, slowdown, slowdown * (1 + 0.05 * uniform()), 50'000};
    if (uniform() < 0.2) run.status = RunStatus::disturbed;
    if (uniform() < 0.1) run.load = MachineLoad{1.5, 0.5};
    if (uniform() < 0.3) run.warmup_ns = {run.samples_ns.front() * 3, run.samples_ns.front() + 1};
    if (uniform() < 0.2) {
      run.frames_per_sample = 7;
      for (std::int64_t& sample : run.samples_ns) sample = 7 * sample + 3;
    }
  }

  void add_others(Study& study) {
    const std::size_t made = study.runs.size();
    for (std::size_t i = 0; i < study.head.plan.series.size(); ++i) {
      mileage::Run check;
      check.series = study.head.plan.series[i].warm();
      check.count = check.alive = 500;
      check.block = -1;
      check.status = RunStatus::check;
      check.outcome.state("height", uniform() < 0.2 ? 2 : 1, 1e-6);
      add(study, check);
    }
    mileage::Run failed = study.runs[made / 2];
    failed.status = RunStatus::failed;
    failed.failure = "the wick is wet";
    add(study, failed);
    mileage::Run bound = study.runs[made / 3];
    bound.status = RunStatus::bound;
    bound.failure = "frames pile up";
    add(study, bound);
  }

  static void add(Study& study, mileage::Run run) {
    run.order = run.process = static_cast<int>(study.runs.size());
    study.runs.push_back(std::move(run));
  }

  std::mt19937_64 random_;
};

void write(const std::filesystem::path& file, const Study& study) {
  StudyWriter writer(file, study.head);
  for (const mileage::Run& run : study.runs) writer.append(run);
}

class RoundTrip : public testing::TestWithParam<std::uint64_t> {};

TEST_P(RoundTrip, OfAMadeUpStudyChangesNoAnswer) {
  const ScratchFolder folder;
  write(folder / "made.study.jsonl", MadeUp(GetParam()).study());
  ASSERT_EQ(run_in(folder.path(), "'" MILEAGE_PROGRAM "' export made.study.jsonl -o out").code, 0);
  const Ran back = run_in(folder.path(), "'" MILEAGE_PROGRAM "' import out.frames.csv -o back.study.jsonl");
  ASSERT_EQ(back.code, 0) << back.err;
  for (const std::string verb : answers) {
    const auto answer = [&](const std::string& study) {
      return nlohmann::json::parse(
          run_in(folder.path(), "'" MILEAGE_PROGRAM "' " + verb + " " + study + " --json").out);
    };
    EXPECT_EQ(answer("made.study.jsonl"), answer("back.study.jsonl")) << verb;
  }
}

INSTANTIATE_TEST_SUITE_P(Seeds, RoundTrip, testing::Range<std::uint64_t>(1, 9));

TEST(RoundTrips, OfTheDemosStudyChangeNoAnswer) {
  const ScratchFolder folder;
  const std::string study = "'" MILEAGE_SOURCE_DIR "/demo/drift.study.jsonl'";
  ASSERT_EQ(run_in(folder.path(), "'" MILEAGE_PROGRAM "' export " + study +
                                      " -o out && '" MILEAGE_PROGRAM "' import out.frames.csv -o back.study.jsonl")
                .code,
            0);
  for (const std::string verb : answers) {
    const auto answer = [&](const std::string& of) {
      return nlohmann::json::parse(run_in(folder.path(), "'" MILEAGE_PROGRAM "' " + verb + " " + of + " --json").out);
    };
    EXPECT_EQ(answer(study), answer("back.study.jsonl")) << verb;
  }
}

TEST(RoundTrips, SurviveAProgramThatDropsComments) {
  const ScratchFolder folder;
  Study study = MadeUp(3).study();
  write(folder / "made.study.jsonl", study);
  ASSERT_EQ(run_in(folder.path(),
                   "'" MILEAGE_PROGRAM
                   "' export made.study.jsonl -o out && grep -v '^#' out.frames.csv > bare.csv && '" MILEAGE_PROGRAM
                   "' import bare.csv -o back.study.jsonl")
                .code,
            0);
  const Study back = read_study(folder / "back.study.jsonl");
  std::set<std::string> series, back_series;
  for (const mileage::Run& run : study.runs)
    if (run.status == RunStatus::kept) series.insert(to_json(run.series).dump());
  for (const mileage::Run& run : back.runs) back_series.insert(to_json(run.series).dump());
  EXPECT_THAT(back_series, testing::IsSupersetOf(series)) << "series, knobs and cold are columns of their own";
  EXPECT_TRUE(std::any_of(back.runs.begin(), back.runs.end(),
                          [](const mileage::Run& run) { return run.status == RunStatus::disturbed; }));
  EXPECT_TRUE(std::any_of(back.runs.begin(), back.runs.end(),
                          [](const mileage::Run& run) { return run.frames_per_sample == 7; }));
}

}  // namespace
}  // namespace mileage

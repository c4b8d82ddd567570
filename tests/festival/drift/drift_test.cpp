#include <cmath>
#include <map>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "festival/drift/drift_kernel.h"
#include "festival/drift/drift_variants.h"
#include "festival/drift/drift_world.h"
#include "mileage/festival/festival.h"

namespace mileage::festival {
namespace {

class NoSink : public FrameSink {
 public:
  void begin_phase(const char*) override {}
  void end_phase() override {}
  void add(const char* counter, double amount) override { sums[counter] += amount; }
  std::map<std::string, double> sums;
};

mileage::SetUp set_up_for(std::int64_t count, std::int64_t work = 1) {
  mileage::SetUp set_up{count, 42, 1.0 / 60.0, {}};
  set_up.knobs.set("work", static_cast<double>(work));
  set_up.knobs.set("scatter", 0.0);
  set_up.knobs.set("workers", 2.0);
  set_up.knobs.set("batch", 64.0);
  return set_up;
}

Outcome outcome_after(const Factory& make, const mileage::SetUp& set_up, int frames) {
  NoSink sink;
  Frame frame(sink);
  const auto variant = make(set_up);
  for (int i = 0; i < frames; ++i) variant->run_frame(frame);
  EXPECT_EQ(variant->alive(), set_up.count);
  EXPECT_EQ(sink.sums["updates"], static_cast<double>(set_up.count * frames));
  return variant->outcome();
}

double value_of(const Outcome& outcome, const std::string& name) {
  for (const Quantity& one : outcome.quantities())
    if (one.name == name) return one.value;
  ADD_FAILURE() << "no quantity " << name;
  return 0;
}

std::string listed(const std::vector<Disagreement>& differing) {
  std::string text;
  for (const Disagreement& one : differing) text += one.quantity + " ";
  return text;
}

struct Way {
  const char* name;
  std::unique_ptr<Variant> (*make)(const mileage::SetUp&);
};
void PrintTo(const Way& way, std::ostream* out) { *out << way.name; }
class DriftVariantTest : public testing::TestWithParam<Way> {};

TEST_P(DriftVariantTest, LetsInThoseThatArrive) {
  NoSink sink;
  mileage::SetUp set_up = set_up_for(1000);
  set_up.arrivals = 500;
  const auto variant = GetParam().make(set_up);
  Frame before(sink), arriving(sink, set_up.arrivals);
  variant->run_frame(before);
  variant->run_frame(arriving);
  EXPECT_EQ(variant->alive(), 1500);
  EXPECT_EQ(sink.sums["updates"], 1000 + 1500) << "those that came are updated in their first frame";
  const auto reference = make_drift_objects(set_up);
  reference->run_frame(before);
  reference->run_frame(arriving);
  EXPECT_EQ(listed(disagreements(reference->outcome(), variant->outcome())), "");
}

TEST_P(DriftVariantTest, AgreesWithTheObjects) {
  for (const std::int64_t count : {1, 3, 100, 2000}) {
    const mileage::SetUp set_up = set_up_for(count);
    const auto differing =
        disagreements(outcome_after(make_drift_objects, set_up, 90), outcome_after(GetParam().make, set_up, 90));
    EXPECT_EQ(listed(differing), "") << count;
  }
}

TEST_P(DriftVariantTest, AgreesWithSeveralInnerSteps) {
  const mileage::SetUp set_up = set_up_for(1500, 7);
  EXPECT_EQ(
      listed(disagreements(outcome_after(make_drift_objects, set_up, 20), outcome_after(GetParam().make, set_up, 20))),
      "");
}

INSTANTIATE_TEST_SUITE_P(Drift, DriftVariantTest,
                         testing::Values(Way{"records", make_drift_records}, Way{"columns", make_drift_columns},
                                         Way{"jobs", make_drift_jobs}),
                         [](const auto& way) { return std::string(way.param.name); });

TEST(Drift, ScatteringTheObjectsChangesNothingButTheirPlaces) {
  mileage::SetUp scattered = set_up_for(500);
  scattered.knobs.set("scatter", 1.0);
  EXPECT_EQ(listed(disagreements(outcome_after(make_drift_objects, set_up_for(500), 30),
                                 outcome_after(make_drift_objects, scattered, 30))),
            "");
}

TEST(Drift, NoSplitIntoJobsChangesTheOutcome) {
  const Outcome reference = outcome_after(make_drift_columns, set_up_for(1000), 30);
  for (const double workers : {1.0, 2.0, 5.0})
    for (const double batch : {16.0, 999.0, 100'000.0}) {
      mileage::SetUp set_up = set_up_for(1000);
      set_up.knobs.set("workers", workers);
      set_up.knobs.set("batch", batch);
      EXPECT_EQ(listed(disagreements(reference, outcome_after(make_drift_jobs, set_up, 30))), "")
          << workers << " " << batch;
    }
}

/// Records in which one thing is done wrong.
class WrongRecords : public DriftVariant {
 public:
  enum class Wrong { one_stream, skips_last, no_wrap };
  WrongRecords(const mileage::SetUp& set_up, Wrong wrong) : DriftVariant(set_up), wrong_(wrong) {
    for (std::int64_t i = 0; i < set_up.count; ++i) records_.push_back(lantern_set_afloat(set_up.seed, i));
    if (wrong_ == Wrong::one_stream)
      for (Lantern& record : records_) record.key = records_.front().key;
  }
  std::int64_t alive() const override { return static_cast<std::int64_t>(records_.size()); }

 private:
  std::int64_t carry_all(const std::vector<Moment>& moments, Frame&) override {
    for (std::size_t i = 0; i + (wrong_ == Wrong::skips_last ? 1 : 0) < records_.size(); ++i)
      for (const Moment& now : moments) carry(now, records_[i]);
    return alive();
  }
  Lantern lantern(std::int64_t index) const override { return records_[static_cast<std::size_t>(index)]; }

  Wrong wrong_;
  std::vector<Lantern> records_;
};

std::string noticed(WrongRecords::Wrong wrong, std::int64_t count) {
  const mileage::SetUp set_up = set_up_for(count);
  const auto make = [wrong](const mileage::SetUp& given) { return std::make_unique<WrongRecords>(given, wrong); };
  return listed(disagreements(outcome_after(make_drift_objects, set_up, 60), outcome_after(make, set_up, 60)));
}

TEST(DriftOutcome, NoticesThatAllLanternsShareOneRandomStream) {
  EXPECT_THAT(noticed(WrongRecords::Wrong::one_stream, 1000), testing::HasSubstr("spread of flicker"));
}

TEST(DriftOutcome, NoticesASingleLanternThatIsForgotten) {
  EXPECT_THAT(noticed(WrongRecords::Wrong::skips_last, 1000), testing::HasSubstr("mean age"));
}

TEST(Drift, LanternsStayInThePondAndAlive) {
  mileage::SetUp set_up = set_up_for(300);
  const Outcome outcome = outcome_after(make_drift_records, set_up, 3000);
  for (const Quantity& one : outcome.quantities()) {
    ASSERT_TRUE(std::isfinite(one.value)) << one.name;
    if (one.name.find(" x") == std::string::npos && one.name.find(" y") == std::string::npos) continue;
    EXPECT_GE(one.value, -1e-3) << one.name;
    EXPECT_LE(one.value, pond_edge_m + 1e-3) << one.name;
  }
  EXPECT_NEAR(value_of(outcome, "mean age"), 50, 0.1);
  EXPECT_NEAR(value_of(outcome, "mean height"), 0.35, 0.1);
  EXPECT_NEAR(value_of(outcome, "mean flicker"), 0.5, 0.1);
  EXPECT_GT(value_of(outcome, "spread of flicker"), 0.05);
}

TEST(DriftKernel, WaveIsASineOfTurns) {
  for (float turns = -3; turns < 3; turns += 0.01F)
    EXPECT_NEAR(wave(turns), std::sin(2 * 3.14159265F * turns), 0.0015) << turns;
}

TEST(DriftKernel, DrawsAreEvenAndIndependentOfTheirOrder) {
  double sum = 0;
  double squares = 0;
  constexpr int draws = 20'000;
  for (std::uint32_t i = 0; i < draws; ++i) {
    const double value = draw(i * 2654435761U, 12345);
    ASSERT_GE(value, 0);
    ASSERT_LT(value, 1);
    sum += value;
    squares += value * value;
  }
  EXPECT_NEAR(sum / draws, 0.5, 0.01);
  EXPECT_NEAR(squares / draws, 1.0 / 3.0, 0.01);
  EXPECT_NE(draw(1, 2), draw(2, 2));
  EXPECT_NE(draw(1, 2), draw(1, 3));
}

TEST(DriftKernel, WrapBringsBackWhatLeftThePond) {
  EXPECT_NEAR(wrap(pond_edge_m + 1), 1, 1e-4);
  EXPECT_NEAR(wrap(-1), pond_edge_m - 1, 1e-4);
  EXPECT_NEAR(wrap(100), 100, 1e-4);
}

TEST(Festival, RegistersDriftWithoutMistakes) {
  Catalogue catalogue;
  add_festival(catalogue);
  EXPECT_TRUE(catalogue.mistakes().empty()) << catalogue.mistakes().front();
  const Scenario* drift = catalogue.find("drift");
  ASSERT_NE(drift, nullptr);
  EXPECT_EQ(drift->variants.size(), 4U);
  EXPECT_TRUE(drift->build.optimised);
}

}  // namespace
}  // namespace mileage::festival

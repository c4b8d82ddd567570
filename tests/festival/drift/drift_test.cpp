#include <cmath>
#include <map>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "festival/drift/drift_kernel.h"
#include "festival/drift/drift_variants.h"
#include "festival/drift/drift_world.h"
#include "mileage/festival/festival.h"
#include "support/default_set_up.h"
#include "support/unmarked.h"

namespace mileage::festival {
namespace {

Outcome outcome_after(const Factory& make, const mileage::SetUp& set_up, int frames) {
  const auto variant = make(set_up);
  testing_support::run_frames(*variant, frames);
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

/// Records with a mistake.
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
  std::int64_t carry_all(const FrameWork& work, Frame&) override {
    for (std::size_t i = 0; i + (wrong_ == Wrong::skips_last ? 1 : 0) < records_.size(); ++i)
      for (const Moment& now : work.light) carry<0>(now, records_[i]);
    return alive();
  }
  void push(std::int64_t, float, float) override {}
  Lantern lantern(std::int64_t index) const override { return records_[static_cast<std::size_t>(index)]; }

  Wrong wrong_;
  std::vector<Lantern> records_;
};

std::string noticed(WrongRecords::Wrong wrong, std::int64_t count) {
  const mileage::SetUp set_up = drift_set_up(count);
  const auto make = [wrong](const mileage::SetUp& given) { return std::make_unique<WrongRecords>(given, wrong); };
  return listed(disagreements(outcome_after(make_drift_objects, set_up, 60), outcome_after(make, set_up, 60)));
}

TEST(DriftOutcome, NoticesThatAllLanternsShareOneRandomStream) {
  EXPECT_THAT(noticed(WrongRecords::Wrong::one_stream, 1000), testing::HasSubstr("spread of flicker"));
}

TEST(DriftOutcome, NoticesASingleLanternThatIsForgotten) {
  EXPECT_THAT(noticed(WrongRecords::Wrong::skips_last, 1000), testing::HasSubstr("mean age"));
}

// Uniform on [a, b]: spread (b - a) / sqrt(12).
TEST(DriftOutcome, TellsTheMeanAndTheSpreadOfAllLanterns) {
  const Outcome outcome = outcome_after(make_drift_columns, drift_set_up(100'000), 0);
  EXPECT_NEAR(value_of(outcome, "mean height"), 0.35, 0.0005);
  EXPECT_NEAR(value_of(outcome, "spread of height"), 0.1 / std::sqrt(12), 0.0002);
  EXPECT_NEAR(value_of(outcome, "mean flicker"), 0.5, 0.005);
  EXPECT_NEAR(value_of(outcome, "spread of flicker"), 1 / std::sqrt(12), 0.002);
  EXPECT_EQ(value_of(outcome, "mean age"), 0);
  EXPECT_EQ(value_of(outcome, "spread of age"), 0);
}

TEST(Drift, LanternsStayInThePondAndAlive) {
  const mileage::SetUp set_up = drift_set_up(300);
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

TEST(DriftWorld, HeavyLanternsTakeSmallerStepsThroughTheSameTime) {
  const mileage::SetUp set_up = drift_set_up(1, {{"work", 2}, {"uneven", 1}});
  const FrameWork work = work_of_frame(set_up, Sorting(set_up.knobs), 3);
  ASSERT_EQ(work.light.size(), 2U);
  ASSERT_EQ(work.heavy.size(), 64U);
  EXPECT_NEAR(work.light.front().step_s * 2, set_up.step_s, 1e-9);
  EXPECT_NEAR(work.heavy.front().step_s * 64, set_up.step_s, 1e-9);
  EXPECT_EQ(work.light.front().phase, work.heavy.front().phase) << "both begin with the frame";
}

TEST(DriftWorld, OneLanternInSixteenIsHeavyAndKindsAreEven) {
  const Sorting sorting(drift_set_up(1, {{"kinds", 5}, {"uneven", 0.5}}).knobs);
  EXPECT_EQ(sorting.heavy_steps, 17);
  EXPECT_EQ(sorting.sorts().size(), 10U);
  constexpr int lanterns = 20'000;
  std::map<int, int> of_kind;
  int heavy = 0;
  for (int i = 0; i < lanterns; ++i) {
    const Sort sort = sorting.sort_of(lantern_set_afloat(7, i).key);
    EXPECT_EQ(sorting.sorts()[sorting.place_of(sort)], sort);
    ++of_kind[sort.kind];
    heavy += sort.is_heavy;
  }
  EXPECT_NEAR(heavy, lanterns / 16, 150);
  for (int kind = 0; kind < 5; ++kind) EXPECT_NEAR(of_kind[kind], lanterns / 5, 300) << kind;
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
  EXPECT_EQ(drift->variants.size(), 17U);
  for (const VariantFacts& variant : drift->variants) {
    EXPECT_FALSE(variant.effort.empty()) << variant.name;
    EXPECT_GT(variant.lines, 20) << variant.name;
    EXPECT_LT(variant.lines, 1000) << variant.name;
  }
  EXPECT_TRUE(drift->build.optimized);
}

}  // namespace
}  // namespace mileage::festival

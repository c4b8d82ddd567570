#include "festival/drift/drift_variants.h"

#include <fmt/format.h>
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "festival/drift/mirrored_lanterns.h"
#include "festival/drift/strips.h"
#include "support/default_set_up.h"
#include "support/unmarked.h"

namespace mileage::festival {
namespace {

using Knobs = std::map<std::string, double>;

struct Implementation {
  const char* name;
  std::unique_ptr<Variant> (*make)(const mileage::SetUp&);
};
void PrintTo(const Implementation& way, std::ostream* out) { *out << way.name; }

mileage::SetUp small(std::int64_t count, Knobs knobs = {}) {
  knobs.insert({{"workers", 2}, {"batch", 64}});
  return drift_set_up(count, knobs);
}

std::string differing(const Factory& make, const mileage::SetUp& set_up, int frames = 60) {
  std::map<std::string, double> counted;
  const auto outcome = [&](const Factory& way) {
    testing_support::CountingSink sink;
    Frame before(sink), arriving(sink, set_up.arrivals);
    const auto variant = way(set_up);
    for (int i = 0; i < frames; ++i) variant->run_frame(i == frames / 2 ? arriving : before);
    EXPECT_EQ(variant->alive(), set_up.count + set_up.arrivals);
    counted = sink.counters;
    return variant->outcome();
  };
  const Outcome expected = outcome(make_drift_objects);
  const double updates = counted["updates"];
  std::string text;
  for (const Disagreement& one : disagreements(expected, outcome(make)))
    text += fmt::format("{}: {} instead of {}\n", one.quantity, one.found, one.expected);
  EXPECT_EQ(counted["updates"], updates);
  return text;
}

class DriftVariants : public testing::TestWithParam<Implementation> {};

TEST_P(DriftVariants, AgreeWithTheObjects) {
  for (const std::int64_t count : {1, 3, 16, 17, 100, 2000})
    EXPECT_EQ(differing(GetParam().make, small(count)), "") << count;
}

TEST_P(DriftVariants, AgreeForOtherSeeds) {
  for (const std::uint64_t seed : {2U, 3U}) {
    mileage::SetUp set_up = small(700);
    set_up.seed = seed;
    EXPECT_EQ(differing(GetParam().make, set_up), "") << seed;
  }
}

TEST_P(DriftVariants, AgreeWithSeveralInnerSteps) {
  EXPECT_EQ(differing(GetParam().make, small(1500, {{"work", 7}}), 20), "");
}

TEST_P(DriftVariants, AgreeWithKindsAndUnevenWork) {
  EXPECT_EQ(differing(GetParam().make, small(700, {{"kinds", 8}})), "");
  EXPECT_EQ(differing(GetParam().make, small(700, {{"uneven", 0.3}}), 20), "");
  EXPECT_EQ(differing(GetParam().make, small(700, {{"kinds", 3}, {"uneven", 1}, {"work", 2}}), 10), "");
}

TEST_P(DriftVariants, AgreeWhereLanternsArePushed) {
  EXPECT_EQ(differing(GetParam().make, small(500, {{"touched", 0.1}})), "");
  EXPECT_EQ(differing(GetParam().make, small(500, {{"touched", 1}, {"kinds", 2}})), "");
}

TEST_P(DriftVariants, LetInThoseThatArrive) {
  mileage::SetUp set_up = small(1000);
  set_up.arrivals = 500;
  EXPECT_EQ(differing(GetParam().make, set_up), "");
  set_up = small(1000, {{"kinds", 3}, {"uneven", 0.2}, {"touched", 0.1}});
  set_up.arrivals = 33;
  EXPECT_EQ(differing(GetParam().make, set_up), "");
}

TEST_P(DriftVariants, AgreeWhateverTheFrameDoesBesides) {
  EXPECT_EQ(differing(GetParam().make, small(200, {{"rest", 1000}, {"scatter", 1}, {"ballast", 100}})), "");
}

INSTANTIATE_TEST_SUITE_P(
    All, DriftVariants,
    testing::Values(
        Implementation{"objects_hoisted", make_drift_objects_hoisted}, Implementation{"records", make_drift_records},
        Implementation{"in_part", make_drift_in_part}, Implementation{"mirrored", make_drift_mirrored},
        Implementation{"mirrored_fresh", make_drift_mirrored_fresh},
        Implementation{"mirrored_changed", make_drift_mirrored_changed},
        Implementation{"mirrored_by_id", make_drift_mirrored_by_id},
        Implementation{"mirrored_jobs", make_drift_mirrored_jobs}, Implementation{"columns", make_drift_columns},
        Implementation{"columns_plain", make_drift_columns_plain},
        Implementation{"columns_wide", make_drift_columns_wide}, Implementation{"groups", make_drift_groups},
        Implementation{"lean", make_drift_lean}, Implementation{"jobs", make_drift_jobs},
        Implementation{"jobs_wide", make_drift_jobs_wide}, Implementation{"jobs_late", make_drift_jobs_late}),
    [](const auto& way) { return std::string(way.param.name); });

class DriftJobsVariants : public testing::TestWithParam<Implementation> {};

TEST_P(DriftJobsVariants, NoSplitChangesTheOutcome) {
  for (const double workers : {1.0, 2.0, 5.0})
    for (const double batch : {1.0, 999.0, 100'000.0})
      EXPECT_EQ(differing(GetParam().make, small(1000, {{"workers", workers}, {"batch", batch}, {"uneven", 0.1}}), 30),
                "")
          << workers << " " << batch;
}

INSTANTIATE_TEST_SUITE_P(All, DriftJobsVariants,
                         testing::Values(Implementation{"mirrored_jobs", make_drift_mirrored_jobs},
                                         Implementation{"jobs", make_drift_jobs},
                                         Implementation{"jobs_wide", make_drift_jobs_wide},
                                         Implementation{"jobs_late", make_drift_jobs_late}),
                         [](const auto& way) { return std::string(way.param.name); });

TEST(DriftInPart, AgreesHoweverManyAreConverted) {
  for (const double converted : {0.0, 0.3, 0.999, 1.0}) {
    mileage::SetUp set_up = small(600, {{"converted", converted}, {"touched", 0.2}, {"kinds", 2}});
    set_up.arrivals = 40;
    EXPECT_EQ(differing(make_drift_in_part, set_up), "") << converted;
  }
}

TEST(DriftInPart, TellsWhatEitherPartTakes) {
  testing_support::PhaseSink sink;
  Frame frame(sink);
  make_drift_in_part(small(100))->run_frame(frame);
  EXPECT_THAT(sink.phases, testing::ElementsAre("columns", "objects"));
}

TEST(DriftMirrored, TellsOfItsPhases) {
  testing_support::PhaseSink sink;
  Frame frame(sink);
  make_drift_mirrored(small(100, {{"touched", 0.1}, {"rest", 10}}))->run_frame(frame);
  EXPECT_THAT(sink.phases,
              testing::ElementsAre("pushed from outside", "gather", "update", "write back", "rest of the frame"));
}

TEST(DriftJobsLate, IsAFrameBehindForTheRestOfTheFrame) {
  testing_support::PhaseSink sink;
  Frame frame(sink);
  const auto late = make_drift_jobs_late(small(100, {{"rest", 10}}));
  late->run_frame(frame);
  EXPECT_EQ(sink.counters["frames of latency"], 1);
  EXPECT_THAT(sink.phases, testing::ElementsAre("start", "rest of the frame", "join"));
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_drift_jobs(small(100))).count("frames of latency"), 0U);
}

/// Gathers once and never again.
class StaleMirror : public MirroredLanterns {
 public:
  using MirroredLanterns::MirroredLanterns;

 private:
  void gather(Frame&) override {
    if (columns().size() == 0) append_new();
  }
};

TEST(DriftOutcome, NoticesStaleCopies) {
  const auto stale = [](const mileage::SetUp& set_up) { return std::make_unique<StaleMirror>(set_up); };
  EXPECT_EQ(differing(stale, small(500)), "") << "nobody changed anything";
  EXPECT_THAT(differing(stale, small(500, {{"touched", 0.01}})), testing::HasSubstr("kinetic energy"));
}

TEST(DriftOutcome, DiffersByKindUnevennessAndPushes) {
  const auto outcome = [](const Knobs& knobs) {
    const auto variant = make_drift_columns(small(500, knobs));
    testing_support::run_frames(*variant, 60);
    return variant->outcome();
  };
  const Outcome plain = outcome({});
  for (const Knobs& knobs : {Knobs{{"kinds", 2}}, Knobs{{"uneven", 1}}, Knobs{{"touched", 0.1}}})
    EXPECT_FALSE(disagreements(plain, outcome(knobs)).empty()) << knobs.begin()->first;
}

TEST(Strips, AllGradesOfVectorsComeToTheSame) {
  constexpr int lanterns = 37;
  const auto carried = [](Vectors vectors, int kind) {
    std::vector<std::vector<float>> columns(9, std::vector<float>(lanterns));
    std::vector<std::uint32_t> keys(lanterns);
    for (int i = 0; i < lanterns; ++i) {
      for (std::size_t field = 0; field < 9; ++field) columns[field][i] = static_cast<float>(i + 1) * 0.1F;
      keys[i] = static_cast<std::uint32_t>(i) * 2654435761U;
    }
    const StripStart start{columns[0].data(), columns[1].data(), columns[2].data(), columns[3].data(),
                           columns[4].data(), columns[5].data(), columns[6].data(), columns[7].data(),
                           columns[8].data(), keys.data()};
    for (std::uint32_t step = 0; step < 50; ++step)
      carry_strip(vectors, kind)(lanterns, {1.0F / 60, 0.3F, step * 77}, start);
    return columns;
  };
  for (int kind = 0; kind < max_kinds; ++kind) {
    EXPECT_EQ(carried(Vectors::none, kind), carried(Vectors::usual, kind)) << kind;
    EXPECT_EQ(carried(Vectors::none, kind), carried(Vectors::widest, kind)) << kind;
  }
  EXPECT_NE(carried(Vectors::none, 0), carried(Vectors::none, 1));
}

}  // namespace
}  // namespace mileage::festival

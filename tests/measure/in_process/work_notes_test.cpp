#include "measure/in_process/work_notes.h"

#include <gtest/gtest.h>

#include "support/scripted.h"

namespace mileage {
namespace {

class WorkNotesTest : public testing::Test {
 protected:
  void batch(int worker, double entities, std::int64_t ns) {
    notes_.begin(worker, entities);
    clock_.pass(ns);
    notes_.end(worker);
  }
  scripted::VirtualClock clock_;
  WorkNotes notes_{clock_};
};

TEST_F(WorkNotesTest, SumsByWorkerWithTheLargestBatch) {
  batch(0, 10, 2'000'000);
  batch(1, 10, 1'000'000);
  batch(1, 30, 5'000'000);
  const auto work = notes_.work();
  ASSERT_TRUE(work);
  EXPECT_EQ(work->busy_ms, (std::vector<double>{2, 6}));
  EXPECT_EQ(work->entities, (std::vector<double>{10, 40}));
  EXPECT_EQ(work->batches, (std::vector<double>{1, 2}));
  EXPECT_EQ(work->largest_ms, 5);
  EXPECT_FALSE(work->before_ms) << "nobody said where a frame ends";
}

TEST_F(WorkNotesTest, WhatLiesBeforeAndAfterTheBatchesOfAFrame) {
  clock_.pass(1'000'000);
  batch(0, 1, 2'000'000);
  clock_.pass(3'000'000);
  notes_.after_frame(0, clock_.now_ns(), true);
  const auto work = notes_.work();
  EXPECT_EQ(work->before_ms, 1);
  EXPECT_EQ(work->after_ms, 3);
}

TEST_F(WorkNotesTest, TheOuterOfNestedBatchesCounts) {
  notes_.begin(2, 7);
  batch(2, 100, 1'000'000);
  clock_.pass(1'000'000);
  notes_.end(2);
  EXPECT_EQ(notes_.work()->busy_ms, (std::vector<double>{0, 0, 2}));
  EXPECT_EQ(notes_.work()->entities[2], 7);
}

TEST_F(WorkNotesTest, NothingIsToldOfNobodyAndOfNumbersOutOfRange) {
  EXPECT_FALSE(notes_.work());
  batch(-1, 1, 5);
  batch(256, 1, 5);
  EXPECT_FALSE(notes_.work());
}

TEST_F(WorkNotesTest, SpansOfATracedFrameAreAfterItsStart) {
  notes_.keep_batches();
  clock_.pass(500);
  const std::int64_t began = clock_.now_ns();
  clock_.pass(100);
  batch(1, 20, 40);
  std::vector<std::vector<double>> spans;
  notes_.after_traced_frame(3, began, spans);
  EXPECT_EQ(spans, (std::vector<std::vector<double>>{{3, 1, 100, 140, 20}}));
  notes_.after_traced_frame(4, began, spans);
  EXPECT_EQ(spans.size(), 1U) << "told once";
}

// Clock readings take 30 ns, batches 100 ns.
TEST(WorkNotes, BatchesShorterThanNotingThemAreNotNoted) {
  for (const auto& [batch_ns, is_noted] : {std::pair{100, false}, {10'000, true}}) {
    scripted::VirtualClock clock(30);
    WorkNotes notes(clock);
    const auto batch = [&] {
      notes.begin(0, 1);
      clock.pass(batch_ns);
      notes.end(0);
    };
    batch();
    notes.give_up_if_short();
    notes.forget();
    batch();
    EXPECT_EQ(notes.work().has_value(), is_noted) << batch_ns;
  }
}

}  // namespace
}  // namespace mileage

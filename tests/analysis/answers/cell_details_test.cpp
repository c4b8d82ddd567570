#include "analysis/answers/cell_details.h"

#include <gtest/gtest.h>

#include "analysis/evidence/evidence_set.h"
#include "support/made_studies.h"

namespace mileage {
namespace {

/// Three runs of one cell, changed by a function of their number.
template <class Change>
CellDetail detail_with(Change change) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-2 * n; }}};
  setting.counts = {100};
  setting.blocks = 3;
  setting.samples = 10;
  Study study = made::study_of(setting);
  for (std::size_t i = 0; i < study.runs.size(); ++i) change(study.runs[i], static_cast<double>(i));
  return details_of(gather_evidence(study).series.front()).front();
}

TEST(CellDetails, AreMediansPerFrameOverTheRuns) {
  const CellDetail detail = detail_with([](mileage::Run& run, double i) {
    run.counters["calls"] = 10 * (1 + i);
    run.phases_ms["drift"] = 5 * (1 + i * i);
    run.thread_busy_ms = 9;
    run.processor_ms = 18;
    run.setup_ms = 3 + i;
  });
  EXPECT_EQ(detail.x, 100);
  EXPECT_NEAR(detail.frame_ms, 1, 1e-6);
  EXPECT_EQ(detail.counters.at("calls"), 2);
  EXPECT_EQ(detail.phases_ms.at("drift"), 1);
  EXPECT_EQ(*detail.thread_busy_ms, 0.9);
  EXPECT_NEAR(*detail.cores_used(), 1.8, 1e-6);
  EXPECT_EQ(*detail.setup_ms, 4);
}

TEST(CellDetails, ANameThatOneRunHasCountsAsZeroInTheOthers) {
  const CellDetail detail = detail_with([](mileage::Run& run, double i) {
    if (i == 0) run.counters["rare"] = 100;
  });
  EXPECT_EQ(detail.counters.at("rare"), 0);
}

TEST(CellDetails, WhatNobodyToldIsNotKnown) {
  const CellDetail detail = detail_with([](mileage::Run& run, double) {
    run.setup_ms.reset();
    run.thread_busy_ms.reset();
    run.processor_ms.reset();
    run.memory = {};
  });
  EXPECT_FALSE(detail.setup_ms);
  EXPECT_FALSE(detail.thread_busy_ms);
  EXPECT_FALSE(detail.cores_used());
  EXPECT_FALSE(detail.peak_bytes);
  EXPECT_FALSE(detail.bytes_per_entity);
}

}  // namespace
}  // namespace mileage

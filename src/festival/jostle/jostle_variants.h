// Variants of jostle: how overlapping pairs are found.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::festival::jostle {

/// All pairs.
std::unique_ptr<Variant> make_pairs(const SetUp& set_up);
/// Counting sort into cells; half of the neighbours. Knob cell.
std::unique_ptr<Variant> make_grid(const SetUp& set_up);
/// With a maximum number of partners (knob partners): misses pushes.
std::unique_ptr<Variant> make_grid_capped(const SetUp& set_up);
/// Hashed cells. Knob cell.
std::unique_ptr<Variant> make_hashed(const SetUp& set_up);
/// Sort along x, kept by insertion.
std::unique_ptr<Variant> make_sweep(const SetUp& set_up);
/// Grid with cells, pairs or both in jobs (knob stage). Knobs cell, workers, batch.
std::unique_ptr<Variant> make_grid_jobs(const SetUp& set_up);
/// Concurrent hash table; each lantern tests all neighbours. Knobs cell, workers, batch.
std::unique_ptr<Variant> make_hashed_jobs(const SetUp& set_up);

}  // namespace mileage::festival::jostle

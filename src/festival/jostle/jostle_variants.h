// The ways of jostle: who finds the pairs of lanterns that overlap, and how.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::festival::jostle {

/// All against all.
std::unique_ptr<Variant> make_pairs(const SetUp& set_up);
/// Cells by a counting sort; each looks at itself and at four neighbours. Knob cell.
std::unique_ptr<Variant> make_grid(const SetUp& set_up);
/// The same with at most this many partners a lantern (knob partners): pushes are missed.
std::unique_ptr<Variant> make_grid_capped(const SetUp& set_up);
/// Cells in a hash table. Knob cell.
std::unique_ptr<Variant> make_hashed(const SetUp& set_up);
/// Sorted along x, kept sorted by insertion; each looks on until the next is out of reach.
std::unique_ptr<Variant> make_sweep(const SetUp& set_up);
/// The grid with cells, pairs or both in jobs (knob stage). Knobs cell, workers and batch.
std::unique_ptr<Variant> make_grid_jobs(const SetUp& set_up);
/// One hash table that all workers fill, and every lantern looking at all its neighbours itself. Knobs cell, workers
/// and batch.
std::unique_ptr<Variant> make_hashed_jobs(const SetUp& set_up);

}  // namespace mileage::festival::jostle

// Variants of wicks: storage and removal.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::festival::wicks {

/// Heap objects; each burnt one is erased at once.
std::unique_ptr<Variant> make_objects_erase(const SetUp& set_up);
/// Array with swap-and-pop; ordered: compaction in one pass.
std::unique_ptr<Variant> make_swap_remove(const SetUp& set_up);
/// Free list; ordered: a linked list through the slots.
std::unique_ptr<Variant> make_free_list(const SetUp& set_up);
/// Entities with fields; ordered: a list that is re-sorted.
std::unique_ptr<Variant> make_groups(const SetUp& set_up);
/// Batches; removals are collected per batch. Knobs workers, batch.
std::unique_ptr<Variant> make_jobs(const SetUp& set_up);
/// Burnt ones are skipped; compaction at a quarter.
std::unique_ptr<Variant> make_dead_stay(const SetUp& set_up);

}  // namespace mileage::festival::wicks

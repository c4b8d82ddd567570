// The ways of wicks: how they lie in memory, and how they leave it.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::festival::wicks {

/// One heap object each; a burnt one is erased at once, and all behind it move up.
std::unique_ptr<Variant> make_objects_erase(const SetUp& set_up);
/// One array; the last one takes the place of a burnt one. Where order is kept: all move up in one pass.
std::unique_ptr<Variant> make_swap_remove(const SetUp& set_up);
/// Places that are reused. Where order is kept: a list through the places.
std::unique_ptr<Variant> make_free_list(const SetUp& set_up);
/// Entities with fields. Where order is kept: a list of them that is sorted again.
std::unique_ptr<Variant> make_groups(const SetUp& set_up);
/// Batches; leavers are collected by batch and taken out after. Knobs workers and batch.
std::unique_ptr<Variant> make_jobs(const SetUp& set_up);
/// A burnt one stays where it is and is skipped; all move up when a quarter is out.
std::unique_ptr<Variant> make_dead_stay(const SetUp& set_up);

}  // namespace mileage::festival::wicks

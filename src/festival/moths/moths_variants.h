// Variants of moths: finding the remembered and the nearest lantern.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::festival::moths {

/// Linear searches.
std::unique_ptr<Variant> make_scan(const SetUp& set_up);
/// Handle with generation; linear nearest search.
std::unique_ptr<Variant> make_kept(const SetUp& set_up);
/// Plain index, wrong once lanterns have moved; linear nearest search.
std::unique_ptr<Variant> make_index(const SetUp& set_up);
/// Handle; cells filled every frame.
std::unique_ptr<Variant> make_grid(const SetUp& set_up);
/// Handle; tree rebuilt every few frames (knob rebuild).
std::unique_ptr<Variant> make_tree(const SetUp& set_up);
/// Grid with moths in batches. Knobs workers, batch.
std::unique_ptr<Variant> make_jobs(const SetUp& set_up);

}  // namespace mileage::festival::moths

// The ways of moths: how a moth finds the lantern it remembers, and the nearest one.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::festival::moths {

/// Both by looking at one lantern after the other.
std::unique_ptr<Variant> make_scan(const SetUp& set_up);
/// A handle with a generation; the nearest by looking at all.
std::unique_ptr<Variant> make_kept(const SetUp& set_up);
/// A plain index, which is another lantern's once lanterns have moved up; the nearest by looking at all.
std::unique_ptr<Variant> make_index(const SetUp& set_up);
/// A handle; the nearest in cells that are filled every frame.
std::unique_ptr<Variant> make_grid(const SetUp& set_up);
/// A handle; the nearest in a tree that is built every this many frames (knob rebuild).
std::unique_ptr<Variant> make_tree(const SetUp& set_up);
/// The grid with moths in batches. Knobs workers and batch.
std::unique_ptr<Variant> make_jobs(const SetUp& set_up);

}  // namespace mileage::festival::moths

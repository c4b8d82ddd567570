// The ways of jetty: as what planks are tested.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::festival::jetty {

/// A box each.
std::unique_ptr<Variant> make_planks(const SetUp& set_up);
/// Runs of planks in a row joined into one box; all of them again when a plank is laid or taken.
std::unique_ptr<Variant> make_decks(const SetUp& set_up);
/// The same, joining the row of that plank alone.
std::unique_ptr<Variant> make_decks_live(const SetUp& set_up);

}  // namespace mileage::festival::jetty

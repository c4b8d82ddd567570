// Variants of jetty: collision boxes for planks.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::festival::jetty {

/// One box per plank.
std::unique_ptr<Variant> make_planks(const SetUp& set_up);
/// One per run of planks; all rebuilt after a change.
std::unique_ptr<Variant> make_decks(const SetUp& set_up);
/// The same, rebuilding the changed row.
std::unique_ptr<Variant> make_decks_live(const SetUp& set_up);

}  // namespace mileage::festival::jetty

#include "festival/scenarios.h"

#include <utility>

#include "festival/jetty/jetty_variants.h"
#include "festival/jetty/sizes.h"
#include "festival/implementations.h"

namespace mileage::festival {

void add_jetty(Catalogue& catalogue) {
  using namespace jetty;
  BundledScenario scenario(
      catalogue, "jetty", "lanterns drift and bounce off jetties that are laid of planks", "lanterns",
      {Knob::integer("planks", "planks that the jetties are laid of",
                     {.default_value = 1000, .min = 1, .max = 200'000}),
       Knob::real("changes", "planks that are laid or taken in a second", {.default_value = 0, .min = 0, .max = 6000})},
      "decks", {{"updates", 1}});
  scenario.add({"planks", "a box for each plank", "none", sizes::planks, make_planks});
  scenario.add({"decks", "planks in a row joined into one box; all rebuilt when one changes",
                "a step at set-up that joins, and again after changes", sizes::decks, make_decks});
  scenario.add({"decks-live", "the same, rebuilding only the row that changed", "as decks, and knowing what changed",
                sizes::decks_live, make_decks_live});
}

}  // namespace mileage::festival

#include "festival/jetty/jetty.h"

#include <utility>

#include "festival/jetty/jetty_variants.h"
#include "festival/jetty/sizes.h"
#include "festival/implementations.h"

namespace mileage::festival {
namespace {

void add_jetty_scenario(Catalogue& catalogue) {
  Scenario jetty;
  jetty.name = "jetty";
  jetty.note = "lanterns drift and bounce off jetties that are laid of planks";
  jetty.entities = "lanterns";
  jetty.knobs = {
      Knob::integer("planks", "planks that the jetties are laid of", {.default_value = 1000, .min = 1, .max = 200'000}),
      Knob::real("changes", "planks that are laid or taken in a second", {.default_value = 0, .min = 0, .max = 6000})};
  jetty.reference = "decks";
  jetty.expects = {{"updates", 1}};
  jetty.build = festival_build();
  catalogue.add(jetty);
}

}  // namespace

void add_jetty(Catalogue& catalogue) {
  using namespace jetty;
  add_jetty_scenario(catalogue);
  const auto add = [&](Implementation way) { add_implementation(catalogue, "jetty", std::move(way)); };
  add({"planks", "a box for each plank", "nothing: it is how they were laid", sizes::planks, make_planks});
  add({"decks", "planks in a row joined into one box; all rebuilt when one changes",
       "a step at set-up that joins, and again after changes", sizes::decks, make_decks});
  add({"decks-live", "the same, rebuilding only the row that changed", "as decks, and knowing what changed",
       sizes::decks_live, make_decks_live});
}

}  // namespace mileage::festival

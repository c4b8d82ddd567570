#include "festival/scenarios.h"

#include <utility>

#include "festival/jostle/jostle_variants.h"
#include "festival/jostle/sizes.h"
#include "festival/implementations.h"

namespace mileage::festival {
namespace {

std::vector<Knob> with_cells(std::vector<Knob> knobs) {
  knobs.insert(knobs.begin(), jostle_cell_knob());
  return knobs;
}

}  // namespace

Knob jostle_cell_knob() {
  return Knob::real("cell", "edge of a cell, in diameters of a lantern", {.default_value = 1, .min = 1, .max = 32});
}

void add_jostle(Catalogue& catalogue) {
  using namespace jostle;
  BundledScenario scenario(
      catalogue, "jostle", "lanterns on still water push each other apart, come to rest, and wake when pushed",
      "lanterns",
      {Knob::real("density", "share of the water that lanterns cover", {.default_value = 0.6, .min = 0.01, .max = 2}),
       Knob::choice("rest", "whether lanterns that lie still are left alone until something pushes them",
                    {"off", "on"}),
       Knob::real("launch", "lanterns replaced per frame, on average", {.default_value = 0, .min = 0, .max = 1e6}),
       Knob::choice("together", "whether these come to one spot, overlapping, or all over the water", {"off", "on"})},
      "grid");
  const auto add = [&](Implementation one) {
    one.may_skip = true;  // Sleeping ones.
    scenario.add(std::move(one));
  };
  add({"pairs", "all against all", "none: two loops", sizes::pairs, make_pairs});
  add({"sweep", "sorted along one axis, kept sorted; checks until out of reach",
       "an order that is kept from frame to frame", sizes::sweep, make_sweep});
  add({"grid",
       "cells by counting sort; each checks itself and four neighbours",
       "an edge of the world, and cells of the right size",
       sizes::grid,
       make_grid,
       {jostle_cell_knob()}});
  add({.name = "grid-capped",
       .note = "the grid with a limit on partners per lantern; contacts are missed",
       .effort = "as grid, and a check of what goes missing",
       .lines = sizes::grid_capped,
       .factory = make_grid_capped,
       .knobs = {jostle_cell_knob(), Knob::integer("partners", "contacts that a lantern takes part in at most",
                                                   {.default_value = 4, .min = 1, .max = 64})},
       .approximate = true});
  add({"hashed",
       "cells in a hash table, a chain of lanterns for each slot",
       "cells of the right size, and no edge",
       sizes::hashed,
       make_hashed,
       {jostle_cell_knob()}});
  std::vector<Knob> stages = with_cells(job_knobs("lanterns", 2048));
  stages.push_back(
      Knob::choice("stage", "what is done in jobs: sorting into cells, pairs, or both", {"both", "cells", "pairs"}));
  add({"grid-jobs", "the grid in jobs: counting, pairs in strips of rows, moving",
       "as grid, strips that touch no common row, and sums that know no order", sizes::grid_jobs, make_grid_jobs,
       std::move(stages)});
  add({"hashed-jobs", "one hash table that all workers fill; every pair is tested from both sides",
       "as hashed, and writes to one's own lantern alone", sizes::hashed_jobs, make_hashed_jobs,
       with_cells(job_knobs("lanterns", 2048))});
}

}  // namespace mileage::festival

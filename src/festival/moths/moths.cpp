#include "festival/scenarios.h"

#include <utility>

#include "festival/moths/moths_variants.h"
#include "festival/moths/sizes.h"
#include "festival/implementations.h"

namespace mileage::festival {

void add_moths(Catalogue& catalogue) {
  using namespace moths;
  BundledScenario scenario(
      catalogue, "moths", "moths fly to the lantern they remember, or to the nearest if it is gone", "moths",
      {Knob::integer("lanterns", "lanterns that drift among them", {.default_value = 5000, .min = 1, .max = 1'000'000}),
       Knob::real("churn", "share of the lanterns that go out and are replaced in a second",
                  {.default_value = 0.05, .min = 0, .max = 10}),
       Knob::real("forget", "share of the moths that search again each frame",
                  {.default_value = 0.02, .min = 0, .max = 1})},
      "kept", {{"updates", 1}});
  scenario.add(
      {"scan", "searches all lanterns, also for the one it remembers", "none: two loops", sizes::scan, make_scan});
  scenario.add({"index", "remembers a place in the array, which is another's once lanterns are replaced",
                "that nothing ever moves: it is wrong otherwise", sizes::index, make_index});
  scenario.add({"kept", "remembers a handle with a generation; searches all for the nearest",
                "lanterns known by slots, and a check of the generation", sizes::kept, make_kept});
  scenario.add({"grid", "a handle; the nearest in cells that are filled every frame",
                "as kept, and cells of the right size", sizes::grid, make_grid});
  scenario.add({.name = "tree",
                .note = "a handle; the nearest from a tree rebuilt every few frames",
                .effort = "as kept, and a tree that knows how far lanterns may have drifted",
                .lines = sizes::tree,
                .factory = make_tree,
                .knobs = {Knob::integer("rebuild", "frames from one tree to the next",
                                        {.default_value = 1, .min = 1, .max = 100'000})}});
  scenario.add({"jobs", "the grid, with moths in batches", "as grid, and moths that do not see each other", sizes::jobs,
                make_jobs, job_knobs("moths", 1024)});
}

}  // namespace mileage::festival

#include "festival/scenarios.h"

#include <utility>

#include "festival/implementations.h"
#include "festival/wicks/sizes.h"
#include "festival/wicks/wicks_variants.h"

namespace mileage::festival {

void add_wicks(Catalogue& catalogue) {
  using namespace wicks;
  BundledScenario scenario(
      catalogue, "wicks", "wicks burn down at different ages; those that are out leave, and new ones come", "wicks",
      {Knob::real("churn", "share of the wicks that go out in a second", {.default_value = 0.2, .min = 0, .max = 60}),
       Knob::choice("order", "whether frames go over them by age", {"free", "kept"})},
      "swap-remove", {{"updates", 1}});
  scenario.add({"objects-erase", "one heap object each; all behind one that goes out move up at once",
                "none: code as it grew", sizes::objects_erase, make_objects_erase});
  scenario.add({"swap-remove", "one array; the last one takes the slot of a burnt one",
                "nobody relies on places, or all move up in a pass of its own", sizes::swap_remove, make_swap_remove});
  scenario.add({"dead-stay", "one array; burnt ones are skipped until they are a quarter",
                "every walk skips, and memory for those that are out", sizes::dead_stay, make_dead_stay});
  scenario.add({"free-list", "slots that are reused, known by index",
                "every walk skips what is free; a list where order matters", sizes::free_list, make_free_list});
  scenario.add({"groups", "handles; fields in pages of columns",
                "a library for entities; a sorted list where order matters", sizes::groups, make_groups});
  scenario.add({"jobs", "batches; leavers are collected by batch and taken out after",
                "as swap-remove, and updates that do not see each other", sizes::jobs, make_jobs,
                job_knobs("wicks", 4096)});
}

}  // namespace mileage::festival

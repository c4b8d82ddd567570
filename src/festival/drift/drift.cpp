#include "festival/scenarios.h"

#include <utility>

#include "festival/drift/drift_kernel.h"
#include "festival/drift/drift_variants.h"
#include "festival/drift/sizes.h"
#include "festival/implementations.h"

namespace mileage::festival {
namespace {

std::vector<std::string> with_objects() {
  return {"objects",        "objects-hoisted",  "in-part",        "mirrored",
          "mirrored-fresh", "mirrored-changed", "mirrored-by-id", "mirrored-jobs"};
}

}  // namespace

void add_drift(Catalogue& catalogue) {
  BundledScenario scenario(
      catalogue, "drift", "lanterns are carried by wind and water, flicker, and lean along their velocity", "lanterns",
      {Knob::real("scatter", "how far the objects lie from the order of use: 0 freshly built, 1 as after hours of play",
                  {.default_value = 0, .min = 0, .max = 1})
           .affecting(with_objects()),
       Knob::integer("ballast", "bytes that an object holds besides what the update touches",
                     {.default_value = 0, .min = 0, .max = 4096, .unit = "bytes"})
           .affecting(with_objects()),
       Knob::integer("work", "inner steps per lantern and frame: few heavy lanterns or many light ones",
                     {.default_value = 1, .min = 1, .max = 10'000}),
       Knob::real("uneven", "one lantern in 16 takes up to 32 times the inner steps: at 1, 32 times; at 0, as many",
                  {.default_value = 0, .min = 0, .max = 1}),
       Knob::integer("kinds", "sorts of lantern, each with code of its own",
                     {.default_value = 1, .min = 1, .max = max_kinds}),
       Knob::real("touched", "share of the lanterns that are pushed from outside before each frame",
                  {.default_value = 0, .min = 0, .max = 1}),
       Knob::integer("rest", "what the frame's thread does besides, in inner steps of one lantern more",
                     {.default_value = 0, .min = 0, .max = 10'000'000})},
      "objects", {{"updates", 1}});
  scenario.add({"objects", "one heap object per lantern, virtual update that looks up the wind",
                "none: code as it grew", sizes::objects, make_drift_objects});
  scenario.add({"objects-hoisted", "the same, with the wind looked up once a frame",
                "one argument more for each update", sizes::objects_hoisted, make_drift_objects_hoisted});
  scenario.add({"records", "one array of structures, one loop", "no pointers to lanterns; their class is gone",
                sizes::records, make_drift_records});
  scenario.add({"in-part",
                "some lanterns went over to columns, the others are objects still",
                "both kinds of code at once, and knowing which lantern is which",
                sizes::in_part,
                make_drift_in_part,
                {Knob::real("converted", "share of the lanterns that went over to columns",
                            {.default_value = 0.5, .min = 0, .max = 1})}});
  scenario.add({.name = "mirrored",
                .note = "objects stay the truth: gathered into columns, updated, written back",
                .effort = "objects stay; copying code for each field, both ways",
                .lines = sizes::mirrored,
                .factory = make_drift_mirrored,
                .stubs = {"gather", "write back"}});
  scenario.add({"mirrored-fresh", "the same with columns made and freed every frame",
                "as mirrored, and nothing to keep", sizes::mirrored_fresh, make_drift_mirrored_fresh});
  scenario.add({"mirrored-changed", "mirrored, gathering only objects that were changed from outside",
                "as mirrored, and every change from outside must be noted", sizes::mirrored_changed,
                make_drift_mirrored_changed});
  scenario.add({"mirrored-by-id", "mirrored, with results found back to their objects through a hash table",
                "as mirrored, with ids instead of pointers", sizes::mirrored_by_id, make_drift_mirrored_by_id});
  scenario.add({"columns-plain", "columns with vectorising off: what layout alone gives",
                "as columns, where the loop cannot be vectorised", sizes::columns_plain, make_drift_columns_plain});
  scenario.add({"columns", "one array per field, one vectorised loop", "each lantern is an index, each field an array",
                sizes::columns, make_drift_columns});
  scenario.add({"columns-wide", "columns with the widest vectors that the processor has",
                "as columns, and one build for each width of vectors", sizes::columns_wide, make_drift_columns_wide});
  scenario.add({"groups", "handles; fields in pages of columns, grouped by what entities have",
                "a library for entities, and thinking in fields and walks", sizes::groups, make_drift_groups});
  scenario.add({"lean", "only what a frame touches, in blocks of one stream, widest vectors",
                "a layout made for this one loop; other fields live elsewhere", sizes::lean, make_drift_lean});
  scenario.add({"mirrored-jobs", "mirrored, with gathering and writing back as jobs too",
                "as mirrored, and objects that nothing else touches during the update", sizes::mirrored_jobs,
                make_drift_mirrored_jobs, job_knobs("lanterns", 4096)});
  scenario.add({"jobs", "columns in batches over a task scheduler",
                "as columns, and updates that do not see each other", sizes::jobs, make_drift_jobs,
                job_knobs("lanterns", 4096)});
  scenario.add({"jobs-wide", "jobs with the widest vectors that the processor has",
                "as jobs, and one build for each width of vectors", sizes::jobs_wide, make_drift_jobs_wide,
                job_knobs("lanterns", 4096)});
  scenario.add({"jobs-late", "jobs started before the rest of the frame, joined after it",
                "as jobs, and a rest of the frame that can do with places a frame old", sizes::jobs_late,
                make_drift_jobs_late, job_knobs("lanterns", 4096)});
}

}  // namespace mileage::festival

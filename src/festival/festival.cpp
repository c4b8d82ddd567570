#include "mileage/festival/festival.h"

#include <algorithm>
#include <thread>

#include "festival/drift_variants.h"

namespace mileage {
namespace {

Build festival_build() {
  Build build = build_of_this_file();
  build.flags = MILEAGE_FESTIVAL_FLAGS;
  return build;
}

Knob workers_knob() {
  const auto cores = static_cast<std::int64_t>(std::max(1U, std::thread::hardware_concurrency()));
  return Knob::integer("workers", "threads that share the batches; preset: all cores", cores, 1, 256);
}

void add_drift(Catalogue& catalogue) {
  Scenario drift;
  drift.name = "drift";
  drift.note = "lanterns are carried by wind and water, flicker, and lean along their velocity";
  drift.entities = "lanterns";
  drift.knobs = {
      Knob::real("scatter", "how far the objects lie from the order of use: 0 freshly built, 1 as after hours of play",
                 0, 0, 1)
          .touching({"objects"}),
      Knob::integer("work", "inner steps per lantern and frame: few heavy lanterns or many light ones", 1, 1, 10'000)};
  drift.reference = "objects";
  drift.build = festival_build();
  catalogue.add(drift);

  catalogue.add_variant("drift", {"objects", "one heap object per lantern, virtual update", {}, ""},
                        festival::make_drift_objects);
  catalogue.add_variant("drift", {"records", "one array of structures, one loop", {}, ""},
                        festival::make_drift_records);
  catalogue.add_variant("drift", {"columns", "one array per field, one vectorised loop", {}, ""},
                        festival::make_drift_columns);
  catalogue.add_variant("drift",
                        {"jobs",
                         "columns in batches over a task scheduler",
                         {workers_knob(), Knob::integer("batch", "lanterns per batch", 4096, 16, 1'000'000)},
                         ""},
                        festival::make_drift_jobs);
}

}  // namespace

void add_festival(Catalogue& catalogue) { add_drift(catalogue); }

}  // namespace mileage

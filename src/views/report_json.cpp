#include "views/report_json.h"

#include "views/answer_json.h"
#include "views/arrivals_view.h"
#include "views/break_even_view.h"
#include "views/capacity_view.h"
#include "views/choice_map_view.h"
#include "views/choice_view.h"
#include "views/cost_view.h"
#include "views/frames_view.h"
#include "views/growth_view.h"
#include "views/ladder_view.h"
#include "views/limits_view.h"
#include "views/parts_view.h"
#include "views/shared_frame_view.h"
#include "views/tuning_view.h"

namespace mileage {

Json report_json(const std::vector<Report>& reports) {
  std::vector<About> abouts;
  for (const Report& one : reports) abouts.push_back(one.about);
  Json json = envelope("report", abouts);
  for (const Report& one : reports) {
    if (one.beside) add_shared_frame_json(json, one.about, *one.beside);
    add_capacity_json(json, one.about, one.capacities);
    add_arrivals_json(json, one.about, one.arrivals);
    add_devices_json(json, one.about, one.parts);
    add_break_even_json(json, one.about, one.break_evens);
    add_cost_json(json, one.about, one.costs);
    add_growth_json(json, one.about, one.growth);
    add_parts_json(json, one.parts, one.about.axis);
    add_choice_json(json, one.about, one.choices);
    add_choice_map_json(json, one.about, one.choices, one.maps);
    add_limits_json(json, one.about, one.limits);
    add_frames_json(json, one.about, one.frames);
    add_tuning_json(json, one.about, one.tuning);
    add_ladder_json(json, one.about, one.ladder);
  }
  return json;
}

}  // namespace mileage

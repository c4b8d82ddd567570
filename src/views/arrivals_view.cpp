#include "views/views.h"

#include <fmt/format.h>

#include "views/words.h"

namespace mileage {
namespace {

Entry warmed_up_cell(const About& about, const CapacityAnswer& capacities, const WorstFrames& worst) {
  for (const SeriesCapacity& one : capacities.capacities)
    if (one.series == worst.series && one.capacity.budget_ms == worst.budget_ms) {
      if (one.capacity.at) return one.capacity.at;
      return absent(one.capacity.none == NoCapacity::over_at_once
                        ? "below " + place_text(one.measured_from, about.axis)
                        : "more than " + place_text(one.holds_at_least, about.axis));
    }
  return absent();
}

Entry worst_cell(const About& about, const WorstFrames& worst) {
  if (worst.at)
    return {worst.at, worst.interval,
            about.head.made_by == MadeBy::tables ? "fewer than three recordings" : "fewer than three blocks"};
  return absent(worst.over_at_once ? "below " + place_text(worst.measured_from, about.axis)
                                   : "more than " + place_text(worst.measured_to, about.axis));
}

Entry warm_up_cell(const ArrivalSize& size) {
  if (!size.settles_frames) return absent("never");
  return Entry(size.settles_frames).reads(*size.settles_frames < 1 ? "at once" : three_digits(*size.settles_frames));
}

Table worst_frames_table(const About& about, const ArrivalsAnswer& answer, const CapacityAnswer& capacities,
                         double budget_ms) {
  Table table(
      about, "worst_frames",
      fmt::format("{}, while {} arrive", at_budget(budget_ms, capacities.reserve_ms), about.head.scenario.entities),
      {series_column(),
       {"budget_ms", "", Format::number, "frame budget, ms"},
       {"capacity", "by warmed-up frames", Format::place, "largest number within the budget"},
       {"capacity_worst", "by the worst frame", Format::place,
        "largest number at which the worst frame after an arrival fits", Spread::column},
       {"first_over", "first over at", Format::place, "smallest number at which any arrival was over"}});
  for (const WorstFrames& worst : answer.worst)
    if (worst.budget_ms == budget_ms)
      table.row({series_entry(about, worst.series), budget_ms, warmed_up_cell(about, capacities, worst),
                 worst_cell(about, worst), worst.first_over ? Entry(worst.first_over) : absent("never")});
  return table;
}

Table sizes_table(const About& about, const ArrivalsAnswer& answer) {
  Table table(
      about, "arrivals", "Cost of arrivals",
      {series_column(),
       {"arriving", "arriving", Format::place, "entities that arrive at once, median"},
       {about.axis.name, "total", Format::place, "number after the arrival, median"},
       {"seen", "times seen", Format::whole, "arrivals of this size"},
       {"adds_ms", "worst frame, added ms", Format::number, "worst frame less the warmed-up one, ms", Spread::inside},
       {"warm_up_frames", "frames to warm up", Format::number, "until frames stay within 10 % of the warmed-up one"},
       {"warm_up_ms", "ms", Format::number, "time that takes, ms"}});
  for (const ArrivalSize& size : answer.sizes)
    table.row({series_entry(about, size.series),
               size.arriving,
               size.at,
               size.seen,
               {size.adds_ms, size.adds_interval},
               warm_up_cell(size),
               size.settles_ms});
  return table;
}

}  // namespace

Answer arrivals_view(const About& about, const ArrivalsAnswer& answer, const CapacityAnswer& capacities) {
  Answer view;
  if (answer.empty()) return view;
  for (const double budget_ms : capacities.budgets_ms)
    view.tables.push_back(worst_frames_table(about, answer, capacities, budget_ms));
  view.tables.push_back(sizes_table(about, answer));
  return view;
}

}  // namespace mileage

#include "views/against_view.h"

namespace mileage {

Answer against_view(const About& about, const std::vector<SeriesAgainst>& answer) {
  Answer view;
  for (const SeriesAgainst& one : answer) {
    Table table(about, "relative", about.label(one.series) + " relative to " + about.label(one.against),
                {{"series", "", Format::series, "variant, with the settings that tell it apart"},
                 {"baseline", "", Format::text, "what it is compared with"},
                 place_column(about),
                 {"relative", "relative", Format::ratio,
                  "time relative to the baseline; interval for all counts together", Spread::column},
                 {"saves_ms", "saves ms", Format::number, "ms per frame saved"}});
    for (const SeriesAgainst::Place& place : one.places)
      table.row({series_entry(about, one.series),
                 about.label(one.against),
                 place.x,
                 {place.share, place.interval},
                 place.saves_ms});
    view.tables.push_back(std::move(table));
  }
  return view;
}

}  // namespace mileage

#include "views/against_view.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "views/answer_json.h"
#include "views/words.h"

namespace mileage {

TextTable against_table(const About& about, const SeriesAgainst& one) {
  TextTable table;
  table.column(about.axis.things, TextTable::Align::right);
  table.column("takes this share of the time of " + about.label(one.against));
  table.column("95 %, all counts together");
  table.column("saves ms", TextTable::Align::right);
  for (const SeriesAgainst::Place& place : one.places)
    table.row({place_text(place.x, about.axis), three_digits(place.share), range_text(place.interval),
               three_digits(place.saves_ms)});
  return table;
}

std::string against_text(const About& about, const std::vector<SeriesAgainst>& answer) {
  std::string text;
  for (const SeriesAgainst& one : answer)
    text += fmt::format("{} against {}\n\n{}\n", about.label(one.series), about.label(one.against),
                        against_table(about, one).text());
  return text;
}

void add_against_json(Json& json, const About& about, const std::vector<SeriesAgainst>& answer) {
  Json& rows = rows_of(json, "against");
  for (const SeriesAgainst& one : answer)
    for (const SeriesAgainst::Place& place : one.places) {
      Json row = row_of(about, one.series);
      row["against"] = about.label(one.against);
      row[about.axis.name] = place_json(place.x, about.axis);
      row["share"] = place.share;
      add_interval(row, place.interval);
      row["saves_ms"] = place.saves_ms;
      rows.push_back(std::move(row));
    }
}

}  // namespace mileage

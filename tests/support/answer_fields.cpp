#include "support/answer_fields.h"

#include <map>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "views/views.h"
#include "views/known_report.h"

namespace mileage::testing_support {
namespace {

Answer together(std::vector<Answer> parts) {
  Answer all;
  for (Answer& part : parts) all.add(std::move(part));
  return all;
}

ArrivalsAnswer an_arrival() {
  ArrivalsAnswer answer;
  answer.worst.emplace_back();
  return answer;
}

BreakdownAnswer a_difference() {
  BreakdownAnswer answer;
  answer.pairs.emplace_back();
  return answer;
}

TuningAnswer a_tuned_knob() {
  TuningAnswer answer;
  answer.knobs = {"KNOB"};
  TunedAt at;
  at.values = {{0, {1.0}, {1, {}}, 1, {}, true, true, true}};
  answer.places = {at};
  return answer;
}

LadderAnswer a_ladder() {
  LadderAnswer answer;
  answer.rungs.emplace_back();
  return answer;
}

/// Every list of every answer, empty or not.
std::vector<std::pair<const char*, Answer>> answers_of_all() {
  const Report& report = made::known_report();
  const About& about = report.about;
  return {
      {"every verb", facts_view(about)},
      {"capacity", together({capacity_view(about, report.capacities, report.limits),
                             arrivals_view(about, an_arrival(), report.capacities), devices_view(about, report.parts),
                             limits_view(about, report.limits)})},
      {"capacity --rest", shared_frame_view(about, {})},
      {"breakeven", break_even_view(about, report.break_evens)},
      {"choose", together({choice_view(about, report.choices, report.capacities),
                           choice_map_view(about, report.choices, {ChoiceMap{}})})},
      {"cost", cost_view(about, report.costs)},
      {"cost --between", breakdown_view(about, a_difference())},
      {"curve", together({growth_view(about, report.growth), against_view(about, {SeriesAgainst{}}),
                          parts_view(about, report.parts)})},
      {"frames", frames_view(about, report.frames)},
      {"tune", tuning_view(about, a_tuned_knob())},
      {"ladder", ladder_view(about, a_ladder())},
  };
}

using Field = std::pair<std::string, std::string>;  // Name and meaning.

/// Fields of at least four lists.
std::set<Field> common_fields(const std::vector<std::pair<const char*, Answer>>& answers) {
  std::map<Field, int> lists;
  for (const auto& [verb, answer] : answers)
    for (const Table& table : answer.tables)
      for (const Column& column : table.columns()) ++lists[{column.name, column.meaning}];
  std::set<Field> common;
  for (const auto& [field, number] : lists)
    if (number >= 4) common.insert(field);
  return common;
}

std::string field_of(const Column& column) {
  return fmt::format("`{}`{}", column.name, column.spread == Spread::none ? "" : " ±");
}

/// Common fields are listed with the list's name.
std::string fields_of(const Table& table, const std::set<Field>& common) {
  std::vector<std::string> known;
  std::string own;
  for (const Column& column : table.columns())
    if (common.count({column.name, column.meaning}) > 0)
      known.push_back(field_of(column));
    else
      own += fmt::format("- {}: {}\n", field_of(column), column.meaning);
  return fmt::format("\n**`{}`**{}\n\n{}", table.name(),
                     known.empty() ? "" : fmt::format(" ({})", fmt::join(known, ", ")), own);
}

}  // namespace

std::string answer_fields() {
  const auto answers = answers_of_all();
  const std::set<Field> common = common_fields(answers);
  std::string text = "\nFields of several lists, named in brackets there:\n\n";
  for (const auto& [name, meaning] : common) text += fmt::format("- `{}`: {}\n", name, meaning);
  std::set<std::string> listed;
  for (const auto& [verb, answer] : answers) {
    text += fmt::format("\n### `{}`\n", verb);
    for (const Table& table : answer.tables)
      if (listed.insert(table.name()).second) text += fields_of(table, common);
  }
  return text + "\n";
}

}  // namespace mileage::testing_support

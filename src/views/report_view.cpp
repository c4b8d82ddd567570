#include "views/report_view.h"

#include <nlohmann/json.hpp>

#include "views/views.h"
#include "views/answer_json.h"

namespace mileage {
namespace {

Answer both(Answer one, Answer other) {
  one.add(std::move(other));
  return one;
}

Answer capacities(const Report& report) {
  Answer all = capacity_view(report.about, report.capacities, report.limits);
  all.add(arrivals_view(report.about, report.arrivals, report.capacities));
  all.add(devices_view(report.about, report.parts));
  all.add(limits_view(report.about, report.limits));
  return all;
}

}  // namespace

std::vector<Section> sections_of(const Report& report) {
  const About& about = report.about;
  std::vector<Section> sections{
      {"Capacity", capacities(report), nullptr, true},
      {"What to use where",
       both(choice_view(about, report.choices, report.capacities), choice_map_view(about, report.choices, report.maps)),
       &PageFigures::map, true},
      {"When a switch pays off", break_even_view(about, report.break_evens), &PageFigures::ratios, true}};
  if (!report.ladder.empty())
    sections.push_back({"Changes in order", ladder_view(about, report.ladder), &PageFigures::ladder});
  if (!report.tuning.empty())
    sections.push_back({"Best value", tuning_view(about, report.tuning), &PageFigures::tuning});
  if (report.next_to_rest)
    sections.push_back({"Next to " + report.next_to_rest->other_scenario,
                        shared_frame_view(about, *report.next_to_rest), &PageFigures::next_to_rest});
  sections.push_back({"Cost of a frame", cost_view(about, report.costs)});
  sections.push_back({"Growth", growth_view(about, report.growth)});
  sections.push_back({"Frame by frame", frames_view(about, report.frames), &PageFigures::frames});
  Answer parts = parts_view(about, report.parts);
  for (Table& table : parts.tables) table.on_request();
  sections.push_back({"Where the time goes", std::move(parts), &PageFigures::work});
  return sections;
}

Json report_json(const std::vector<Report>& reports) {
  std::vector<About> abouts;
  for (const Report& one : reports) abouts.push_back(one.about);
  Json json = envelope("report", abouts);
  for (const Report& report : reports)
    for (const Section& section : sections_of(report)) add_answer_json(json, section.answer);
  return json;
}

}  // namespace mileage

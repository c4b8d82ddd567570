#pragma once

#include <nlohmann/json.hpp>

#include "support/made_studies.h"
#include "support/reports.h"
#include "views/answer_json.h"
#include "views/terminal.h"

namespace mileage::made {

/// 0.1 us each; 0.5 ms and 0.02 us each.
inline Study known_study() {
  Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-4 * n; }},
                    {"columns", [](double n) { return 0.5 + 2e-5 * n; }}};
  setting.counts = counts_between(100, 400'000, 12);
  setting.run_noise = 0.01;
  return study_of(setting);
}

inline const Report& known_report() {
  static const Report report = report_of(known_study());
  return report;
}

inline Json json_of(const Answer& answer) {
  Json json;
  add_answer_json(json, answer);
  return json;
}

/// Processor-bound below 10,000 lanterns, device-bound above.
inline Study drawn_study(bool software) {
  Setting setting;
  Knobs knobs;
  knobs.set("kinds", 4.0);
  setting.truths = {{"each", [](double n) { return 1e-3 * n; }, knobs},
                    {"instanced", [](double n) { return 1 + 2e-4 * n; }, knobs}};
  setting.counts = counts_between(200, 40'000, 10);
  setting.run_noise = 0.01;
  Study study = study_of(setting);
  study.head.scenario.knobs = {
      Knob::integer("kinds", "of lanterns", {.default_value = 4, .min = 1, .max = 9}).splitting_count()};
  for (VariantFacts& facts : study.head.scenario.variants) {
    facts.device = "a card, 1.0";
    facts.software_device = software;
  }
  for (Run& run : study.runs) {
    double wall_ms = 0;
    for (const std::int64_t sample : run.samples_ns) wall_ms += 1e-6 * static_cast<double>(sample);
    run.phases_ms[wait_phase] = run.count < 10'000 ? 0.2 * wall_ms : 0.7 * wall_ms;
    run.counters["calls"] = 8.0 * static_cast<double>(run.measured_frames());
  }
  return study;
}

}  // namespace mileage::made

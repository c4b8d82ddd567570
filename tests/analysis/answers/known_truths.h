#pragma once

#include <cmath>
#include <vector>

#include "support/made_studies.h"
#include "support/reports.h"

namespace mileage::made {

inline double steep(double n) { return 1e-4 * n; }       // Capacity 166,667 at 60 Hz.
inline double flat(double n) { return 0.5 + 2e-5 * n; }  // Crosses steep at 6,250.

inline Setting setting_of(std::vector<Truth> truths, double noise = 0.02) {
  Setting setting;
  setting.truths = std::move(truths);
  setting.counts = counts_between(100, 400'000, 12);
  setting.blocks = 6;
  setting.block_noise = noise;
  setting.run_noise = noise;
  return setting;
}

inline Report answers_to(const Setting& setting, const Questions& questions = {}) {
  return report_of(study_of(setting), questions);
}
inline CapacityAnswer capacities_of(const Setting& setting, const Questions& questions = {}) {
  return capacity_answer(AnalysedStudy(study_of(setting)).analysis(), questions);
}
inline std::vector<ComparedPair> pairs_of(const Setting& setting) {
  return break_even_answer(AnalysedStudy(study_of(setting)).analysis(), {}).pairs;
}
inline ChoiceAnswer choices_of(const Setting& setting) {
  return choice_answer(AnalysedStudy(study_of(setting)).analysis(), {});
}

}  // namespace mileage::made

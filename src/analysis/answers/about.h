// What every answer shows with it: the study, its evidence, and warnings.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/evidence/agreement.h"
#include "analysis/evidence/axis.h"
#include "analysis/evidence/machine_condition.h"
#include "analysis/evidence/time_spent.h"
#include "analysis/evidence/failures_and_bounds.h"

namespace mileage {

struct Analysis;

struct NamedSeries {
  Series series;
  std::string label;
  int rank = 0;                      ///< Of the variant in the scenario; decides color and marker.
  int of_variant = 0;                ///< Number of the series within its variant, from 0; decides the dash.
  std::optional<double> fails_from;  ///< Smallest count at which a run failed: answers end below it.
  /// Mean share of its times that was subtracted to correct for slowdown. Nothing without probes.
  std::optional<double> corrected_by;
};

struct About {
  std::string study;  ///< Base name of the study file.
  Head head;          ///< On this axis.
  Axis axis;
  const char* cost_unit = "ms";  ///< "mJ" for energy.
  std::size_t blocks = 0;
  std::size_t processes = 0;         ///< Processes that made several blocks each; else 0.
  std::size_t runs = 0;              ///< Kept.
  std::optional<double> only_place;  ///< Where all series were measured at one place only.
  std::vector<NamedSeries> series;   ///< Answers name series by their index here.
  std::vector<Failure> failures;
  std::vector<Bound> bounds;
  std::vector<Agreement> agreements;
  MachineCondition quiet;
  std::optional<TimeSpent> spent;
  std::vector<std::string> warnings;
  bool is_one_of_several = false;  ///< Answers for several studies name each.

  const std::string& label(std::size_t one) const { return series[one].label; }
};

About about(const Analysis& analysis);

}  // namespace mileage

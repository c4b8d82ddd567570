// What stands around every answer from a study: whose it is, what it rests on, and what must be said before it.
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

/// A series by its names.
struct NamedSeries {
  Series series;
  std::string label;
  int rank = 0;                      ///< Place of the variant in the scenario; decides colour and marker.
  int of_variant = 0;                ///< 0 for the variant's first series, 1 for its second ...; decides the dash.
  std::optional<double> fails_from;  ///< The smallest count at which a run failed: answers end below it.
  /// Share of its times, on average, that was subtracted to correct them to full speed. Nothing without probes.
  std::optional<double> corrected_by;
};

struct About {
  std::string study;  ///< Base name of the study file.
  Head head;          ///< As it is on this axis.
  Axis axis;
  const char* cost_unit = "ms";  ///< Of all costs: "mJ" where they are energy.
  std::size_t blocks = 0;
  std::size_t processes = 0;         ///< Processes that made several blocks each; 0 where none did.
  std::size_t runs = 0;              ///< Those that answers rest on.
  std::optional<double> only_place;  ///< Where all series were measured, at that place alone.
  std::vector<NamedSeries> series;   ///< Answers name series by their places in it.
  std::vector<Failure> failures;
  std::vector<Bound> bounds;
  std::vector<Agreement> agreements;
  MachineCondition quiet;
  std::optional<TimeSpent> spent;  ///< What measuring cost; nothing where runs do not tell.
  std::vector<std::string> warnings;
  bool is_one_of_several = false;  ///< Whether other studies are answered beside it, so that its rows name it.

  const std::string& label(std::size_t one) const { return series[one].label; }
};

About about(const Analysis& analysis);

}  // namespace mileage

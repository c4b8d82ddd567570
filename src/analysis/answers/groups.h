// Series of a study that stand to choice under the same conditions.
#pragma once

#include <vector>

#include "analysis/evidence/labels.h"

namespace mileage {

struct Analysis;
struct EvidenceSet;
struct Questions;

/// Members are places among the series of the study, simplest variant first.
std::vector<Group> groups_among(const EvidenceSet& evidence);

/// The places asked for. Without any, all that were measured, where those are few; else up to three round ones.
std::vector<double> places_shown(const Analysis& analysis, const Questions& questions);

/// Places asked for that are outside of what any series was measured at, and from where to where that is.
struct NotMeasured {
  std::vector<double> places;
  double min = 0;
  double max = 0;
};
NotMeasured places_not_measured(const Analysis& analysis, const Questions& questions);

}  // namespace mileage

// Series that can be chosen between under the same conditions.
#pragma once

#include <vector>

#include "analysis/evidence/labels.h"

namespace mileage {

struct Analysis;
struct EvidenceSet;
struct Questions;

/// Members are indices into the study's series, simplest first.
std::vector<Group> groups_among(const EvidenceSet& evidence);

/// The places asked for, or else all measured ones if few, or up to three round ones.
std::vector<double> places_shown(const Analysis& analysis, const Questions& questions);

/// Places asked for outside the measured range, and that range.
struct NotMeasured {
  std::vector<double> places;
  double min = 0;
  double max = 0;
};
NotMeasured places_not_measured(const Analysis& analysis, const Questions& questions);

}  // namespace mileage

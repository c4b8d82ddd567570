// A study analysed: evidence, and a curve per series. Every answer reads these two.
#pragma once

#include <vector>

#include "analysis/curves/series_curve.h"
#include "analysis/evidence/evidence_set.h"

namespace mileage {

/// Refers to the study, which must outlive it.
struct Analysis {
  EvidenceSet evidence;
  std::vector<SeriesCurve> curves;
};

/// Throws Error (bad input) without a kept run (or a bound, where those suffice), and as put_on_axis() does. Curves
/// rest on all series, whichever are selected. 0.3 s for 4 series, 12 counts and 8 blocks.
Analysis analyse(const Study& study, const EvidenceWanted& wanted = {});

}  // namespace mileage

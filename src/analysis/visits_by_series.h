// Visits sorted by their series, so that a study of many series is walked through once.
#pragma once

#include <map>
#include <vector>

#include "study/study.h"

namespace mileage {

/// Any order; it tells series apart.
struct SeriesOrder {
  bool operator()(const Series& a, const Series& b) const;
};

class VisitsBySeries {
 public:
  explicit VisitsBySeries(const std::vector<const Visit*>& visits);
  /// In the order in which they were given; empty for a series without any.
  const std::vector<const Visit*>& of(const Series& series) const;

 private:
  std::map<Series, std::vector<const Visit*>, SeriesOrder> visits_;
  std::vector<const Visit*> none_;
};

}  // namespace mileage

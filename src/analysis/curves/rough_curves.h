// Curves of the joint model while a study is measured, at its most probable hyperparameters, and what further runs
// would add.
#pragma once

#include <cstddef>
#include <memory>
#include <optional>
#include <set>
#include <utility>
#include <vector>

#include "analysis/evidence/disturbance_filter.h"
#include "analysis/evidence/model_rows.h"

namespace mileage {

/// At full speed, by the usual response to slowdown. Needs samples.
double fast_frame_ms(const DisturbanceFilter& judge, const Run& run);

/// A weighted sum of the log costs of one or two series at a place.
struct Contrast {
  double log_x = 0;
  int one = 0;
  double weight = 1;
  int other = -1;  ///< -1 for none.
  double weight_of_other = 0;
};

/// A run of a series at a place.
struct FurtherRun {
  int series = 0;
  double log_x = 0;
};

class RoughCurves {
 public:
  /// Needs a row. `part`: curves of fewer of these rows, whose hyperparameters are kept; nullptr to find them. 0.1 s
  /// for 300 rows, 30 ms with `part`.
  explicit RoughCurves(const std::vector<ModelRow>& rows, const RoughCurves* part = nullptr);
  ~RoughCurves();
  RoughCurves(const RoughCurves&) = delete;
  RoughCurves& operator=(const RoughCurves&) = delete;

  /// Rows that the hyperparameters were found with.
  std::size_t fitted_rows() const { return fitted_rows_; }
  bool knows(int series) const { return series_.count(series) > 0; }
  /// At full speed, log ms; of a series with rows.
  std::vector<double> log_ms(int series, const std::vector<double>& log_x) const;
  /// Neighbouring places with a jump between them, log scale; nothing where x is in none.
  std::optional<std::pair<double, double>> step_around(int series, double log_x) const;

 private:
  friend class Narrowing;
  struct Posterior;

  std::set<int> series_;
  std::size_t fitted_rows_;
  std::unique_ptr<Posterior> posterior_;
};

/// Variances of contrasts, and how runs would reduce them: conditioning of a Gaussian posterior.
class Narrowing {
 public:
  /// Any runs, measured before or not. 10 ms for a hundred and 300 rows.
  Narrowing(const RoughCurves& curves, const std::vector<Contrast>& contrasts, const std::vector<FurtherRun>& runs);
  ~Narrowing();
  Narrowing(const Narrowing&) = delete;
  Narrowing& operator=(const Narrowing&) = delete;

  double variance(std::size_t contrast) const;
  /// Reduction of a contrast's variance by one more run.
  double gain(std::size_t contrast, std::size_t run) const;
  /// Takes one more run for granted.
  void take(std::size_t run);

 private:
  struct Gaussian;
  std::unique_ptr<Gaussian> gaussian_;
};

}  // namespace mileage

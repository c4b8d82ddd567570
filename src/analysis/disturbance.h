// Which visits the yardstick condemns, and how quiet the machine was.
#pragma once

#include <optional>
#include <vector>

#include "study/study.h"

namespace mileage {

/// Judges visits by their yardstick alone, never by their frames: choosing by frames would be choosing results.
/// A visit is condemned when the slower of its two arithmetic readings exceeds the level that the machine holds in this
/// study by more than 1.34. By simulation anything from 1.2 to 1.35 tells two speeds 1.7 apart. A smaller limit would also
/// catch the step of 1.22 between a processor's two higher frequencies, but on a shared machine it condemned more visits
/// than could be made again; what remains of that step shows as a warning that frame times follow the yardstick.
/// The remembered level only tells whether the whole study was slow: holding visits against a level that the machine
/// rarely shows would leave nothing to answer from.
class YardstickJudge {
 public:
  /// `remembered_ns`: the best level known of this machine; nothing where none is known.
  explicit YardstickJudge(std::optional<double> remembered_ns) : remembered_ns_(remembered_ns) {}

  /// Takes the readings of one visit into account; visits without a yardstick are ignored.
  void add(const Visit& visit);

  /// Level that the machine holds in this study: the lowest one with half of all readings at most 1.15 times it, faster
  /// ones included. Nothing before the first reading.
  std::optional<double> level_ns() const;
  /// Whether the study's own level stays more than 1.15 above the remembered one: the machine as it was, not as it can be.
  bool is_slow_throughout() const;
  /// Reading above which a visit is condemned; nothing before the first reading.
  std::optional<double> limit_ns() const;
  bool condemns(const Visit& visit) const;

 private:
  std::optional<double> remembered_ns_;
  std::vector<double> readings_;
};

/// How quiet the machine was during a study.
struct Quietness {
  std::size_t kept = 0;
  std::size_t repeated = 0;             ///< Visits that the yardstick condemned.
  double waited_s = 0;                  ///< Spent waiting for quiet moments, over all visits.
  std::optional<double> level_ns;       ///< Of the yardstick in this study.
  std::optional<double> remembered_ns;  ///< Best level known of the machine when the study was made.
  bool slow_throughout = false;
  double busy_cores = 0;     ///< On average during kept visits, their own work included.
  double stolen_share = 0;   ///< On average during kept visits.
  /// Correlation of kept visits' frame times with their yardstick, both on the log scale and free of the level of their
  /// cell; nothing below thirty visits or where one of them does not vary.
  std::optional<double> follows_yardstick;
};

Quietness quietness_of(const Study& study);

}  // namespace mileage

// Slowdown of runs relative to full speed, and which runs were too disturbed. Uses probes only: selecting by frame time
// would be selecting results.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <tuple>
#include <vector>

#include "study/study.h"

namespace mileage {

/// Full speed: yardstick time on an undisturbed machine. The remembered one if there is one; else, or if a quarter of
/// the runs beat it by 1.15x, the fastest 5 % of runs by a tenth of their probes. A run is discarded at twice full
/// speed (twice that of a quarter of the runs if slower), or if the host took over 25 % of the time. All others are
/// corrected. Full speed changes as a study proceeds; runs are judged again at the end.
class DisturbanceFilter {
 public:
  /// Probes are comparable within a kind.
  struct Kind {
    std::string program;  ///< Empty: Mileage's own.
    int cores = 1;
    bool operator<(const Kind& other) const { return std::tie(program, cores) < std::tie(other.program, other.cores); }
    bool operator==(const Kind&) const = default;
  };
  static Kind kind_of(const YardstickReading& reading) { return {reading.program, reading.cores}; }

  /// `remembered_ns`: known full speed, if any; `version`: of its yardstick, 0 for any. Readings of other versions are
  /// not compared.
  explicit DisturbanceFilter(std::optional<double> remembered_ns, int version = 0) : version_(version) {
    if (remembered_ns) remembered_ns_[{}] = *remembered_ns;
  }
  explicit DisturbanceFilter(const Head& head);

  /// Ignores runs without a yardstick.
  void add(const Run& run);

  /// From the runs so far; nothing before the first.
  std::optional<double> own_fast_ns(const Kind& kind) const;
  /// Nothing before the first reading.
  std::optional<double> fast_ns(const Kind& kind) const;
  /// Mileage's own on one core, or the first.
  Kind main_kind() const;
  std::optional<double> own_fast_ns() const { return own_fast_ns(main_kind()); }
  std::optional<double> fast_ns() const { return fast_ns(main_kind()); }
  /// Of Mileage's own probes, by cores.
  std::map<int, double> own_fast_by_cores_ns() const;
  /// Less than a quarter of the runs came within 1.15x of the remembered full speed.
  bool is_slow_throughout() const;
  std::optional<double> remembered_ns() const { return remembered_ns(main_kind()); }
  /// Relative to full speed; nothing without a yardstick.
  std::optional<double> slowness(const Run& run) const;
  bool condemns(const Run& run) const;

 private:
  std::optional<double> remembered_ns(const Kind& kind) const;
  /// Full speed shown by a share of the runs; nothing before the first.
  std::optional<double> shown_by(double share, const Kind& kind) const;
  /// Full speed of a quarter of the runs, which decides whether a study was slow throughout.
  std::optional<double> usual_fast_ns(const Kind& kind) const;

  std::map<Kind, double> remembered_ns_;
  int version_ = 0;
  std::map<Kind, std::vector<double>> fast_of_runs_;  ///< Ascending.
};

/// Of a block, with samples, and not discarded by the whole study's filter, whatever was decided when it was made.
bool is_evidence(const Run& run, const DisturbanceFilter& of_whole_study);

/// Not range finding or a check.
bool is_of_a_block(const Run& run);

std::vector<const Run*> evidence_runs(const Study& study);

}  // namespace mileage

// How fast the machine was during runs, against full speed that is known of it, and which runs were disturbed
// too much. Judged by what is read beside a run alone, never by its frame times: choosing by frames would be choosing
// results.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <tuple>
#include <vector>

#include "study/study.h"

namespace mileage {

/// The full speed of a machine is the time that its yardstick takes when nothing disturbs it: the one remembered of it,
/// so that studies of different hours are compared with the same. Where none is remembered, or where a quarter of the
/// runs are faster by more than 1.15, it is what a twentieth of the study's runs show in a tenth of their probes. A
/// run is condemned where its slowdown is twice that (twice what a quarter of the runs show, where that is slower),
/// and where the machine's host took more than a quarter of the time away. All others are corrected to full speed:
/// throwing away more would leave little on a machine whose speed changes every few milliseconds. The full speed moves
/// while a study is made, and runs are judged again by the last one.
class DisturbanceFilter {
 public:
  /// What probes have to share to be compared with each other: whose they are, and how many cores they run on at once.
  struct Kind {
    std::string program;  ///< Empty: Mileage's own.
    int cores = 1;
    bool operator<(const Kind& other) const { return std::tie(program, cores) < std::tie(other.program, other.cores); }
    bool operator==(const Kind&) const = default;
  };
  static Kind kind_of(const YardstickReading& reading) { return {reading.program, reading.cores}; }

  /// `remembered_ns`: full speed known of this machine; nothing where none is known. `version`: of the work that it
  /// is of; readings of another version are not compared with it. 0: of any.
  explicit DisturbanceFilter(std::optional<double> remembered_ns, int version = 0) : version_(version) {
    if (remembered_ns) remembered_ns_[{}] = *remembered_ns;
  }
  /// By what the head of a study remembers.
  explicit DisturbanceFilter(const Head& head);

  /// Takes the readings of one run into account; runs without a yardstick are ignored.
  void add(const Run& run);

  /// What the runs of the study show of probes of a kind; nothing before the first.
  std::optional<double> own_fast_ns(const Kind& kind) const;
  /// The full speed of probes of a kind; nothing before the first reading.
  std::optional<double> fast_ns(const Kind& kind) const;
  /// The kind that a study is known by: Mileage's own on one core, or the first there is.
  Kind main_kind() const;
  std::optional<double> own_fast_ns() const { return own_fast_ns(main_kind()); }
  std::optional<double> fast_ns() const { return fast_ns(main_kind()); }
  /// What the study shows of Mileage's own probes, by their cores.
  std::map<int, double> own_fast_by_cores_ns() const;
  /// Whether less than a quarter of the runs came within 1.15 of the remembered full speed: the machine as it was, not
  /// as it can be.
  bool is_slow_throughout() const;
  /// Full speed known of the machine before; nothing where none was known.
  std::optional<double> remembered_ns() const { return remembered_ns(main_kind()); }
  /// How many times full speed a run was made at; nothing without a yardstick.
  std::optional<double> slowness(const Run& run) const;
  bool condemns(const Run& run) const;

 private:
  std::optional<double> remembered_ns(const Kind& kind) const;
  /// What so large a share of the runs shows of probes of a kind; nothing before the first.
  std::optional<double> shown_by(double share, const Kind& kind) const;
  /// What a quarter of the runs show, which decides whether a study was slow throughout; nothing before the first.
  std::optional<double> usual_fast_ns(const Kind& kind) const;

  std::map<Kind, double> remembered_ns_;
  int version_ = 0;
  std::map<Kind, std::vector<double>> fast_of_runs_;  ///< Ascending.
};

/// Whether answers rest on a run: it was made in a block, has samples, and is not condemned by the judge of the whole
/// study, whatever was thought of it when it was made.
bool is_evidence(const Run& run, const DisturbanceFilter& of_whole_study);

/// Whether a run was made in a block, and not for range finding or for a check.
bool is_of_a_block(const Run& run);

/// The runs of a study that answers rest on.
std::vector<const Run*> evidence_runs(const Study& study);

}  // namespace mileage

// How fast the machine was during runs, against the fast level that is known of it, and which runs were disturbed
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

/// The fast level of a machine is the time that its yardstick takes when nothing disturbs it: the one remembered of it,
/// so that studies of different hours are held against the same. Where none is remembered, or where a quarter of the
/// runs are faster by more than 1.15, it is what a twentieth of the study's runs show in a tenth of their probes. A
/// run is condemned where its level is twice that (twice what a quarter of the runs show, where that is slower),
/// and where the machine's host took more than a quarter of the time away. All others are brought to the fast level
/// (statistics/level_adjustment.h): throwing away more would leave little on a machine whose speed changes every few
/// milliseconds. The fast level moves while a study is made, and runs are judged again by the last one.
class YardstickJudge {
 public:
  /// What probes have to share to be held against each other: whose they are, and how many cores they run on at once.
  struct Kind {
    std::string program;  ///< Empty: Mileage's own.
    int cores = 1;
    bool operator<(const Kind& other) const { return std::tie(program, cores) < std::tie(other.program, other.cores); }
    bool operator==(const Kind&) const = default;
  };
  static Kind kind_of(const YardstickReading& reading) { return {reading.program, reading.cores}; }

  /// `remembered_ns`: the fast level known of this machine; nothing where none is known. `version`: of the work that it
  /// is of; readings of another version are not held against it. 0: of any.
  explicit YardstickJudge(std::optional<double> remembered_ns, int version = 0) : version_(version) {
    if (remembered_ns) remembered_ns_[{}] = *remembered_ns;
  }
  /// By what the head of a study remembers.
  explicit YardstickJudge(const Head& head);

  /// Takes the readings of one run into account; runs without a yardstick are ignored.
  void add(const Run& run);

  /// What the runs of the study show of probes of a kind; nothing before the first.
  std::optional<double> own_fast_ns(const Kind& kind) const;
  /// The fast level of probes of a kind; nothing before the first reading.
  std::optional<double> fast_ns(const Kind& kind) const;
  /// Its standard deviation on the log scale.
  double fast_deviation(const Kind& kind) const;
  /// The kind that a study is told by: Mileage's own on one core, or the first there is.
  Kind main_kind() const;
  std::optional<double> own_fast_ns() const { return own_fast_ns(main_kind()); }
  std::optional<double> fast_ns() const { return fast_ns(main_kind()); }
  /// What the study shows of Mileage's own probes, by their cores.
  std::map<int, double> own_fast_by_cores_ns() const;
  /// Whether less than a quarter of the runs came within 1.15 of the remembered level: the machine as it was, not as
  /// it can be.
  bool is_slow_throughout() const;
  /// Fast level known of the machine before; nothing where none was known.
  std::optional<double> remembered_ns() const { return remembered_ns(main_kind()); }
  /// How many times the fast level a run was made at; nothing without a yardstick.
  std::optional<double> slowness(const Run& run) const;
  bool condemns(const Run& run) const;
  /// What a frame of the run would typically take at the fast level, by the slopes that all series are drawn to: to
  /// place counts by, before a series has told its own. The run must have samples.
  double rough_fast_ms(const Run& run) const;
  /// Its standard deviation on the log scale, as far as it comes from slopes that differ between series.
  double rough_fast_deviation(const Run& run) const;

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
bool is_evidence(const Run& run, const YardstickJudge& of_whole_study);

/// Whether a run was made in a block, and not for placing or for a check.
bool is_of_a_block(const Run& run);

/// The runs of a study that answers rest on.
std::vector<const Run*> evidence_runs(const Study& study);

}  // namespace mileage

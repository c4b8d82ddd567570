// A study in memory: plan, machine and runs, as in the study file.
#pragma once

#include <cmath>
#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "mileage/types/catalogue.h"
#include "mileage/types/knobs.h"
#include "mileage/types/outcome.h"

namespace mileage {

/// What gets one curve: variant, knobs, memory walked between frames, build.
struct Series {
  std::string variant;
  Knobs knobs;
  double cold_bytes = 0;      ///< 0: frames back to back with warm caches.
  std::string build;          ///< Empty if there is only one.
  std::string skipped_phase;  ///< Makes it the floor of another series.
  bool operator==(const Series&) const = default;

  bool is_cold() const { return cold_bytes > 0; }
  /// Same outcome, without walk.
  Series warm() const { return {variant, knobs, 0, build, skipped_phase}; }
  /// Skips a phase: no outcome comparison, no verdicts.
  bool is_floor() const { return !skipped_phase.empty(); }
};

struct Goal {
  std::string figure;                ///< "capacity", "breakeven" or empty.
  double budget_ms = 0;              ///< Of a capacity.
  std::vector<std::string> between;  ///< Two variants of a break-even.
  bool for_99 = false;               ///< Of a capacity: for 99 % of frames.
  bool operator==(const Goal&) const = default;
};

/// One change of a ladder.
struct Rung {
  std::string name;  ///< As written: "scatter=0".
  Knobs knobs;
  std::string variant;  ///< New variant, if any.
  bool operator==(const Rung&) const = default;
};

struct Plan {
  std::vector<Series> series;
  std::vector<std::int64_t> counts;  ///< Ascending.
  double budget_ms = 1000.0 / 60.0;  ///< Cells far over it are excluded.
  int blocks = 0;                    ///< Maximum; 0: as time or precision allow.
  double precision = 0;              ///< Relative half-width; 0 for none.
  Goal goal;
  bool aim = false;               ///< Add counts around the goal's figures.
  bool listed = false;            ///< Counts were listed: each is measured for every series.
  std::int64_t max_count = 0;     ///< 0 for any.
  double time_s = 0;              ///< 0 for no limit.
  std::uint64_t seed = 1;         ///< Of run order and worlds.
  int min_frames = 20;            ///< Per run, minimum.
  int heavy_frames = 6;           ///< The same for frames above a quarter of the budget: 0.1 s at 60 Hz.
  double min_ms = 20;             ///< Measured time per run, minimum.
  std::int64_t arrive = 0;        ///< Part of the count that arrives at once after warm-up.
  std::vector<Rung> rungs;        ///< Of a ladder on the first series; else empty.
  std::vector<std::string> tune;  ///< Knobs; clearly slower values are dropped.
  int trace = 0;                  ///< Traced runs per cell.
};

/// Nothing in it identifies the machine.
struct Machine {
  std::string processor;
  int cores = 0;
  std::map<std::string, double> cache_bytes;  ///< "L1", "L2", "L3"; data and unified, of one core.
  double memory_bytes = 0;
  std::string system;  ///< Kernel name and release.
  bool debugger = false;
  std::string governor;  ///< Such as "performance"; empty if unknown.
  /// Memory bandwidth of a bare pass by number of cores ("1", "2"). Empty if not measured.
  std::map<std::string, double> pass_bytes_per_s;
};

enum class MadeBy {
  program,   ///< Processes that answer requests.
  commands,  ///< A command per run.
  game,      ///< A running program on request.
  person,    ///< Recordings by hand.
  tables     ///< Frame tables from elsewhere; machine and build unknown.
};

inline constexpr int study_format_version = 3;

/// First line of a study file.
struct Head {
  int version = study_format_version;
  std::string program;   ///< Writer's name and version.
  std::string recorded;  ///< YYYY-MM-DD.
  Scenario scenario;
  Plan plan;
  Machine machine;
  MadeBy made_by = MadeBy::program;
  std::vector<std::string> notes;     ///< Sentences shown before any answer.
  std::vector<std::string> commands;  ///< With placeholders and base names.
  std::string plan_fingerprint;       ///< Of a plan with commands; must match to resume.
  std::string plan_file;              ///< Base name, if any.
  /// Remembered before the study.
  std::optional<double> full_speed_ns;
  /// By number of cores probed ("2").
  std::map<std::string, double> full_speed_on_cores_ns;
  int yardstick_version = 0;  ///< 0 in older files: their runs' version.
};

enum class RunStatus {
  kept,           ///< Of a block, not discarded when made.
  disturbed,      ///< Of a block, discarded when made; the analysis judges both again.
  range_finding,  ///< No evidence.
  check,          ///< Compares outcomes; no evidence.
  traced,         ///< Kept its frames one by one; no point of a curve.
  ramp,           ///< The count changed before warm-up: cost of an arrival, no point of a curve.
  bound,          ///< An upper bound (display cap, coarse clock); no point of a curve.
  failed          ///< Has a reason instead of numbers.
};

/// Yardstick times of a run.
struct YardstickReading {
  int version = 0;
  int probes = 0;
  /// Means of two halves that log frame time follows with one slope (measure/machine/yardstick.h). Halves alternate
  /// with frames; for probes around frames they are before and after.
  double one_half_ns = 0;
  double other_half_ns = 0;
  double fast_ns = 0;   ///< 10th percentile.
  int cores = 1;        ///< Probed at once; the slowest counts.
  std::string program;  ///< Program whose compiler built the probe; empty: Mileage's own.
  /// Geometric mean of all probes; the halves' means exceed it for long frames, which average machine states. Missing
  /// in older files.
  std::optional<double> geometric_ns;
  int moments = 0;  ///< Between frames; 0 for probes around frames.

  double mean_ns() const { return std::sqrt(one_half_ns * other_half_ns); }
  /// log(mean / geometric mean).
  double log_mean_excess() const { return geometric_ns ? std::log(mean_ns() / *geometric_ns) : 0; }
};

/// Resident memory, in bytes.
struct Memory {
  std::optional<double> empty_bytes;
  std::optional<double> built_bytes;
  std::optional<double> warmed_up_bytes;
  std::optional<double> middle_bytes;  ///< After half of the measured frames.
  std::optional<double> end_bytes;
  std::optional<double> peak_bytes;
  std::optional<double> start_bytes;  ///< Driver, if started.
};

/// Sums over the measured frames, as noted.
struct WorkByWorker {
  std::vector<double> busy_ms;  ///< By worker, inside batches.
  std::vector<double> entities;
  std::vector<double> batches;  ///< Number.
  double largest_ms = 0;
  /// From frame start to first batch, and from last batch to frame end; single frames only.
  std::optional<double> before_ms;
  std::optional<double> after_ms;
};

/// One value per measured frame.
struct Trace {
  std::map<std::string, std::vector<std::int64_t>> phases_ns;
  /// Frame, worker, begin and end in ns after frame start, entities.
  std::vector<std::vector<double>> spans;
};

/// Of the whole machine, in 10 ms steps.
struct MachineLoad {
  double busy_cores = 0;                ///< Mean, own run included.
  double stolen_share = 0;              ///< Taken by the host.
  std::optional<double> waiting_share;  ///< Something was runnable without a core.
};

/// Frames of one series at one count.
struct Run {
  Series series;
  std::int64_t count = 0;    ///< As planned.
  int block = 0;             ///< From 0; -1 for range finding.
  int order = 0;             ///< From 0.
  std::int64_t process = 0;  ///< Equal for runs of one process.
  RunStatus status = RunStatus::kept;
  std::string failure;  ///< Of a failed or bound run.
  std::uint64_t seed = 0;

  std::optional<double> setup_ms;
  std::optional<double> start_ms;  ///< Of a driver.
  int frames_per_sample = 1;
  std::vector<std::int64_t> warmup_ns;   ///< Sample totals.
  std::vector<std::int64_t> samples_ns;  ///< Sample totals of frames_per_sample frames each.
  /// By sample: waiting for a core, no cost of the variant. Empty if negligible or unknown.
  std::vector<std::int64_t> waited_ns;
  std::map<std::string, double> phases_ms;  ///< Over the measured frames.
  std::vector<std::string> inner_phases;    ///< Nested in others.
  std::map<std::string, double> counters;   ///< Over the measured frames.
  /// Largest number that arrived at once before the first frame; 0 if all were there from set-up. Warm-up is then from
  /// the arrival.
  std::int64_t arrived = 0;
  std::int64_t alive = 0;                ///< After the last frame.
  std::optional<double> thread_busy_ms;  ///< CPU time of the main thread.
  std::optional<double> processor_ms;    ///< CPU time of all threads.
  /// Kernel part of thread_busy_ms, e.g. for page faults. Tick-based systems sample it: only means over runs count.
  std::optional<double> kernel_ms;
  std::optional<double> page_faults;  ///< Of the main thread.
  std::optional<double> voluntary_switches;
  std::optional<WorkByWorker> work;
  std::optional<Trace> trace;
  std::optional<double> whole_processor_ms;  ///< Of a command, set-up included.
  Memory memory;
  std::optional<YardstickReading> yardstick;
  std::optional<MachineLoad> load;
  int left_behind = 0;               ///< Processes left behind and ended.
  std::optional<double> read_share;  ///< For readings by eye: half of log(high / low).
  double walked_ms = 0;              ///< Between frames, warm-up included.
  std::string float_mode;            ///< Deviations of the main thread; else empty.
  double took_s = 0;                 ///< Process start included.
  Knobs varied;                      ///< Of a check: changed knobs.
  int check_frames = 0;              ///< 0 in older files.
  Outcome outcome;

  std::int64_t measured_frames() const { return frames_per_sample * static_cast<std::int64_t>(samples_ns.size()); }
};

struct Study {
  Head head;
  std::vector<Run> runs;
  std::string name;                   ///< Base name.
  std::vector<std::string> warnings;  ///< Sentences.
};

}  // namespace mileage

// A study in memory: what was planned, on which machine, and every run. Mirrors the study file line by line.
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

/// What gets one curve: a variant with all its knobs, how much other memory is walked between its frames, and of which
/// build.
struct Series {
  std::string variant;
  Knobs knobs;
  double cold_bytes = 0;      ///< 0: frames run back to back and keep their data in the caches.
  std::string build;          ///< Name of the build that its program is of; empty where there is only one.
  std::string skipped_phase;  ///< The phase that it skips: the floor of another series; empty for a whole one.
  bool operator==(const Series&) const = default;

  bool is_cold() const { return cold_bytes > 0; }
  /// The same with nothing between its frames; its outcome is the same.
  Series warm() const { return {variant, knobs, 0, build, skipped_phase}; }
  /// Whether it leaves a phase out, so that its outcome is not compared and no verdict is about it.
  bool is_floor() const { return !skipped_phase.empty(); }
};

/// The figure that a study is for.
struct Goal {
  std::string figure;                ///< "capacity" or "breakeven"; empty where none was named.
  double budget_ms = 0;              ///< Of a capacity.
  std::vector<std::string> between;  ///< The two variants of a break-even.
  bool for_99 = false;               ///< Of a capacity: for 99 % of frames instead of the typical one.
  bool operator==(const Goal&) const = default;
};

/// One change of a ladder: settings on top of those before.
struct Rung {
  std::string name;     ///< As it was written: "scatter=0".
  Knobs knobs;          ///< Set by it.
  std::string variant;  ///< The way that it changes to; empty where that stays.
  bool operator==(const Rung&) const = default;
};

/// What was asked for. Stands in the file's head.
struct Plan {
  std::vector<Series> series;
  std::vector<std::int64_t> counts;  ///< Ascending.
  double budget_ms = 1000.0 / 60.0;  ///< What the study is for: cells far over it are excluded.
  int blocks = 0;                    ///< Passes wanted at most; 0 means as many as time or precision ask for.
  double precision = 0;              ///< Relative half-width wanted of the goal's intervals; 0 means none.
  Goal goal;
  bool aim = false;               ///< Whether counts are added around the figures of the goal.
  bool listed = false;            ///< Whether the counts were listed one by one: each is measured for every series.
  std::int64_t max_count = 0;     ///< Largest count that may be tried; 0 means any.
  double time_s = 0;              ///< Time allowed for measuring; 0 means no limit.
  std::uint64_t seed = 1;         ///< Of the order of runs and of every world.
  int min_frames = 20;            ///< Measured frames of a run, at least,
  int heavy_frames = 10;          ///< and of one whose frames take more than a quarter of the budget.
  double min_ms = 20;             ///< Measured time of a run in milliseconds, at least.
  std::int64_t arrive = 0;        ///< This many of the count come at once, after the others have settled.
  std::vector<Rung> rungs;        ///< Of a ladder whose base is the first series, in order; else empty.
  std::vector<std::string> tune;  ///< Knobs whose best value is looked for: what is clearly slower is dropped.
  int trace = 0;                  ///< This many runs of every cell keep their frames one by one.
};

/// The machine, without anything that names it.
struct Machine {
  std::string processor;
  int cores = 0;
  std::map<std::string, double> cache_bytes;  ///< By name: "L1", "L2", "L3"; data and unified caches of one core.
  double memory_bytes = 0;
  std::string system;     ///< Kernel name and release.
  bool debugger = false;  ///< Whether a debugger was attached to what measured.
  std::string governor;   ///< How the processor chooses its frequency, such as "performance"; empty when unknown.
  /// Bytes that a bare pass reads and writes in a second, far beyond the caches, by how many cores do it at once ("1",
  /// "2"): the fastest of a few. Empty where it was not timed.
  std::map<std::string, double> pass_bytes_per_s;
};

/// Who made the runs of a study: what kind of evidence they are.
enum class MadeBy {
  program,   ///< Processes of a program that answers requests, one for each run.
  commands,  ///< Somebody else's program, started for each run.
  game,      ///< A running program that was told what to show.
  person,    ///< Somebody who recorded what was asked for.
  tables     ///< Frame tables that something else wrote; nothing is known of machine and build.
};

/// Version of the format that is written; older ones are read.
inline constexpr int study_format_version = 3;

/// First line of a study file.
struct Head {
  int version = study_format_version;
  std::string program;   ///< Name and version of what wrote the file.
  std::string recorded;  ///< Day of recording, YYYY-MM-DD.
  Scenario scenario;     ///< With its variants and their notes.
  Plan plan;
  Machine machine;
  MadeBy made_by = MadeBy::program;
  std::vector<std::string> notes;  ///< Notes of the maker of the study, shown before any answer, in sentences.
  std::vector<std::string>
      commands;                  ///< Of commands: the command lines, with their placeholders, and base names alone.
  std::string plan_fingerprint;  ///< Of the text of a plan with commands, so that another one is not resumed.
  std::string plan_file;         ///< Base name of the plan file; empty where there was none.
  /// Full speed of the yardstick known of the machine when the study began; nothing where none was known.
  std::optional<double> full_speed_ns;
  /// The same of probes on several cores at once, by their number ("2").
  std::map<std::string, double> full_speed_on_cores_ns;
  int yardstick_version = 0;  ///< Of the work that it is of; 0 in older files, whose runs are of the same.
};

enum class RunStatus {
  kept,       ///< Made in a block, and not condemned when it was made.
  disturbed,  ///< Made in a block, and condemned when it was made; the analysis judges both kinds again, by the whole
              ///< study.
  range_finding,  ///< Only told where counts lie; takes part in none.
  check,          ///< A short world whose outcome was compared before timing; takes part in none.
  traced,         ///< Kept its frames with their parts one by one: has single frames, and is no point of a curve.
  ramp,   ///< Its count changed before frames had settled: tells what arriving costs, and is no point of a curve.
  bound,  ///< Its frames cost at most what was recorded, for a reason: a display's cap, a coarse clock. No point of a
          ///< curve.
  failed  ///< Has a reason instead of numbers.
};

/// How fast the machine was during a run: times of a short piece of fixed work (a probe), taken repeatedly.
struct YardstickReading {
  int version = 0;
  int probes = 0;
  /// Means of two halves of them, such that log frame time follows them with one slope however long frames are
  /// (measure/machine/yardstick.h). Between frames, the probes after every second frame (or run of short frames) are of
  /// the other half; of a run that is probed around its frames alone, one half stands before and the other after
  /// them.
  double one_half_ns = 0;
  double other_half_ns = 0;
  double fast_ns = 0;   ///< A tenth of the probes took at most this.
  int cores = 1;        ///< This many were probed at once; the slowest of them told.
  std::string program;  ///< Whose compiler made the probe, where that was not Mileage's own: the program's name.
  /// Geometric mean of all probes, weighted alike; nothing in older files. The means of both halves lie above it where
  /// long frames add up moments of several states, and are right for frames that follow the probe as usual; those that
  /// follow it more steeply lie farther above (statistics/slowdown_correction.h).
  std::optional<double> geometric_ns;
  int moments = 0;  ///< Between frames, at which probes were made; 0 where they were made around the frames alone.

  /// Geometric mean of both halves.
  double mean_ns() const { return std::sqrt(one_half_ns * other_half_ns); }
  /// How far that lies above the geometric mean of all probes, log scale.
  double log_mean_excess() const { return geometric_ns ? std::log(mean_ns() / *geometric_ns) : 0; }
};

/// Resident memory of a run process in bytes; nothing where it is not known.
struct Memory {
  std::optional<double> empty_bytes;      ///< Before setting up.
  std::optional<double> built_bytes;      ///< After setting up.
  std::optional<double> warmed_up_bytes;  ///< Before the first measured frame.
  std::optional<double> middle_bytes;     ///< After about half of the measured frames.
  std::optional<double> end_bytes;        ///< After the last frame.
  std::optional<double> peak_bytes;
  std::optional<double> start_bytes;  ///< Taken by a driver that was started before; nothing where none was.
};

/// What the workers of a run did, as far as its frames noted it; summed over the measured frames.
struct WorkByWorker {
  std::vector<double> busy_ms;   ///< By worker: inside its batches.
  std::vector<double> entities;  ///< By worker,
  std::vector<double> batches;   ///< and how many of them.
  double largest_ms = 0;         ///< The longest batch of all.
  /// From the start of a frame to its first batch, and from the last one's end to the frame's; nothing where frames are
  /// timed several at once.
  std::optional<double> before_ms;
  std::optional<double> after_ms;
};

/// Frames of a run one by one: one value for each measured frame.
struct Trace {
  std::map<std::string, std::vector<std::int64_t>> phases_ns;
  /// Batches of work: frame, worker, begin and end in nanoseconds after the frame's start, entities.
  std::vector<std::vector<double>> spans;
};

/// What the whole machine did during a run, as far as the system tells (in steps of 10 ms).
struct MachineLoad {
  double busy_cores = 0;                ///< Cores busy with anything, the run included; on average.
  double stolen_share = 0;              ///< Share of all cores' time that the machine's host took away.
  std::optional<double> waiting_share;  ///< Share of time in which anything was ready to run and had no core.
};

/// One run: frames of one series at one count. Times of frames are integers in nanoseconds.
struct Run {
  Series series;
  std::int64_t count = 0;    ///< As planned.
  int block = 0;             ///< Counted from 0; range-finding runs stand before the first block and have -1.
  int order = 0;             ///< Place among all runs of the study, counted from 0.
  std::int64_t process = 0;  ///< Runs with the same number ran in the same process.
  RunStatus status = RunStatus::kept;
  std::string failure;  ///< Plain reason of a failed or bound run; empty otherwise.
  std::uint64_t seed = 0;

  std::optional<double> setup_ms;  ///< Nothing where it is not known.
  std::optional<double> start_ms;  ///< Of a driver, before setting up; nothing where none was started.
  int frames_per_sample = 1;
  std::vector<std::int64_t> warmup_ns;   ///< Totals of the samples before the frame time had settled.
  std::vector<std::int64_t> samples_ns;  ///< Totals of the measured samples, each of frames_per_sample frames.
  /// Of each of these samples, how long its threads were ready and waited for a core that others had: a part of it that
  /// is no cost of the variant. Empty where it was next to nothing, or unknown.
  std::vector<std::int64_t> waited_ns;
  std::map<std::string, double> phases_ms;  ///< Summed over the measured frames.
  std::vector<std::string> inner_phases;    ///< Those of them that lie inside others, whose time holds theirs.
  std::map<std::string, double> counters;   ///< Summed over the measured frames.
  /// This many came at once just before its first frame, the most of them where several did; 0 where the world was set
  /// up with all of them. Its frames until they settled again are then its warm-up.
  std::int64_t arrived = 0;
  std::int64_t alive = 0;  ///< Counted after the last frame.
  std::optional<double>
      thread_busy_ms;  ///< Processor time of the main thread over the measured frames; nothing where not known.
  std::optional<double>
      processor_ms;  ///< Processor time of all threads over the measured frames; nothing where not known.
  /// Part of thread_busy_ms that the system's calls took, such as for memory that is asked for again. A system that
  /// counts in ticks tells it by lot: only the mean over runs says anything. Nothing where it is not known.
  std::optional<double> kernel_ms;
  std::optional<double> page_faults;         ///< Pages of memory that the main thread touched first, over those frames.
  std::optional<double> voluntary_switches;  ///< How often it gave up its core to wait, over the measured frames.
  std::optional<WorkByWorker> work;          ///< Nothing where its frames noted none.
  std::optional<Trace> trace;                ///< Of a traced run, and of a recording that has phases.
  std::optional<double> whole_processor_ms;  ///< Of a command: processor time of all it did, set-up included.
  Memory memory;
  std::optional<YardstickReading> yardstick;
  std::optional<MachineLoad> load;   ///< Nothing where the system told none.
  int left_behind = 0;               ///< Processes that it had left at its end, and that were ended.
  std::optional<double> read_share;  ///< Of a reading by eye: half of log(high / low), what was read between.
  double walked_ms = 0;              ///< Spent on walking other memory between the frames, warm-up included.
  std::string float_mode;            ///< What its frames' thread does otherwise with floats; empty where nothing.
  double took_s = 0;                 ///< Time that the run took the study, start of the process included.
  Knobs varied;                      ///< Of a check: knobs set otherwise than in the series.
  int check_frames = 0;              ///< Of a check: its frames; 0 where an older file does not tell.
  Outcome outcome;

  std::int64_t measured_frames() const { return frames_per_sample * static_cast<std::int64_t>(samples_ns.size()); }
};

struct Study {
  Head head;
  std::vector<Run> runs;
  std::string name;                   ///< Base name of the file it was read from.
  std::vector<std::string> warnings;  ///< What was odd about the file, in sentences.
};

}  // namespace mileage

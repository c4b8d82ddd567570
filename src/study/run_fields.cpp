#include <cmath>

#include <fmt/format.h>

#include "study/json_forms.h"

namespace mileage {
namespace {

constexpr double max_count = 1e15;
constexpr double max_number = 1e9;
/// Some thirty years in one sample.
constexpr std::size_t numbers_of_a_span = 5;
constexpr std::int64_t max_sample_ns = 1'000'000'000'000'000'000;

using ByName = std::map<std::string, double>;

bool has_frames(const Run& run) { return run.status != RunStatus::failed; }
bool has_a_reason(const Run& run) { return run.status == RunStatus::failed || run.status == RunStatus::bound; }
bool is_check(const Run& run) { return run.status == RunStatus::check; }
bool is_cold(const Run& run) { return run.series.is_cold(); }

Fault out_of_range(std::string field, std::string found, std::string accepted) {
  return {
      .field = std::move(field), .problem = "out of range", .found = std::move(found), .accepted = std::move(accepted)};
}

std::optional<Fault> fault_in_number(const std::string& field, double number, bool may_be_below_zero) {
  if (!std::isfinite(number))
    return Fault{.field = field, .problem = "not a number", .found = fmt::format("{}", number), .accepted = "a number"};
  if (number >= 0 || may_be_below_zero) return std::nullopt;
  return out_of_range(field, fmt::format("{}", number), "0 or above");
}

std::optional<Fault> fault_in_samples(const char* field, const std::vector<std::int64_t>& samples) {
  for (const std::int64_t sample : samples)
    if (sample < 1 || sample > max_sample_ns)
      return Fault{.field = field,
                   .problem = sample < 1 ? "a sample without time in it" : "out of range",
                   .found = fmt::format("{}", sample),
                   .accepted = "times above 0 ns"};
  return std::nullopt;
}

std::optional<Fault> fault_in_sums(const char* kind, const ByName& sums, bool may_be_below_zero) {
  for (const auto& [name, sum] : sums)
    if (auto fault = fault_in_number(kind + name, sum, may_be_below_zero)) return fault;
  return std::nullopt;
}

/// NaN agrees with nothing and is valid.
std::optional<Fault> fault_in_outcome(const Outcome& outcome) {
  for (const Quantity& one : outcome.quantities()) {
    if (auto fault = fault_in_number("tolerance of " + one.name, one.tolerance, false)) return fault;
    if (auto fault = fault_in_number("scale of " + one.name, one.scale, false)) return fault;
  }
  return std::nullopt;
}

std::optional<Fault> fault_in_knobs(const Series& series) {
  for (const auto& [name, value] : series.knobs.values())
    if (const auto* number = std::get_if<double>(&value))
      if (auto fault = fault_in_number("knob " + name, *number, true)) return fault;
  return std::nullopt;
}

/// Faults of a nested record, under its field name.
std::optional<Fault> under(const char* field, std::optional<Fault> fault) {
  if (fault) fault->field = field;
  return fault;
}

std::optional<Fault> fault_in_yardstick(const Run& run) {
  return run.yardstick ? under("yardstick", first_fault(*run.yardstick)) : std::nullopt;
}

std::optional<Fault> fault_in_work(const Run& run) {
  if (!run.work) return std::nullopt;
  if (auto fault = under("work", first_fault(*run.work))) return fault;
  const WorkByWorker& work = *run.work;
  if (work.entities.size() != work.busy_ms.size() || work.batches.size() != work.busy_ms.size())
    return Fault{.field = "work", .problem = "lists of several lengths", .accepted = "one value for each worker"};
  for (const auto* list : {&work.busy_ms, &work.entities, &work.batches})
    for (const double value : *list)
      if (auto fault = fault_in_number("work", value, false)) return fault;
  return std::nullopt;
}

std::optional<Fault> fault_in_trace(const Run& run) {
  if (!run.trace) return std::nullopt;
  for (const auto& [name, times] : run.trace->phases_ns)
    if (times.size() != run.samples_ns.size() || run.frames_per_sample != 1)
      return Fault{.field = "trace",
                   .problem = "not as many times as frames",
                   .found = fmt::format("{} of phase {}", times.size(), name),
                   .accepted = fmt::format("{}", run.samples_ns.size())};
  for (const std::vector<double>& span : run.trace->spans)
    if (span.size() != numbers_of_a_span)
      return Fault{.field = "trace",
                   .problem = "not a span",
                   .found = fmt::format("{} numbers", span.size()),
                   .accepted = "frame, worker, begin, end and entities"};
  return std::nullopt;
}

MachineLoad& load_of(Run& run) {
  if (!run.load) run.load = MachineLoad{};
  return *run.load;
}

}  // namespace

template <>
const FieldList& fields_of<Series>() {
  using S = FieldMaker<Series>;
  static const FieldList fields{
      S("variant", &Series::variant, "Its name.").required().not_empty(),
      S("knobs", &Series::knobs, "All knobs that affect the variant.").required().fault(fault_in_knobs),
      S("cold_bytes", &Series::cold_bytes, "Other memory read before each frame, outside its time.")
          .in("bytes")
          .from(0)
          .sparse(),
      S("build", &Series::build, "Build of the program, if there are several.").not_empty().sparse(),
      S("skipped_phase", &Series::skipped_phase, "Phase that its frames skip: a floor, not a candidate.")
          .since(2)
          .was("without")
          .not_empty()
          .sparse()};
  return fields;
}

template <>
const FieldList& fields_of<WorkByWorker>() {
  using W = FieldMaker<WorkByWorker>;
  static const FieldList fields{
      W("busy_ms", &WorkByWorker::busy_ms, "By worker: inside its batches.").required().in("ms"),
      W("entities", &WorkByWorker::entities, "By worker.").required(),
      W("batches", &WorkByWorker::batches, "By worker: how many.").required(),
      W("largest_ms", &WorkByWorker::largest_ms, "The longest batch.").required().in("ms").from(0),
      W("before_ms", &WorkByWorker::before_ms,
        "From the start of a frame to its first batch; missing where frames are timed several at once.")
          .in("ms")
          .from(0),
      W("after_ms", &WorkByWorker::after_ms, "From the end of its last batch to the frame's end.").in("ms").from(0)};
  return fields;
}

template <>
const FieldList& fields_of<Trace>() {
  using T = FieldMaker<Trace>;
  static const FieldList fields{
      T("phases_ns", &Trace::phases_ns, "By phase: one time for each measured frame.").required().in("ns"),
      T("spans", &Trace::spans,
        "Batches of work: frame, worker, begin and end in nanoseconds after the frame's start, entities.")
          .sparse()};
  return fields;
}

template <>
const FieldList& fields_of<YardstickReading>() {
  using R = FieldMaker<YardstickReading>;
  static const FieldList fields{
      R("version", &YardstickReading::version, "Of the work that is timed; levels of other versions say nothing.")
          .required()
          .schema("minimum", 1),
      R("probes", &YardstickReading::probes, "How often it was timed.").required().from(1, max_number),
      R("one_half_ns", &YardstickReading::one_half_ns,
        "Mean of the times after every second frame, or run of short frames: from geometric to a power mean the longer "
        "frames are; of a run that is timed around its frames only, of those before them.")
          .required()
          .in("ns")
          .above_zero(),
      R("other_half_ns", &YardstickReading::other_half_ns, "Of the others; of those after the frames.")
          .required()
          .in("ns")
          .above_zero(),
      R("fast_ns", &YardstickReading::fast_ns, "A tenth of the times are at most this.")
          .required()
          .in("ns")
          .above_zero(),
      R("cores", &YardstickReading::cores, "Cores timed at once, of which the slowest tells; 1 where it is missing.")
          .from(1, max_number)
          .sparse(),
      R("program", &YardstickReading::program,
        "Whose compiler made the work, where that was not Mileage's own: the program's name.")
          .sparse(),
      R("geometric_ns", &YardstickReading::geometric_ns,
        "Geometric mean of all times; both halves lie above it the more, the longer frames are and the more times "
        "vary.")
          .in("ns")
          .above_zero(),
      R("moments", &YardstickReading::moments,
        "Moments between frames at which it was timed, several times in a row after long ones; missing where it was "
        "timed around the frames alone.")
          .from(0, max_number)
          .sparse()};
  return fields;
}

template <>
const FieldList& fields_of<Memory>() {
  using M = FieldMaker<Memory>;
  static const FieldList fields{
      M("start", &Memory::start_bytes, "Taken by a driver that was started before; missing where none was.")
          .in("bytes")
          .sparse(),
      M("empty", &Memory::empty_bytes, "Before setting up.").in("bytes").from(0).zero_is_unknown(),
      M("built", &Memory::built_bytes, "After setting up.").in("bytes").from(0).zero_is_unknown(),
      M("warmed_up", &Memory::warmed_up_bytes, "Before the first measured frame.")
          .was("settled")
          .in("bytes")
          .from(0)
          .zero_is_unknown(),
      M("middle", &Memory::middle_bytes, "After about half of the measured frames.")
          .in("bytes")
          .from(0)
          .zero_is_unknown(),
      M("end", &Memory::end_bytes, "After the last frame.").in("bytes").from(0).zero_is_unknown(),
      M("peak", &Memory::peak_bytes, "At most.").in("bytes").from(0).zero_is_unknown()};
  return fields;
}

template <>
const FieldList& fields_of<Quantity>() {
  using Q = FieldMaker<Quantity>;
  static const FieldList fields = [] {
    Field value = Q("value", &Quantity::value, "In the scenario's own unit; null for a value that is no number.")
                      .required()
                      .schema("type", {"number", "null"});
    value.value = [](const void* record) {
      const double number = static_cast<const Quantity*>(record)->value;
      return std::isfinite(number) ? Json(number) : Json(nullptr);
    };
    value.take = [](const Json& json, void* record) {
      static_cast<Quantity*>(record)->value = json.is_null() ? std::nan("") : read_value<double>(json, "value");
    };
    return FieldList{
        Q("name", &Quantity::name, "Such as \"mean height\".").required(), value,
        Q("tolerance", &Quantity::tolerance,
          "Largest accepted difference, relative to the larger of both magnitudes and the scale.")
            .required()
            .from(0),
        Q("scale", &Quantity::scale, "Magnitude below which the quantity counts as zero; 0 for none.").from(0)};
  }();
  return fields;
}

template <>
const FieldList& fields_of<Run>() {
  using V = FieldMaker<Run>;
  static const FieldList fields{
      V("series", &Run::series, "What was measured.").required().fault<Run>([](const Run& run) -> std::optional<Fault> {
        return first_fault(run.series);
      }),
      V("count", &Run::count, "Entities, as planned.").required().from(1, max_count),
      V("block", &Run::block, "From 0; -1: checks and range finding.").required().from(-1, max_number),
      V("order", &Run::order, "Number among the runs of the study, from 0.").required().from(0, max_number),
      V("process", &Run::process, "Process that made it; several blocks of one process count as one."),
      V("status", &Run::status,
        "kept; disturbed (used too, judged again by the slowdown of the whole study); range_finding; check (outcome "
        "compared); traced (kept single frames; not part of a curve); ramp (its count changed during warm-up: shows "
        "arrivals; not part of a curve); bound (an upper bound, such as of capped frames); failed (with a reason).")
          .required(),
      V("seed", &Run::seed, "Of its world."),
      V("took_s", &Run::took_s, "Start of the process included.").in("s").finite(),
      V(
          "busy_cores", [](const Run& run) { return run.load ? std::optional(run.load->busy_cores) : std::nullopt; },
          [](double cores, Run& run) { load_of(run).busy_cores = cores; },
          "Cores of the machine busy during the run, in steps of 10 ms.")
          .in("cores")
          .finite(),
      V(
          "stolen_share",
          [](const Run& run) { return run.load ? std::optional(run.load->stolen_share) : std::nullopt; },
          [](double share, Run& run) { load_of(run).stolen_share = share; },
          "Share of processor time taken by the host.")
          .finite(),
      V(
          "waiting_share", [](const Run& run) { return run.load ? run.load->waiting_share : std::nullopt; },
          [](double share, Run& run) { load_of(run).waiting_share = share; },
          "Share of the time in which any thread of the machine waited for a core.")
          .finite(),
      V("left_behind", &Run::left_behind, "Processes that it left and that were ended.").from(0, max_number).sparse(),
      V("varied", &Run::varied, "Of a check: knobs set otherwise than in the series.").when(is_check),
      V("check_frames", &Run::check_frames, "Of a check: its frames.").from(0).since(2).when(is_check),
      V("float_mode", &Run::float_mode, "Non-default treatment of floats, such as flushing denormals.")
          .since(2)
          .sparse(),
      V("failure", &Run::failure, "Reason, if failed or a bound.").required_of(has_a_reason).sparse(),
      V("setup_ms", &Run::setup_ms, "Set-up of the world.").in("ms").from(0).zero_is_unknown().when(has_frames),
      V("start_ms", &Run::start_ms, "Start of a driver before set-up.").in("ms").from(0).sparse(),
      V("frames_per_sample", &Run::frames_per_sample, "Very short frames are timed several at once.")
          .required_of(has_frames)
          .from(1, max_number)
          .when(has_frames),
      V("warmup_ns", &Run::warmup_ns, "Samples during warm-up.")
          .required_of(has_frames)
          .in("ns")
          .fault<Run>(
              [](const Run& run) -> std::optional<Fault> { return fault_in_samples("warmup_ns", run.warmup_ns); })
          .when(has_frames),
      V("samples_ns", &Run::samples_ns, "Measured samples, of frames_per_sample frames each.")
          .required_of(has_frames)
          .in("ns")
          .fault<Run>(
              [](const Run& run) -> std::optional<Fault> { return fault_in_samples("samples_ns", run.samples_ns); })
          .when(has_frames),
      V("waited_ns", &Run::waited_ns, "By sample: time in which its threads waited for a core that others had.")
          .in("ns")
          .sparse()
          .fault<Run>([](const Run& run) -> std::optional<Fault> {
            const bool is_time = std::all_of(run.waited_ns.begin(), run.waited_ns.end(),
                                             [](std::int64_t ns) { return ns >= 0 && ns <= max_sample_ns; });
            if (is_time) return std::nullopt;
            return Fault{.field = "waited_ns", .problem = "out of range", .accepted = "nanoseconds from 0"};
          })
          .when(has_frames),
      V("phases_ms", &Run::phases_ms, "Time of the main thread by phase, sum of measured frames.")
          .in("ms")
          .fault<Run>(
              [](const Run& run) -> std::optional<Fault> { return fault_in_sums("phase:", run.phases_ms, false); })
          .when(has_frames),
      V("inner_phases", &Run::inner_phases, "Phases inside others, whose time includes theirs.")
          .since(2)
          .sparse()
          .when(has_frames),
      V("counters", &Run::counters, "Sum of measured frames.")
          .fault<Run>(
              [](const Run& run) -> std::optional<Fault> { return fault_in_sums("counter:", run.counters, true); })
          .when(has_frames),
      V("arrived", &Run::arrived,
        "Entities that arrived just before its first frame (most at once); warm-up then shows the arrival.")
          .from(0, max_count)
          .sparse()
          .when(has_frames),
      V("alive", &Run::alive, "After the last frame.").required_of(has_frames).from(0, max_count).when(has_frames),
      V("thread_busy_ms", &Run::thread_busy_ms, "Processor time of the main thread, sum of measured frames.")
          .in("ms")
          .finite()
          .zero_is_unknown()
          .when(has_frames),
      V("processor_ms", &Run::processor_ms, "The same for all threads.")
          .in("ms")
          .finite()
          .zero_is_unknown()
          .when(has_frames),
      V("kernel_ms", &Run::kernel_ms, "Part of thread_busy_ms in the kernel.")
          .in("ms")
          .finite()
          .since(2)
          .when(has_frames),
      V("page_faults", &Run::page_faults, "New pages touched by the main thread.").finite().since(2).when(has_frames),
      V("voluntary_switches", &Run::voluntary_switches, "How often the main thread gave up its core to wait.")
          .was("halts")
          .finite()
          .since(2)
          .when(has_frames),
      V("work", &Run::work, "Work by worker.")
          .since(2)
          .fault<Run>([](const Run& run) -> std::optional<Fault> { return fault_in_work(run); })
          .when(has_frames),
      V("trace", &Run::trace, "Single frames of a traced run or a recording with phases.")
          .since(2)
          .fault<Run>([](const Run& run) -> std::optional<Fault> { return fault_in_trace(run); })
          .when(has_frames),
      V("whole_processor_ms", &Run::whole_processor_ms,
        "Of a command: processor time of the whole run with all its processes.")
          .in("ms")
          .from(0)
          .when(has_frames),
      V("walked_ms", &Run::walked_ms, "Of a cold series: reading other memory between frames.")
          .in("ms")
          .from(0)
          .when(is_cold)
          .when(has_frames),
      V("memory_bytes", &Run::memory, "Resident.")
          .in("bytes")
          .fault<Run>(
              [](const Run& run) -> std::optional<Fault> { return under("memory_bytes", first_fault(run.memory)); })
          .when(has_frames),
      V("yardstick", &Run::yardstick, "Probes between or around frames.").fault(fault_in_yardstick).when(has_frames),
      V("read_share", &Run::read_share, "Of a reading by eye: half of log(high / low).").from(0).when(has_frames),
      V("outcome", &Run::outcome, "Of the world after the last frame.")
          .required_of(has_frames)
          .fault<Run>([](const Run& run) -> std::optional<Fault> { return fault_in_outcome(run.outcome); })
          .when(has_frames)};
  return fields;
}

}  // namespace mileage

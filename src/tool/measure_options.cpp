#include "tool/measure_options.h"

#include <algorithm>

#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

constexpr const char* usual_counts = "100..200k";
constexpr const char* usual_budget = "60hz";

void read_knob(const std::string& text, PlanRequest& request) {
  const auto knob = named_value(text);
  if (!knob)
    throw Error({.kind = FaultKind::usage,
                 .field = "knob",
                 .problem = "not a knob with its values",
                 .found = text,
                 .accepted = "name=value or name=value,value, such as scatter=0,1"});
  request.knobs[knob->first] = split(knob->second, ',');
}

/// "0,8MB"; 0 is warm.
std::vector<double> read_cold(const std::string& text) {
  std::vector<double> sizes;
  for (const std::string& part : split(text, ',')) {
    const double bytes = part == "0" ? 0 : parse_bytes(part, "cold");
    if (std::find(sizes.begin(), sizes.end(), bytes) == sizes.end()) sizes.push_back(bytes);
  }
  return sizes;
}

double read_precision(const std::string& text) {
  const double precision = parse_share(text, "precision");
  if (precision <= 0)
    throw Error({.kind = FaultKind::usage,
                 .field = "precision",
                 .problem = "no measurement is without error",
                 .found = text,
                 .accepted = "a share above 0%, such as 3%"});
  return precision;
}

}  // namespace

void add_measure_options(Verb& verb, MeasureOptions& options) {
  verb.operand("PLAN", options.plan_file, "a plan file (*.toml); options take precedence");
  verb.option("--scenario", options.scenario, "what to measure; see `mileage list`");
  verb.option("--variants", options.variants, "variants, such as objects,columns (default: all that can run here)");
  verb.option("--counts", options.counts, "a list 1k,5k,20k or a span 100..200k (default: 100..200k)");
  verb.option("--points", options.points, 2, 100, "counts in a span (default: about three per decade, at least eight)");
  verb.option("--knob", options.knobs, "a knob with one value or several: scatter=0,1");
  verb.option("--cold", options.cold, "read this much other memory between frames: 8MB; 0,8MB for warm and cold");
  verb.option("--budget", options.budget, "the frame budget: 60hz or 16.7ms (default: 60hz)");
  verb.option("--precision", options.precision, "measure until intervals are this narrow, such as 3%");
  verb.option("--for", options.goal,
              "the goal: capacity, capacity@30hz, capacity@60hz:99% (for 99 % of frames) or breakeven:objects,columns "
              "(default: capacity)");
  verb.option("--time", options.time, "how long to measure, such as 30s");
  verb.option("--blocks", options.blocks, 1, 1000, "passes over all cells (default: 5 without --time or --precision)");
  verb.option("--seed", options.seed, "seed of the order of runs and of every world (default: 1)");
  verb.option("--frames", options.frames, 1, 100'000, "least measured frames per run (default: 20; 6 for slow frames)");
  verb.option("--arrive", options.arrive, "number of entities that arrive at once in every run, such as 50");
  verb.option("--without", options.without, "also measure variants without these phases, such as gather");
  verb.option("--trace", options.trace, 1, 100, "runs per cell that keep every frame with its phases (default: none)");
  verb.option("-o,--output", options.output, "the study file to write or continue (default: SCENARIO.study.jsonl)");
  verb.option("--program", options.program, "measure this program instead; its main calls mileage::serve_runs");
  verb.option("--builds", options.builds,
              "several builds in the same blocks: before=build-a/night,after=build-b/night");
  verb.option("--memory-limit", options.memory_limit,
              "most memory of a run, such as 4GB (default: half of the memory)");
  verb.flag("--no-refine", options.no_refine,
            "measure the given counts only; otherwise counts near capacities and break-evens are added");
  verb.flag("--by-hand", options.by_hand,
            "a person records; says what to record and takes each file (docs/reference/recording.md)");
  verb.flag("--same-process", options.same_process, "no process per run, for a debugger; a crash ends the study");
  verb.comes_back("  At 60 Hz (16.7 ms): columns 1.62M lanterns, objects 342k.\n");
  verb.flag("--dry-run", options.dry_run, "measure nothing; show the plan and its time");
}

std::vector<std::pair<std::string, std::filesystem::path>> builds_of(const MeasureOptions& options) {
  std::vector<std::pair<std::string, std::filesystem::path>> builds;
  if (options.builds.empty()) return builds;
  for (const std::string& text : split(options.builds, ',')) {
    const auto build = named_value(text);
    if (!build)
      throw Error({.kind = FaultKind::usage,
                   .field = "builds",
                   .problem = "not a build with its program",
                   .found = text,
                   .accepted = "NAME=PROGRAM,NAME=PROGRAM, such as before=build-a/night,after=build-b/night"});
    const std::filesystem::path program = std::filesystem::absolute(build->second);
    if (!std::filesystem::exists(program))
      throw Error(
          {.kind = FaultKind::usage, .field = "builds", .problem = "there is no such program", .found = build->second});
    builds.emplace_back(build->first, program);
  }
  return builds;
}

PlanRequest request_of(const MeasureOptions& options) {
  const auto or_usual = [](const std::string& text, const char* usual) {
    return text.empty() ? std::string(usual) : text;
  };
  PlanRequest request;
  if (!options.variants.empty()) request.variants = split(options.variants, ',');
  for (const auto& [name, program] : builds_of(options)) request.builds.push_back(name);
  for (const std::string& knob : options.knobs) read_knob(knob, request);
  request.counts = parse_counts(or_usual(options.counts, usual_counts), options.points, "counts");
  request.budget_ms = parse_budget_ms(or_usual(options.budget, usual_budget), "budget");
  if (!options.cold.empty()) request.cold_bytes = read_cold(options.cold);
  if (!options.precision.empty()) request.precision = read_precision(options.precision);
  if (!options.goal.empty()) request.goal = parse_goal(options.goal, "for");
  if (request.goal.budget_ms > 0 && options.budget.empty()) request.budget_ms = request.goal.budget_ms;
  if (!options.time.empty()) request.time_s = parse_duration_s(options.time, "time");
  request.listed =
      request.counts.size() > 1 && !options.counts.empty() && options.counts.find("..") == std::string::npos;
  // One count asks for its cost.
  const bool is_of_one_count = request.counts.size() == 1 && options.goal.empty();
  request.aim = !options.no_refine && !options.by_hand && !is_of_one_count;
  request.blocks = options.blocks;
  if (!options.seed.empty()) request.seed = static_cast<std::uint64_t>(parse_whole(options.seed, "seed"));
  if (!options.arrive.empty()) request.arrive = parse_count(options.arrive, "arrive");
  if (!options.without.empty()) request.without = split(options.without, ',');
  request.trace = options.trace;
  if (options.frames > 0) request.min_frames = options.frames;
  return request;
}

}  // namespace mileage

#include "tool/measure_options.h"

#include <algorithm>

#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

constexpr const char* usual_counts = "100..200k";
constexpr const char* usual_budget = "60hz";

/// "scatter=0,1" as name and values.
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

/// "0,8MB": 0 stands for warm.
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
  verb.operand("PLAN", options.plan_file,
               "a plan file (*.toml); what is said by options holds instead of what it says");
  verb.option("--scenario", options.scenario, "what to measure; see `mileage list`");
  verb.option("--variants", options.variants,
              "which variants, such as objects,columns (preset: all that can run here; on a software device only where "
              "nothing else is)");
  verb.option("--counts", options.counts, "a list 1k,5k,20k or a span 100..200k (preset: 100..200k)");
  verb.option("--points", options.points, 2, 100, "counts in a span (preset: about three per decade, at least eight)");
  verb.option("--knob", options.knobs, "a knob's value, or several for a series each: scatter=0,1");
  verb.option("--cold", options.cold,
              "walk so much other memory between frames: 8MB; 0,8MB for warm and cold side by side");
  verb.option("--budget", options.budget, "counts far over it are left out: 60hz or 16.7ms (preset: 60hz)");
  verb.option("--precision", options.precision, "go on until the goal's intervals are so narrow, such as 3%");
  verb.option("--for", options.goal,
              "the goal: capacity, capacity@30hz, capacity@60hz:99% (for 99 % of frames) or breakeven:objects,columns "
              "(preset: capacity)");
  verb.option("--time", options.time, "stop with the last visit that fits into it, such as 30s");
  verb.option("--blocks", options.blocks, 1, 1000,
              "passes over all cells, at most (preset: 5, or as many as asked for otherwise)");
  verb.option("--seed", options.seed, "of the order of visits and of every world (preset: 1)");
  verb.option(
      "--frames", options.frames, 1, 100'000,
      "measured frames of a visit, at least (preset: 20, and 10 where they take more than a quarter of the budget)");
  verb.option("--arrive", options.arrive,
              "let so many of the count come at once in every visit, such as 50: what arriving costs, and how long it "
              "lasts, is told beside the capacities");
  verb.option("--without", options.without,
              "measure each variant that can leave these phases out once more without them, such as gather: the floor "
              "under whatever the phase could be made to cost");
  verb.option("--trace", options.trace, 1, 100,
              "so many visits of every cell keep their frames one by one, for `mileage frames` (preset: none)");
  verb.option("-o,--output", options.output,
              "the study file to write, or to go on with (preset: SCENARIO.study.jsonl)");
  verb.option("--program", options.program, "measure this program instead; its main calls mileage::answer_if_asked");
  verb.option("--builds", options.builds,
              "measure several builds of one program side by side: before=build-a/night,after=build-b/night");
  verb.option("--memory-limit", options.memory_limit,
              "a visit beyond it is ended, such as 4GB (preset: half of the memory)");
  verb.flag(
      "--as-given", options.as_given,
      "measure just the counts given; otherwise some are added around capacities and break-evens, unless there is "
      "one count and no --for");
  verb.flag("--by-hand", options.by_hand,
            "a person makes the recordings: says which, takes each file as it appears; see docs/your-game.md");
  verb.flag("--same-process", options.same_process,
            "without a process per visit, for a debugger; a crash ends the study");
  verb.comes_back(
      "  30 s later the capacities, or at one count what a frame costs, and the commands to go on with:\n"
      "    variant  capacity  95 % interval     read\n"
      "    columns     1.62M  (1.58M to 1.65M)  from counts around it\n");
  verb.flag("--dry-run", options.dry_run, "measure nothing; show the cells, their order and the time they would take");
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
  // Who gives one count asks what a frame costs there.
  const bool is_of_one_count = request.counts.size() == 1 && options.goal.empty();
  request.aim = !options.as_given && !options.by_hand && !is_of_one_count;
  request.blocks = options.blocks;
  if (!options.seed.empty()) request.seed = static_cast<std::uint64_t>(parse_whole(options.seed, "seed"));
  if (!options.arrive.empty()) request.arrive = parse_count(options.arrive, "arrive");
  if (!options.without.empty()) request.without = split(options.without, ',');
  request.trace = options.trace;
  if (options.frames > 0) request.least_frames = options.frames;
  return request;
}

}  // namespace mileage

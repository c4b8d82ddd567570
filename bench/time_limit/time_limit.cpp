// Does a study keep to its time? Small studies of 10, 30 and 60 seconds are measured, with aims and without.
// Wanted: the time that they took differs from the time allowed by at most 10 % and one run.
//     bench_time_limit [SECONDS...]      (10 30 60 unless given)
// Exit code 1 when the bar is missed.
#include <cmath>
#include <cstdlib>
#include <vector>

#include <fmt/format.h>

#include "measure/machine/machine_facts.h"
#include "measure/loop/measure_study.h"
#include "measure/loop/plan.h"
#include "measure/machine/remembered_full_speed.h"
#include "measure/runners/program_runner.h"
#include "mileage/festival/festival.h"
#include "mileage/measure/serve_runs.h"
#include "types/notation.h"

namespace {

using namespace mileage;

struct Kept {
  double took_s = 0;
  double longest_run_s = 0;
  int blocks = 0;
};

Kept run_study(const Scenario& drift, double seconds, bool aim) {
  PlanRequest request;
  request.variants = {"objects", "columns"};
  request.counts = parse_counts("100..200k", 8, "counts");
  request.aim = aim;
  request.time_s = seconds;
  Head head;
  head.scenario = drift;
  head.plan = make_plan(drift, request);
  head.machine = machine_facts();
  set_remembered_full_speeds(head);
  ProgramRunner runner(own_program());
  SystemClock clock;
  Kept kept;
  Watch watch;
  watch.keep = [&](const Run& run) { kept.longest_run_s = std::max(kept.longest_run_s, run.took_s); };
  const Summary summary = measure_study(head, {}, runner, clock, watch);
  kept.took_s = summary.elapsed_s;
  kept.blocks = summary.blocks;
  return kept;
}

bool keeps_to(const Scenario& drift, double seconds, bool aim) {
  const Kept kept = run_study(drift, seconds, aim);
  const double allowed_s = 0.1 * seconds + kept.longest_run_s;
  const bool holds = std::fabs(kept.took_s - seconds) <= allowed_s;
  fmt::print("{:.0f} s allowed, {}: took {:.2f} s ({:.3f} of it) with {} whole blocks; wanted: within {:.2f} s; {}\n",
             seconds, aim ? "aimed" : "as given", kept.took_s, kept.took_s / seconds, kept.blocks, allowed_s,
             holds ? "holds" : "MISSED");
  std::fflush(stdout);
  return holds;
}

}  // namespace

int main(int argc, char** argv) {
  Catalogue catalogue;
  add_festival(catalogue);
  if (const auto code = serve_runs(argc, argv, catalogue)) return *code;
  std::vector<double> times;
  for (int i = 1; i < argc; ++i) times.push_back(std::atof(argv[i]));
  if (times.empty()) times = {10, 30, 60};
  bool all_hold = true;
  for (const double seconds : times)
    for (const bool aim : {false, true}) all_hold = keeps_to(catalogue.scenarios().front(), seconds, aim) && all_hold;
  return all_hold ? 0 : 1;
}

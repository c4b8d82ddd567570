#include <chrono>
#include <cmath>
#include <memory>
#include <thread>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "analysis/evidence/disturbance_filter.h"
#include "measure/machine/machine_facts.h"
#include "measure/machine/process_facts.h"
#include "measure/machine/remembered_full_speed.h"
#include "measure/machine/yardstick.h"
#include "tool/answer_options.h"
#include "tool/exit_codes.h"
#include "tool/output.h"
#include "tool/verbs.h"
#include "views/answer_json.h"
#include "views/terminal.h"
#include "views/words.h"

namespace mileage {
namespace {

/// Half a second.
constexpr int probes = 30'000;
constexpr int probes_of_a_run = 100;

struct MachineReading {
  Machine machine;
  double fast_ns = 0;          ///< Of the yardstick, now.
  double slowness = 1;         ///< Relative to the remembered or current full speed.
  double disturbed_share = 0;  ///< Share of 100-probe runs that would be discarded.
  std::optional<double> remembered_ns;
  std::optional<MachineLoad> load;  ///< Without this program's own.
};

std::optional<MachineLoad> load_while_waiting() {
  const LoadReading before = read_load();
  std::this_thread::sleep_for(std::chrono::milliseconds(400));
  return load_between(before, read_load());
}

MachineReading read_machine() {
  MachineReading reading;
  reading.machine = machine_facts();
  reading.remembered_ns = remembered_full_speed_ns(reading.machine);
  reading.load = load_while_waiting();

  SystemClock clock;
  MachineYardstick yardstick(clock);
  DisturbanceFilter judge(reading.remembered_ns);
  std::vector<Run> runs(probes / probes_of_a_run);
  for (Run& run : runs) {
    Probes taken;
    for (int probe = 0; probe < probes_of_a_run; ++probe)
      taken.add(probe % 2 == 0 ? Probes::one : Probes::other, yardstick.probe_ns());
    run.yardstick = taken.reading(ProbedBy::work, 0);
    judge.add(run);
  }
  double log_slowness = 0;
  for (const Run& run : runs) {
    log_slowness += std::log(*judge.slowness(run)) / static_cast<double>(runs.size());
    reading.disturbed_share += judge.condemns(run) / static_cast<double>(runs.size());
  }
  reading.fast_ns = *judge.own_fast_ns();
  reading.slowness = std::exp(log_slowness);
  return reading;
}

Json reading_json(const MachineReading& reading) {
  Json json = envelope("machine", {});
  json["machine"] = to_json(reading.machine);
  json["full_speed_ns"] = reading.fast_ns;
  json["slowdown"] = reading.slowness;
  json["remembered_full_speed_ns"] = reading.remembered_ns ? Json(*reading.remembered_ns) : Json(nullptr);
  json["disturbed_share"] = reading.disturbed_share;
  json["busy_cores"] = reading.load ? Json(reading.load->busy_cores) : Json(nullptr);
  json["stolen_share"] = reading.load ? Json(reading.load->stolen_share) : Json(nullptr);
  return json;
}

Answer reading_view(const MachineReading& reading) {
  Answer view;
  view.verdict = {fmt::format("The machine runs {} slower than at full speed now; a study corrects for it.",
                              ratio_text(reading.slowness))};
  Table table(About(), "reading", "",
              {{"what", "what", Format::text, "what"}, {"is", "is", Format::text, "how it is"}});
  table.row({"machine", machine_text(reading.machine)});
  table.row({"frequency control", reading.machine.governor.empty() ? "unknown" : reading.machine.governor});
  table.row({"probe", fmt::format("{} us at full speed now, {}", three_digits(reading.fast_ns * 1e-3),
                                  reading.remembered_ns ? three_digits(*reading.remembered_ns * 1e-3) + " us remembered"
                                                        : "none remembered yet (the first study will)")});
  table.row({"disturbed", fmt::format("{} of {} short runs would be repeated", percent_text(reading.disturbed_share),
                                      probes / probes_of_a_run)});
  table.row({"load", reading.load ? fmt::format("other programs use {} of {} cores, the host takes {}",
                                                three_digits(reading.load->busy_cores), reading.machine.cores,
                                                percent_text(reading.load->stolen_share))
                                  : "unknown"});
  view.tables = {table};
  if (reading.machine.debugger) view.notes.push_back({"a debugger is attached", Note::Kind::warning, false});
  return view;
}

}  // namespace

void add_machine_verb(CommandLine& line) {
  auto json = std::make_shared<bool>(false);
  Verb verb = line.add_verb("machine", "What this machine is, and how loaded it is now",
                            "  mileage machine\n  mileage machine --json\n", [json] {
                              const MachineReading reading = read_machine();
                              if (*json)
                                print(reading_json(reading));
                              else
                                print(answer_text(reading_view(reading), false, columns_at_hand()));
                              return exit_answered;
                            });
  verb.comes_back("  The machine runs 1.11x slower than at full speed now; a study corrects for it.\n");
  add_json(verb, *json);
}

}  // namespace mileage

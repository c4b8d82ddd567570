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
#include "views/words.h"

namespace mileage {
namespace {

/// Probes of the yardstick in turn: about half a second.
constexpr int probes = 30'000;
constexpr int probes_of_a_run = 100;

/// What a reading at the machine of about half a second shows.
struct MachineReading {
  Machine machine;
  double fast_ns = 0;          ///< Full speed of the yardstick, now.
  double slowness = 1;         ///< Slowdown now, as a multiple of the fast one, the remembered one included.
  double disturbed_share = 0;  ///< Of runs of 100 probes that would be condemned.
  std::optional<double> remembered_ns;
  std::optional<MachineLoad> load;  ///< Without this program's own work, while it waits.
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
  json["yardstick_ns"] = reading.fast_ns;
  json["slowness"] = reading.slowness;
  json["remembered_ns"] = reading.remembered_ns ? Json(*reading.remembered_ns) : Json(nullptr);
  json["disturbed_share"] = reading.disturbed_share;
  json["busy_cores"] = reading.load ? Json(reading.load->busy_cores) : Json(nullptr);
  json["stolen_share"] = reading.load ? Json(reading.load->stolen_share) : Json(nullptr);
  return json;
}

std::string reading_text(const MachineReading& reading) {
  std::string text = machine_text(reading.machine) + "\n";
  text += reading.machine.governor.empty() ? "frequency control: unknown\n"
                                           : fmt::format("frequency control: {}\n", reading.machine.governor);
  text += fmt::format("probe: {} us at full speed", three_digits(reading.fast_ns * 1e-3));
  text += reading.remembered_ns ? fmt::format(", {} us remembered\n", three_digits(*reading.remembered_ns * 1e-3))
                                : std::string("; none remembered yet (the first study will)\n");
  text += fmt::format("slowdown: {}x on average now, which a study corrects\n", three_digits(reading.slowness));
  text += fmt::format("disturbed: {} % of {} short runs would be repeated\n",
                      three_digits(100 * reading.disturbed_share), probes / probes_of_a_run);
  text += reading.load ? fmt::format("load: other programs use {} of {} cores, the host takes {} %\n",
                                     three_digits(reading.load->busy_cores), reading.machine.cores,
                                     three_digits(100 * reading.load->stolen_share))
                       : std::string("load: unknown\n");
  if (reading.machine.debugger) text += "warning: a debugger is attached\n";
  return text;
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
                                print(reading_text(reading));
                              return exit_answered;
                            });
  verb.comes_back("  probe: 15.1 us at full speed, 15.0 us remembered\n");
  add_json(verb, *json);
}

}  // namespace mileage

#include "analysis/evidence/machine_condition.h"

#include <cmath>

namespace mileage {
namespace {

using Evidence = std::vector<const JudgedRun*>;

void read_load(const Evidence& evidence, MachineCondition& quiet) {
  double busy = 0, stolen = 0, told = 0;
  for (const JudgedRun* one : evidence) {
    const auto& load = one->run->load;
    if (!load) continue;
    busy += load->busy_cores;
    stolen += load->stolen_share;
    ++told;
  }
  if (told == 0) return;
  quiet.busy_cores = busy / told;
  quiet.stolen_share = stolen / told;
}

double waited_share(const Evidence& evidence) {
  double waited = 0, all = 0;
  for (const JudgedRun* one : evidence) {
    const Run& run = *one->run;
    for (std::size_t sample = 0; sample < run.samples_ns.size(); ++sample) {
      all += static_cast<double>(run.samples_ns[sample]);
      waited += static_cast<double>(run.samples_ns[sample] - own_ns(run, sample));
    }
  }
  return all > 0 ? waited / all : 0;
}

std::optional<double> mean_slowness(const Evidence& evidence, const DisturbanceFilter& judge) {
  double sum = 0, told = 0;
  for (const JudgedRun* one : evidence)
    if (const auto slow = judge.slowness(*one->run)) {
      sum += std::log(*slow);
      ++told;
    }
  return told > 0 ? std::optional(std::exp(sum / told)) : std::nullopt;
}

}  // namespace

MachineCondition machine_condition(const std::vector<JudgedRun>& runs, const DisturbanceFilter& judge) {
  MachineCondition quiet;
  Evidence evidence;
  for (const JudgedRun& one : runs) {
    if (one.is_evidence) evidence.push_back(&one);
    quiet.condemned += is_of_a_block(*one.run) && judge.condemns(*one.run);
  }
  quiet.kept = evidence.size();
  read_load(evidence, quiet);
  quiet.waited_share = waited_share(evidence);
  quiet.remembered_ns = judge.remembered_ns();
  quiet.fast_ns = judge.fast_ns();
  quiet.slow_throughout = judge.is_slow_throughout();
  quiet.slowness = mean_slowness(evidence, judge);
  return quiet;
}

}  // namespace mileage

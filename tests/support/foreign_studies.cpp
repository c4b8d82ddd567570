#include "support/foreign_studies.h"

#include <set>

#include "measure/machine/yardstick.h"

namespace mileage::foreign {
namespace {

constexpr double budget_ms = 1000.0 / 60;

/// Two cache ends and possibly a jump.
struct Program {
  struct CacheEnd {
    double at, rise, width;
  };
  double fixed_ms = 0, each_ms = 1e-5, power = 1;
  CacheEnd ends[2]{};
  double jump_at = 0, jump = 1;
  double memory_small = 0.1, memory_large = 0.5;
  std::function<double(double)> law;  ///< Overrides everything else.

  double ms(double n) const {
    if (law) return law(n);
    double factor = n > jump_at && jump_at > 0 ? jump : 1;
    for (const CacheEnd& end : ends) factor *= 1 + (end.rise - 1) / (1 + std::pow(end.at / n, 2 / std::log(end.width)));
    return fixed_ms + each_ms * std::pow(n, power) * factor;
  }
  double memory_share(double n) const {
    return memory_small + (memory_large - memory_small) / (1 + std::pow(ends[1].at / n, 1.2));
  }
};

Program program_of(Random& random) {
  Program program;
  program.fixed_ms = random.ratio(1e-4, 2.5e-3);
  program.ends[0] = {random.ratio(1e3, 1.6e4), random.uniform(1.05, 1.5), random.uniform(1.6, 4)};
  program.ends[1] = {random.ratio(4e4, 6e5), random.uniform(1.05, 1.8), random.uniform(1.6, 4)};
  program.power = 1 + std::max(0.0, random.normal(0.03));
  program.memory_small = random.uniform(0.05, 0.3);
  program.memory_large = random.uniform(0.3, 0.8);
  const double capacity = random.ratio(2e5, 6.3e5);
  program.each_ms *= (budget_ms - program.fixed_ms) / (program.ms(capacity) - program.fixed_ms);
  return program;
}

std::map<std::string, Program> programs_of(Random& random, bool are_equal) {
  Program objects = program_of(random), records = objects, columns = program_of(random);
  if (!are_equal) {
    records.each_ms *= random.uniform(0.7, 0.97);
    records.memory_large *= 0.8;
    records.ends[1].at *= 1.3;
  }
  const double even_at = random.ratio(630, 2e4), share = random.uniform(0.35, 0.75);
  columns.fixed_ms = 0;
  columns.each_ms *= objects.ms(2e5) * share / columns.ms(2e5);
  columns.fixed_ms = std::max(1e-5, objects.ms(even_at) - columns.ms(even_at));
  if (random.chance(0.3)) {
    objects.jump_at = random.ratio(1e3, 1.6e5);
    objects.jump = random.uniform(1.15, 1.4);
    if (are_equal) records.jump_at = objects.jump_at, records.jump = objects.jump;
  }
  return {{"objects", objects}, {"records", records}, {"columns", columns}};
}

/// Zero crossing over log n.
double root(const std::function<double(double)>& value, double from, double to) {
  const bool rises = value(to) > 0;
  for (int i = 0; i < 60; ++i) {
    const double middle = std::sqrt(from * to);
    (value(middle) > 0 == rises ? to : from) = middle;
  }
  return std::sqrt(from * to);
}

constexpr int steps_of_range = 3000;
double step_of_range(double min, double max, int step) {
  return min * std::pow(max / min, step / double{steps_of_range});
}

/// A few low counts and five around the approximate capacity.
std::vector<double> counts_of(double capacity, Load load, Random& random) {
  const double aimed = capacity * std::exp(random.normal(load == Load::quiet ? 0.03 : 0.08));
  std::vector<double> counts{100, 457, 2091, 9564, 43'734};
  for (const double away : {-0.26, -0.13, 0.0, 0.13, 0.26}) counts.push_back(std::round(aimed * std::exp(away)));
  return counts;
}

struct RunMaker {
  Machine& machine;
  Random& random;
  double now_ms = 200;

  Run run(const Program& program, double count, double luck) {
    constexpr double wanted_ms = 20;
    const double frame_ms = program.ms(count) * luck;
    const int together = frame_ms < 0.4 ? std::max(1, static_cast<int>(0.4 / frame_ms)) : 1;
    const int samples = std::max(4, static_cast<int>(wanted_ms / (frame_ms * together)));
    Run run;
    run.frames_per_sample = together;
    now_ms += random.uniform(5, 40) + 3 * frame_ms;
    Probes probes;
    bool is_one = true;
    double probed_ms = now_ms - 2;
    for (int i = 0; i < samples; ++i) {
      Machine::Passed passed =
          machine.work(now_ms, frame_ms * together * std::exp(random.normal(0.015)), program.memory_share(count));
      if (random.chance(1 - std::exp(-passed.ms / 1e3))) passed.ms += random.uniform(2, 16);  // A spike.
      now_ms += passed.ms;
      run.samples_ns.push_back(std::llround(passed.ms * 1e6));
      run.waited_ns.push_back(std::llround(passed.waited_ms * 1e6));
      if (now_ms - probed_ms < 1 && i + 1 < samples) continue;
      for (int probe = 0; probe < (passed.ms > 4 ? 16 : 1); ++probe) {
        const double ns = machine.probe_ns(now_ms);
        probes.add(is_one ? Probes::one : Probes::other, ns);
        now_ms += ns * 1e-6;
      }
      is_one = !is_one;
      probed_ms = now_ms;
    }
    if (!probes.are_in_both_halves()) probes.add(is_one ? Probes::one : Probes::other, machine.probe_ns(now_ms));
    run.yardstick = probes.reading(ProbedBy::work, run.samples_ns.front() / double(together));
    return run;
  }
};

class Recorder {
 public:
  Recorder(Family family, Load load, int blocks, std::uint64_t seed)
      : random_(seed * 1009 + static_cast<std::uint64_t>(family) * 101 + static_cast<std::uint64_t>(load) * 11 +
                static_cast<std::uint64_t>(blocks)),
        machine_(machine_of(family, load, random_)) {
    study_.name = "foreign.study.jsonl";
    study_.head.program = "made";
    study_.head.recorded = "2026-01-01";
    study_.head.scenario.name = "foreign";
    study_.head.scenario.entities = "lanterns";
    study_.head.scenario.build = {"made", "", true, true};
    study_.head.full_speed_ns = probe_at_full_speed_ns * std::exp(random_.normal(0.012));
  }

  Random& random() { return random_; }
  Scenario& scenario() { return study_.head.scenario; }
  Plan& plan() { return study_.head.plan; }

  void add_variant(const std::string& name, const Program& program, const std::vector<double>& counts) {
    add_series({name, {}}, program, counts);
  }
  void add_series(const Series& series, const Program& program, const std::vector<double>& counts) {
    std::vector<VariantFacts>& variants = scenario().variants;
    if (variants.empty() || variants.back().name != series.variant) {
      variants.push_back({series.variant, "", {}, ""});
      luck_[series.variant] = random_.uniform(0.01, 0.03);
    }
    plan().series.push_back(series);
    for (const double count : counts) cells_.push_back({series, program, count});
  }

  Study study(int blocks) {
    std::set<std::int64_t> counts;
    for (const Cell& cell : cells_) counts.insert(static_cast<std::int64_t>(cell.count));
    plan().counts = {counts.begin(), counts.end()};
    for (int block = 0; block < blocks; ++block) add_block(block);
    return std::move(study_);
  }

 private:
  struct Cell {
    Series series;
    Program program;
    double count;
  };

  void add_block(int block) {
    random_.shuffle(cells_);
    for (const Cell& cell : cells_) {
      if (random_.chance(0.25)) continue;  // The loop skips what is expensive or adds little.
      const double scatter = luck_.at(cell.series.variant) * (random_.chance(0.9) ? 1 : 2.2);
      Run run = maker_.run(cell.program, cell.count, std::exp(random_.normal(scatter)));
      run.series = cell.series;
      run.count = run.alive = static_cast<std::int64_t>(cell.count);
      run.block = block;
      run.order = run.process = static_cast<int>(study_.runs.size());
      run.setup_ms = 1;
      run.outcome.state("alive", cell.count, 0);
      study_.runs.push_back(std::move(run));
    }
  }

  Random random_;
  std::unique_ptr<Machine> machine_;
  RunMaker maker_{*machine_, random_};
  Study study_;
  std::vector<Cell> cells_;
  std::map<std::string, double> luck_;
};

}  // namespace

double Truth::capacity(const std::string& variant, double budget) const {
  const auto& curve = ms.at(variant);
  return root([&](double n) { return curve(n) - budget; }, 1e3, 1e8);
}

std::optional<double> Truth::break_even(const std::string& from, const std::string& to, double min, double max) const {
  const auto gain = [&](double n) { return ms.at(from)(n) - ms.at(to)(n); };
  std::optional<double> found;
  for (int i = 0; i < steps_of_range; ++i) {
    const double here = step_of_range(min, max, i), next = step_of_range(min, max, i + 1);
    if ((gain(here) > 0) == (gain(next) > 0)) continue;
    if (found || gain(here) > 0) return std::nullopt;
    found = root(gain, here, next);
  }
  return found;
}

std::optional<double> Truth::pays_off_from(const std::string& from, const std::string& to, double saving_ms, double min,
                                           double max) const {
  const auto gain = [&](double n) { return ms.at(from)(n) - ms.at(to)(n) - saving_ms; };
  if (gain(max) <= 0) return std::nullopt;
  for (int i = steps_of_range; i > 0; --i) {
    const double here = step_of_range(min, max, i - 1), next = step_of_range(min, max, i);
    if (gain(here) <= 0) return root(gain, here, next);
  }
  return min;
}

Simulated simulate(Family family, Load load, int blocks, std::uint64_t seed) {
  Recorder recorder(family, load, blocks, seed);
  Simulated simulated;
  simulated.truth.are_equal = seed % 3 == 0;
  const std::map<std::string, Program> programs = programs_of(recorder.random(), simulated.truth.are_equal);
  for (const auto& [name, program] : programs)
    simulated.truth.ms[name] = [program = program](double n) { return program.ms(n); };
  for (const char* name : {"objects", "records", "columns"})
    recorder.add_variant(name, programs.at(name),
                         counts_of(simulated.truth.capacity(name, budget_ms), load, recorder.random()));
  simulated.study = recorder.study(blocks);
  return simulated;
}

Simulated simulate_laws(Family family, Load load, int blocks, std::uint64_t seed) {
  Recorder recorder(family, load, blocks, seed);
  const std::map<std::string, std::function<double(double)>> laws{
      {"linear", [](double n) { return n; }},
      {"log_linear", [](double n) { return n * std::log2(n + 1); }},
      {"quadratic", [](double n) { return n * n; }},
      {"root", [](double n) { return n * std::sqrt(n); }}};
  Simulated simulated;
  for (const auto& [name, law] : laws) {
    Program program = program_of(recorder.random());
    const double capacity = recorder.random().ratio(2e4, 6.3e5), fixed_ms = program.fixed_ms;
    program.law = [law = law, fixed_ms, each_ms = (budget_ms - fixed_ms) / law(capacity)](double n) {
      return fixed_ms + each_ms * law(n);
    };
    simulated.truth.ms[name] = program.law;
    recorder.add_variant(name, program, counts_of(capacity, load, recorder.random()));
  }
  simulated.study = recorder.study(blocks);
  return simulated;
}

SimulatedKnobs simulate_knobs(Family family, Load load, int blocks, std::uint64_t seed) {
  Recorder recorder(family, load, blocks, seed);
  Random& random = recorder.random();
  SimulatedKnobs simulated;
  const Program program = program_of(random);
  const double serial = random.ratio(0.02, 0.5), contention = random.chance(0.5) ? random.ratio(0.003, 0.05) : 0;
  const double packed = random.uniform(0.6, 1.1), culled = random.chance(0.3) ? 1 : random.uniform(0.8, 1);
  simulated.serial = serial;
  simulated.ms = [=](const Series& series, double n) {
    const double workers = series.knobs.number("workers");
    return program.ms(n) * (serial + (1 - serial) / workers + contention * (workers - 1)) *
           (series.knobs.number("packed") > 0 ? packed : 1) * (series.knobs.number("culled") > 0 ? culled : 1);
  };

  recorder.scenario().knobs = {Knob::integer("workers", "", {1, 1, 8}), Knob::integer("packed", "", {0, 0, 1}),
                               Knob::integer("culled", "", {0, 0, 1})};
  const auto add = [&](double workers, double is_packed, double is_culled) {
    Series series{"jobs", {}};
    series.knobs.set("workers", workers);
    series.knobs.set("packed", is_packed);
    series.knobs.set("culled", is_culled);
    Program with = program;
    with.law = [series, ms = simulated.ms](double n) { return ms(series, n); };
    recorder.add_series(series, with, {2'000, 20'000, 80'000});
  };
  for (const double workers : {1, 2, 3, 4, 6, 8}) add(workers, 0, 0);
  add(1, 1, 0);
  add(1, 0, 1);
  add(1, 1, 1);
  for (const char* knob : {"packed", "culled"}) {
    Rung rung{knob, {}, ""};
    rung.knobs.set(knob, 1.0);
    recorder.plan().rungs.push_back(rung);
  }
  simulated.study = recorder.study(blocks);
  return simulated;
}

}  // namespace mileage::foreign

#include "support/simulated_machine.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <random>

#include <fmt/format.h>

#include "measure/loop/measure_study.h"
#include "measure/in_process/run_bracket.h"
#include "support/scripted.h"

namespace mileage::simulated {
namespace {

/// For durations given as shares of a study.
constexpr double study_s = 25;
constexpr double fast_yardstick_ns = 15'000;
constexpr double flip_factor = 1.9;
constexpr double beside_neighbour_s = 1e-3;
constexpr double neighbour_changes_s = 0.5;
constexpr double probe_noise = 0.002;
/// Stolen time slows frames a little more than the yardstick.
constexpr double steepest_slope = 1.1;
/// Slowdown at which responses bend, and slopes beyond.
constexpr double bends_at = 1.5;
constexpr double steepest_beside_neighbour = 1.4;
constexpr double flattest_beyond = 0.1;
constexpr double steepest_beyond = 0.5;
/// Between-study variance per unit of mean slowdown, its threshold and maximum: recorded over hours.
constexpr double unexplained_variance_per_slowdown = 0.003;
constexpr double unexplained_from = 0.03;
constexpr double max_untold_variance = 0.00035;
/// 10th percentile of such probes.
constexpr double fast_below_middle = 1.2816 * probe_noise;
constexpr double first_count = 100;
constexpr double last_count = 42'200;
constexpr double beside_frames_s = 0.015;

/// A machine slow for periods, with a neighbour on its core for moments.
class SimulatedRunner : public Runner {
 public:
  SimulatedRunner(const Truth& truth, const Disturbance& noise, scripted::VirtualClock& clock, std::uint64_t seed)
      : truth_(truth), noise_(noise), clock_(clock), random_(seed), unexplained_random_(~seed) {
    stretch_.is_slow = uniform() < noise_.slow_share;
    drift_ = noise_.drift * normal();
    next(stretch_, stretch_mean_s());
    next(flip_, flip_stretch_mean_s());
  }

  MadeBy made_by() const override { return MadeBy::program; }
  std::vector<Scenario> describe() override { return {}; }

  Run run(const RunRequest& request, double) override {
    Run run;
    run.series = request.series;
    run.count = run.alive = request.count;
    run.seed = request.seed;
    run.outcome.state("frames", 1, 0);
    slowness_of_frames_.clear();
    if (request.check_frames > 0) return run;
    drift_for(beside_frames_s);
    pass(beside_frames_s);
    take_frames(request, run);
    return run;
  }

  /// Log scale.
  const std::vector<float>& log_slowness_of_frames() const { return slowness_of_frames_; }

 private:
  struct Alternating {
    bool is_slow = false;
    double next_change_s = HUGE_VAL;
  };

  void take_frames(const RunRequest& request, Run& run) {
    struct Probing : Yardstick {
      explicit Probing(SimulatedRunner& machine) : machine(machine) {}
      double probe_ns() override { return machine.probe_ns(); }
      SimulatedRunner& machine;
    } yardstick(*this);
    const Instruments instruments{&clock_, &yardstick, nullptr};
    RunBracket bracket(request, instruments);
    response_ = response_of(request.series, static_cast<double>(request.count));
    log_unexplained_ = response_.unexplained * unexplained_sd();
    const double began_s = now_s();
    slowdown_s_ = 0;
    const double ms = truth_.of_series ? truth_.of_series(request.series)
                                       : truth_.ms_of(request.series.variant, static_cast<double>(request.count));
    double slowdown = std::log(ms) + noise_.run * normal();
    if (uniform() < noise_.spikes) slowdown += std::log(1.3 + 0.7 * uniform());
    double measured_ms = 0;
    for (int frame = 0; frame < 3 + request.min_frames || measured_ms < request.min_ms; ++frame) {
      const double work_s = std::exp(slowdown + noise_.frame * normal()) * 1e-3;
      const double took_s = frame_s(work_s);
      const auto ns = std::max<std::int64_t>(1, std::llround(took_s * 1e9));
      (frame < 3 ? run.warmup_ns : run.samples_ns).push_back(ns);
      if (frame < 3) continue;
      if (run.samples_ns.size() == 1) bracket.expect_samples(static_cast<double>(run.warmup_ns[1]));
      measured_ms += took_s * 1e3;
      slowness_of_frames_.push_back(static_cast<float>(std::log(took_s / work_s)));
      bracket.between_frames();
    }
    bracket.after_last_frame();
    slowdowns_ += slowdown_s_ / (now_s() - began_s);
    ++runs_;
    bracket.tell(run);
  }

  /// From time at full speed.
  double frame_s(double work_s) {
    drift_for(work_s);
    double took_s = 0;
    while (work_s > 0) {
      const double slowness = std::exp(response_.log_slower_at(log_slowness()) + log_unexplained_);
      const double until_change_s = std::min(stretch_.next_change_s, flip_.next_change_s) - now_s();
      const double needs_s = work_s * slowness;
      const double passes_s = std::min(needs_s, std::max(until_change_s, 1e-7));
      took_s += passes_s;
      work_s = passes_s < needs_s ? work_s - passes_s / slowness : 0;
      pass(passes_s);
    }
    return took_s;
  }

  double probe_ns() {
    const double ns = fast_yardstick_ns * std::exp(log_slowness() + probe_noise * normal());
    pass(ns * 1e-9);
    return ns;
  }

  double log_slowness() const {
    if (noise_.bends) return stretch_.is_slow ? std::max(0.0, log_by_others() + drift_) : 0;
    return drift_ + log_by_others();
  }

  double log_by_others() const {
    return (stretch_.is_slow ? std::log(slow_factor) : 0) + (flip_.is_slow ? std::log(flip_factor) : 0);
  }

  /// From the mean slowdown by others so far.
  double unexplained_sd() const {
    const double mean_slowdown = runs_ > 0 ? slowdowns_ / runs_ : 0;
    return std::sqrt(
        std::clamp(unexplained_variance_per_slowdown * (mean_slowdown - unexplained_from), 0.0, max_untold_variance));
  }

  double now_s() const { return static_cast<double>(clock_ns_) * 1e-9; }

  void pass(double seconds) {
    const std::int64_t ns = std::max<std::int64_t>(1, std::llround(seconds * 1e9));
    slowdown_s_ += seconds * log_by_others();
    clock_.pass(ns);
    clock_ns_ = clock_.now_ns();
    change(stretch_, stretch_mean_s());
    change(flip_, flip_stretch_mean_s());
  }

  void drift_for(double seconds) {
    if (noise_.drift <= 0) return;
    const double kept = std::exp(-seconds / (noise_.drift_length * study_s));
    drift_ = kept * drift_ + noise_.drift * std::sqrt(1 - kept * kept) * normal();
  }

  void change(Alternating& state, const std::array<double, 2>& mean_s) {
    while (now_s() > state.next_change_s) {
      state.is_slow = !state.is_slow;
      next(state, mean_s);
    }
  }

  /// `mean_s`: fast and slow periods.
  void next(Alternating& state, const std::array<double, 2>& mean_s) {
    if (!std::isfinite(mean_s[0])) return;
    const double from_s = std::isfinite(state.next_change_s) ? state.next_change_s : now_s();
    state.next_change_s = from_s + std::exponential_distribution<double>(1 / mean_s[state.is_slow])(random_);
  }

  std::array<double, 2> stretch_mean_s() const {
    const double slow_s = noise_.slow_length * study_s;
    if (noise_.slow_share <= 0 || noise_.slow_share >= 1) return {HUGE_VAL, HUGE_VAL};
    return {slow_s * (1 - noise_.slow_share) / noise_.slow_share, slow_s};
  }
  std::array<double, 2> flip_stretch_mean_s() {
    if (!noise_.flips) return {HUGE_VAL, HUGE_VAL};
    if (now_s() >= neighbour_until_s_) {
      neighbour_away_s_ = beside_neighbour_s * std::exp(std::log(5.0) * uniform());
      neighbour_until_s_ = now_s() + std::exponential_distribution<double>(1 / neighbour_changes_s)(random_);
    }
    return {neighbour_away_s_, beside_neighbour_s};
  }

  struct Response {
    double slope = 1;
    double beyond = 1;
    double unexplained = 0;  ///< Standard deviations of slowness that no probe shows.

    double log_slower_at(double log_slowness) const {
      const double bend = std::log(bends_at);
      return slope * std::min(log_slowness, bend) + beyond * std::max(0.0, log_slowness - bend);
    }
  };

  /// With differences at both ends of the counts.
  struct SeriesResponse {
    Series series;
    Response response;
    double at_first, at_last;
  };

  /// Settings and counts respond differently.
  Response response_of(const Series& series, double count) {
    auto known =
        std::find_if(responses_.begin(), responses_.end(), [&](const auto& one) { return one.series == series; });
    if (known == responses_.end()) {
      const double slope = slope_around(series.variant == "other" ? noise_.other_slope : noise_.one_slope);
      const double beyond = noise_.bends ? flattest_beyond + (steepest_beyond - flattest_beyond) * uniform() : slope;
      responses_.push_back({series,
                            {slope, beyond, std::normal_distribution<double>()(unexplained_random_)},
                            noise_.place_sd * normal(),
                            noise_.place_sd * normal()});
      known = std::prev(responses_.end());
    }
    const double along = std::log(count / first_count) / std::log(last_count / first_count) * std::acos(0.0);
    const double of_place = known->at_first * std::cos(along) + known->at_last * std::sin(along);
    return {known->response.slope + of_place, known->response.beyond + of_place, known->response.unexplained};
  }

  double slope_around(double mean) {
    if (noise_.slope_sd <= 0) return mean;
    const double steepest = noise_.bends ? steepest_beside_neighbour : steepest_slope;
    double slope = -1;
    while (slope < 0 || slope > steepest) slope = mean + noise_.slope_sd * normal();
    return slope;
  }

  double normal() { return std::normal_distribution<double>()(random_); }
  double uniform() { return std::uniform_real_distribution<double>()(random_); }

  const Truth& truth_;
  const Disturbance& noise_;
  scripted::VirtualClock& clock_;
  std::mt19937_64 random_;
  std::mt19937_64 unexplained_random_;
  std::int64_t clock_ns_ = 0;
  Alternating stretch_;
  Alternating flip_;
  double neighbour_away_s_ = beside_neighbour_s;
  double neighbour_until_s_ = 0;
  double drift_ = 0;
  double slowdown_s_ = 0;  ///< Times duration.
  double slowdowns_ = 0;   ///< Sum over runs.
  double runs_ = 0;
  double log_unexplained_ = 0;  ///< Log scale, of the run.
  std::vector<SeriesResponse> responses_;
  Response response_;
  std::vector<float> slowness_of_frames_;
};

double solve(const std::function<double(double)>& rising, double from, double to) {
  for (int step = 0; step < 200; ++step) {
    const double middle = std::sqrt(from * to);
    (rising(middle) > 0 ? to : from) = middle;
  }
  return std::sqrt(from * to);
}

/// The other is flatter and crosses at 5,000.
Truth truth_of(std::string name, std::optional<LawKind> law, std::optional<double> exponent,
               std::function<double(double)> shape) {
  const double scale = budget_ms / shape(20'000);
  Truth truth;
  truth.name = std::move(name);
  truth.law = law;
  truth.exponent = exponent;
  truth.one_ms = [=](double n) { return scale * shape(n); };
  const double at_5k = truth.one_ms(5000);
  truth.other_ms = [=](double n) { return at_5k * (0.7 + 0.3 * n / 5000); };
  truth.capacity = solve([&](double n) { return truth.one_ms(n) - budget_ms; }, 100, 1e6);
  truth.break_even = solve([&](double n) { return truth.one_ms(n) - truth.other_ms(n); }, 500, 50'000);
  return truth;
}

double knee(double n, double at, double ratio) { return 1000 + std::min(n, at) + ratio * std::max(0.0, n - at); }

/// Times `ratio` above `at`, over a factor of `width`.
double cache_bend(double n, double at, double ratio, double width) {
  return (1000 + n) * (1 + (ratio - 1) / (1 + std::pow(at / n, 2 / std::log(width))));
}

Truth nearly_parallel() {
  Truth truth = truth_of("nearly parallel", LawKind::linear, 1, [](double n) { return 1000 + n; });
  const auto one = truth.one_ms;
  truth.other_ms = [one](double n) { return one(n) * std::pow(5000 / n, 0.1); };
  truth.break_even = 5000;
  return truth;
}

/// Leaves a cache near the crossing; parallel elsewhere.
Truth parallel_past_a_cache() {
  const auto bent = [](double n) { return cache_bend(n, 5000, 1.25, 3); };
  Truth truth = truth_of("parallel past a cache", {}, {}, bent);
  truth.other_ms = [one = truth.one_ms, bent](double n) { return one(5000) / bent(5000) * 1.125 * (1000 + n); };
  truth.break_even = 5000;
  return truth;
}

/// No break-even: equal, or a larger fixed cost.
Truth never_crossing(std::string name, double more_ms) {
  Truth truth = truth_of(std::move(name), LawKind::linear, 1, [](double n) { return 1000 + n; });
  truth.other_ms = [one = truth.one_ms, more_ms](double n) { return one(n) + more_ms; };
  truth.break_even = 0;
  return truth;
}

/// Linear, times `ratio` from `at`: 20,000 is the capacity itself, or above a jump.
Truth step(double ratio, double at) {
  const double to_the_middle = at == 20'000 ? std::sqrt(ratio) : 1;
  const auto shape = [=](double n) { return (1000 + n) * (n < at ? 1 : ratio); };
  Truth truth = truth_of(fmt::format("step x{} at {}", ratio, at), {}, {}, shape);
  for (auto* ms : {&truth.one_ms, &truth.other_ms})
    *ms = [=, before = *ms](double n) { return to_the_middle * before(n); };
  truth.capacity = solve([&](double n) { return truth.one_ms(n) - budget_ms; }, 100, 1e6);
  truth.jumps = true;
  return truth;
}

}  // namespace

double Truth::ms_of(const std::string& variant, double n) const {
  if (variant == "one") return one_ms(n);
  if (variant == "other") return other_ms(n);
  return one_ms(n) * std::pow(1.25, std::stod(variant.substr(variant.find(' '))) - 2);
}

std::vector<Truth> truths() {
  std::vector<Truth> all{
      truth_of("linear", LawKind::linear, 1, [](double n) { return 1000 + n; }),
      truth_of("linear, small fixed cost", LawKind::linear, 1, [](double n) { return 50 + n; }),
      truth_of("N log N", LawKind::n_log_n, {}, [](double n) { return 10'000 + n * std::log2(1 + n); }),
      truth_of("quadratic", LawKind::quadratic, 2, [](double n) { return 1e6 + n * n; }),
      truth_of("linear and quadratic", LawKind::linear_and_quadratic, {},
               [](double n) { return 1000 + n + n * n / 10'000; }),
      truth_of("power 1.3", LawKind::power, 1.3, [](double n) { return 8000 + std::pow(n, 1.3); }),
      truth_of("power 0.7", LawKind::power, 0.7, [](double n) { return 50 + std::pow(n, 0.7); }),
      truth_of("knee x3 at 8k", LawKind::one_knee, {}, [](double n) { return knee(n, 8000, 3); }),
      truth_of("knee x1.5 at 10k", LawKind::one_knee, {}, [](double n) { return knee(n, 10'000, 1.5); }),
      truth_of("knee x3 at 18k", LawKind::one_knee, {}, [](double n) { return knee(n, 18'000, 3); }),
      truth_of("two knees", {}, {}, [](double n) { return knee(n, 1500, 3) + 3 * std::max(0.0, n - 12'000); }),
      nearly_parallel(),
      parallel_past_a_cache(),
      never_crossing("equal", 0),
      never_crossing("slower by a fixed cost", 0.1),
      truth_of("cache x1.25", {}, {}, [](double n) { return cache_bend(n, 9000, 1.25, 3); }),
      truth_of("cache x1.6", {}, {}, [](double n) { return cache_bend(n, 9000, 1.6, 3); }),
      step(1.2, 20'000),
      step(1.5, 20'000),
      step(3, 20'000),
      step(1.2, 15'000),
      step(1.5, 15'000),
      step(3, 15'000),
      // These knees do not show near the capacity.
      truth_of("knee x1.25 beyond", {}, {}, [](double n) { return knee(n, 26'000, 1.25); }),
      truth_of("knee x1.5 beyond", {}, {}, [](double n) { return knee(n, 28'000, 1.5); }),
      truth_of("wiggle 6 %", {}, {}, [](double n) { return (1000 + n) * (1 + 0.06 * std::sin(3 * std::log(n))); }),
  };
  all[9].sharp = true;
  for (std::size_t i = 0; i < all.size(); ++i) all[i].seed = i + 1;
  return all;
}

std::vector<Disturbance> noises() {
  Disturbance quiet{"quiet"};
  Disturbance drift{"drift 5 % over 0.1 studies, spikes", 0.04, 0.05, 0.05, 0.1, 0.05};
  Disturbance tenth{"two speeds, slow stretches of 0.1 studies", 0.03, 0.03, 0, 0.1, 0.01, 0.3, 0.1};
  Disturbance half{"two speeds, slow stretches of 0.5 studies", 0.03, 0.03, 0, 0.1, 0.01, 0.3, 0.5};
  Disturbance twice{"two speeds, slow stretches of 2 studies", 0.03, 0.03, 0, 0.1, 0.01, 0.3, 2};
  // Recorded slopes, unequal between small and large counts.
  Disturbance flips{"speed flips within milliseconds", 0.03, 0.03, 0, 0.1, 0.01, 0, 0.1, true, 0.7, 0.7, 0.26, 0.15};
  Disturbance half_slow{"slow half of the time", 0.03, 0.03, 0, 0.1, 0.01, 0.5, 0.1, false, 0.7, 0.7, 0.26, 0.15};
  Disturbance throughout{"slow throughout", 0.03, 0.03, 0, 0.1, 0.01, 1, 0.1, false, 0.7, 0.7, 0.26, 0.15};
  Disturbance unlike{"ways that respond unlike", 0.03, 0.03, 0.03, 0.1, 0.01, 0, 0.1, true, 0.8, 0.25, 0, 0.15};
  // Recorded: 1.5 to 2.2x slow nearly throughout, slopes 0.1 to 1.4 up to 1.5x and 0.15 to 0.5 beyond; full speed is
  // rarely seen and known to 0.026.
  Disturbance neighbour{"a neighbour nearly throughout",
                        0.045,
                        0.03,
                        0.15,
                        0.02,
                        0.01,
                        0.92,
                        0.3,
                        false,
                        0.75,
                        0.75,
                        0.3,
                        0.15,
                        true,
                        0.02};
  return {quiet, drift, tenth, half, twice, flips, half_slow, throughout, unlike, neighbour};
}

std::unique_ptr<Runner> machine(const Truth& truth, const Disturbance& noise, scripted::VirtualClock& clock,
                                std::uint64_t seed) {
  return std::make_unique<SimulatedRunner>(truth, noise, clock, seed);
}

Head usual_head(int blocks, std::uint64_t seed) {
  Head head;
  head.scenario.name = "simulated";
  head.scenario.variants = {{"one", "", {}, ""}, {"other", "", {}, ""}};
  head.plan.series = {{"one", {}}, {"other", {}}};
  head.plan.counts = {100, 240, 560, 1330, 3160, 7500, 17'800, 42'200};
  head.plan.budget_ms = budget_ms;
  head.plan.blocks = blocks;
  head.plan.aim = true;
  head.plan.seed = seed;
  return head;
}

void take_implementations(Head& head, int implementations) {
  head.scenario.variants.clear();
  head.plan.series.clear();
  for (int way = 1; way <= implementations; ++way) {
    const std::string name = way == 1 ? "one" : way == 2 ? "other" : fmt::format("way {}", way);
    head.scenario.variants.push_back({name, "", {}, ""});
    head.plan.series.push_back({name, {}});
  }
}

Study measured_study(const Truth& truth, const Disturbance& noise, Head head,
                     std::vector<std::vector<float>>* log_slowness) {
  const std::uint64_t seed = head.plan.seed;
  std::mt19937_64 random(seed + 1);
  head.full_speed_ns = fast_yardstick_ns *
                       std::exp(noise.remembered_sd * std::normal_distribution<double>()(random) - fast_below_middle);
  scripted::VirtualClock clock;
  SimulatedRunner runner(truth, noise, clock, seed);
  Study study{head, {}, "simulated.study.jsonl", {}};
  Watch watch;
  watch.keep = [&](const Run& run) {
    study.runs.push_back(run);
    if (log_slowness != nullptr) log_slowness->push_back(runner.log_slowness_of_frames());
  };
  measure_study(study.head, {}, runner, clock, watch);
  return study;
}

}  // namespace mileage::simulated

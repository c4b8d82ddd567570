#include "analysis/answers/frames.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

#include <fmt/format.h>

#include "analysis/analysis.h"
#include "analysis/answers/arrivals.h"
#include "analysis/answers/questions.h"
#include "analysis/evidence/labels.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"
#include "study/csv_reader.h"

namespace mileage {
namespace {

using Runs = std::vector<const Run*>;

std::vector<double> measured_ms(const Run& run) {
  std::vector<double> frames;
  for (const std::int64_t ns : run.samples_ns) frames.push_back(static_cast<double>(ns) * 1e-6);
  return frames;
}

/// Without waiting for a core, which is no spike of the variant.
std::vector<double> own_frames_ms(const Run& run) {
  std::vector<double> frames;
  for (std::size_t i = 0; i < run.samples_ns.size(); ++i) frames.push_back(static_cast<double>(own_ns(run, i)) * 1e-6);
  return frames;
}

std::vector<double> all_ms(const Run& run) {
  std::vector<double> frames;
  for (const std::int64_t ns : run.warmup_ns) frames.push_back(static_cast<double>(ns) * 1e-6);
  for (const double ms : measured_ms(run)) frames.push_back(ms);
  return frames;
}

bool has_single_frames(const Run& run) {
  return run.status == RunStatus::traced || run.status == RunStatus::kept || run.status == RunStatus::disturbed ||
         run.status == RunStatus::ramp;
}

Runs runs_at(const EvidenceSet& evidence, std::size_t series, double x) {
  Runs runs;
  for (const JudgedRun& one : evidence.runs)
    if (one.series == evidence.series[series].series && one.x == x && has_single_frames(*one.run) &&
        !one.run->samples_ns.empty())
      runs.push_back(one.run);
  return runs;
}

double around_ms(const std::vector<double>& frames, std::size_t at) {
  const auto place = static_cast<std::ptrdiff_t>(at);
  const auto size = static_cast<std::ptrdiff_t>(frames.size());
  const std::ptrdiff_t from = std::max<std::ptrdiff_t>(0, place - frames_around);
  const std::ptrdiff_t to = std::min(size, place + frames_around + 1);
  return median({frames.begin() + from, frames.begin() + to});
}

struct Spike {
  std::size_t at = 0;  ///< Of its highest frame.
  double ms = 0;
  double around_ms = 0;
};

std::vector<Spike> spikes_in(const std::vector<double>& frames) {
  std::vector<Spike> spikes;
  if (frames.empty()) return spikes;
  const double typical = median(frames);
  std::optional<std::size_t> last;
  for (std::size_t i = 0; i < frames.size(); ++i) {
    if (frames[i] <= spike_over * typical) continue;
    const Spike spike{i, frames[i], around_ms(frames, i)};
    if (spike.ms <= spike_over * spike.around_ms) continue;
    if (last && i - *last == 1) {  // One spike of several frames.
      if (spike.ms > spikes.back().ms) spikes.back() = spike;
    } else {
      spikes.push_back(spike);
    }
    last = i;
  }
  return spikes;
}

/// For no event in this number of frames: the rate that leaves a chance of 5 %.
Interval none_seen_interval(double frames, double times) { return {0, -std::log(0.05) / frames * times}; }

/// Student's t over runs; not below 0.
Interval mean_interval(const std::vector<double>& values, double max) {
  const double n = static_cast<double>(values.size());
  if (values.size() < 3) return {};
  double mean = 0, squares = 0;
  for (const double value : values) mean += value / n;
  for (const double value : values) squares += (value - mean) * (value - mean);
  const double half = t_factor(values.size()) * std::sqrt(squares / (n - 1) / n);
  return {std::max(0.0, mean - half), std::min(max, mean + half)};
}

/// How much longer each phase is in spikes than around them, summed over a run.
void add_parts(const Run& run, const std::vector<Spike>& spikes, std::map<std::string, double>& more_ms,
               double& all_more_ms) {
  if (!run.trace) return;
  double in_phases = 0, whole = 0;
  for (const Spike& spike : spikes) whole += spike.ms - spike.around_ms;
  for (const auto& [name, times_ns] : run.trace->phases_ns) {
    std::vector<double> times;
    for (const std::int64_t ns : times_ns) times.push_back(static_cast<double>(ns) * 1e-6);
    double more = 0;
    for (const Spike& spike : spikes) more += times[spike.at] - around_ms(times, spike.at);
    more_ms[name] += more;
    const bool is_inner = std::find(run.inner_phases.begin(), run.inner_phases.end(), name) != run.inner_phases.end();
    if (!is_inner) in_phases += more;
  }
  more_ms[""] += whole - in_phases;
  all_more_ms += whole;
}

Spikes spikes_of(const Runs& runs) {
  Spikes all;
  std::vector<double> heights, rates;
  std::vector<EventRun> events;
  std::map<std::string, double> more_ms;
  double all_more_ms = 0, frames_in_all = 0;
  for (const Run* run : runs) {
    const std::vector<double> frames = own_frames_ms(*run);
    const std::vector<Spike> spikes = spikes_in(frames);
    EventRun of_run{{}, frames.size()};
    for (const Spike& spike : spikes) {
      of_run.at.push_back(spike.at);
      heights.push_back(spike.ms / spike.around_ms);
      all.worst_ms = std::max(all.worst_ms, spike.ms);
    }
    events.push_back(std::move(of_run));
    rates.push_back(1000 * static_cast<double>(spikes.size()) / static_cast<double>(frames.size()));
    frames_in_all += static_cast<double>(frames.size());
    add_parts(*run, spikes, more_ms, all_more_ms);
  }
  all.seen = heights.size();
  all.a_thousand_frames = 1000 * static_cast<double>(all.seen) / frames_in_all;
  all.rate_interval = heights.empty() ? none_seen_interval(frames_in_all, 1000) : mean_interval(rates, 1000);
  if (heights.empty()) return all;
  all.times_around = median(heights);
  all.period = period_of(events);
  if (all_more_ms > 0)
    for (const auto& [phase, ms] : more_ms) all.parts.push_back({phase, ms / all_more_ms});
  std::stable_sort(all.parts.begin(), all.parts.end(),
                   [](const SpikePart& a, const SpikePart& b) { return a.share > b.share; });
  return all;
}

/// Runs with arrivals; if there are none, all with a warm-up.
Runs with_beginnings(const Runs& runs, bool& after_arrival) {
  Runs arrivals, starts;
  for (const Run* run : runs) {
    if (run->warmup_ns.empty()) continue;
    (run->arrived > 0 ? arrivals : starts).push_back(run);
  }
  after_arrival = !arrivals.empty();
  return after_arrival ? arrivals : starts;
}

std::optional<Settling> settling_of(const Runs& runs) {
  Settling settling;
  const Runs beginnings = with_beginnings(runs, settling.after_arrival);
  if (beginnings.empty()) return std::nullopt;
  std::vector<double> highest, frames, times;
  for (const Run* run : beginnings) {
    const std::vector<double> first = all_ms(*run);
    const double settled = typical_frame_ms(*run);
    const auto end = first.begin() + static_cast<std::ptrdiff_t>(run->warmup_ns.size());
    highest.push_back(*std::max_element(first.begin(), end));
    auto last = first.begin();
    for (auto frame = first.begin(); frame != end; ++frame)
      if (*frame > calm_within * settled) last = frame + 1;
    if (last == end && end != first.end() && *end > calm_within * settled) ++settling.never;
    frames.push_back(static_cast<double>(last - first.begin()));
    times.push_back(0);
    for (auto frame = first.begin(); frame != last; ++frame) times.back() += *frame;
  }
  settling.seen = beginnings.size();
  settling.from_ms = median(highest);
  settling.frames = median(frames);
  settling.takes_ms = median(times);
  return settling;
}

std::vector<FrameAfter> beginning_of(const Runs& runs) {
  bool after_arrival = false;
  const Runs beginnings = with_beginnings(runs, after_arrival);
  std::vector<FrameAfter> beginning;
  for (std::size_t number = 0; number < frames_of_beginning; ++number) {
    std::vector<double> frames;
    for (const Run* run : beginnings) {
      const std::vector<double> of_run = all_ms(*run);
      if (number < of_run.size()) frames.push_back(of_run[number]);
    }
    if (2 * frames.size() < beginnings.size() || frames.empty()) break;
    const double worst = *std::max_element(frames.begin(), frames.end());
    beginning.push_back({number, median(std::move(frames)), worst});
  }
  return beginning;
}

void compare_with_budget(const Runs& runs, double budget_ms, CellFrames& cell) {
  std::vector<double> shares;
  double over = 0;
  for (const Run* run : runs) {
    std::size_t in_a_row = 0, over_here = 0;
    for (const double ms : measured_ms(*run)) {
      cell.worst_ms = std::max(cell.worst_ms, ms);
      in_a_row = ms > budget_ms ? in_a_row + 1 : 0;
      over_here += ms > budget_ms;
      cell.longest_run_over = std::max(cell.longest_run_over, in_a_row);
    }
    over += static_cast<double>(over_here);
    shares.push_back(static_cast<double>(over_here) / static_cast<double>(run->samples_ns.size()));
  }
  cell.share_over = over / static_cast<double>(cell.frames);
  cell.share_over_interval =
      over > 0 ? mean_interval(shares, 1) : none_seen_interval(static_cast<double>(cell.frames), 1);
}

std::vector<double> sorted_frames(const Runs& runs) {
  std::vector<double> frames, thinned;
  for (const Run* run : runs)
    for (const double ms : measured_ms(*run)) frames.push_back(ms);
  std::sort(frames.begin(), frames.end());
  const std::size_t kept = std::min(max_sorted, frames.size());
  for (std::size_t i = 0; i < kept; ++i)
    thinned.push_back(frames[kept == 1 ? 0 : i * (frames.size() - 1) / (kept - 1)]);
  return thinned;
}

/// Line of log frames over log arriving.
std::optional<SettlingLaw> settling_law(const ArrivalsAnswer& arrivals, std::size_t series) {
  std::vector<double> x, y;
  for (const ArrivalSize& size : arrivals.sizes)
    if (size.series == series && size.settles_frames && *size.settles_frames > 0 && size.arriving > 0) {
      x.push_back(std::log(static_cast<double>(size.arriving)));
      y.push_back(std::log(*size.settles_frames));
    }
  if (x.size() < 3) return std::nullopt;
  const double n = static_cast<double>(x.size());
  double mean_x = 0, mean_y = 0, xx = 0, xy = 0, squares = 0;
  for (std::size_t i = 0; i < x.size(); ++i) {
    mean_x += x[i] / n;
    mean_y += y[i] / n;
  }
  for (std::size_t i = 0; i < x.size(); ++i) {
    xx += (x[i] - mean_x) * (x[i] - mean_x);
    xy += (x[i] - mean_x) * (y[i] - mean_y);
  }
  if (xx <= 0) return std::nullopt;
  SettlingLaw law{xy / xx, {}};
  for (std::size_t i = 0; i < x.size(); ++i) {
    const double rest = y[i] - mean_y - law.exponent * (x[i] - mean_x);
    squares += rest * rest;
  }
  const double half = t_factor(x.size() - 1) * std::sqrt(squares / (n - 2) / xx);
  law.interval = {law.exponent - half, law.exponent + half};
  return law;
}

std::optional<WorkShare> work_of(const Runs& runs) {
  WorkShare share;
  std::vector<double> saves;
  double told = 0, told_alone = 0, before_ms = 0, after_ms = 0, idle = 0;
  for (const Run* run : runs) {
    if (!run->work) continue;
    const WorkByWorker& work = *run->work;
    const auto frames = static_cast<double>(run->measured_frames());
    std::vector<double> busy = work.busy_ms;
    std::sort(busy.rbegin(), busy.rend());
    if (share.busy_ms.size() < busy.size()) share.busy_ms.resize(busy.size(), 0);
    for (std::size_t i = 0; i < busy.size(); ++i) share.busy_ms[i] += busy[i] / frames;
    for (std::size_t i = 0; i < busy.size(); ++i) {
      share.entities += work.entities[i] / frames;
      share.batches += work.batches[i] / frames;
    }
    share.largest_ms = std::max(share.largest_ms, work.largest_ms);
    ++told;
    if (!work.before_ms || !work.after_ms) continue;
    double busy_ms = 0;
    for (const double ms : busy) busy_ms += ms;
    const double span_ms = std::max(measured_wall_ms(*run) - *work.before_ms - *work.after_ms, 1e-9);
    const double even_ms = busy_ms / static_cast<double>(busy.size());
    before_ms += *work.before_ms / frames;
    after_ms += *work.after_ms / frames;
    idle += std::max(0.0, 1 - even_ms / span_ms);
    saves.push_back(std::max(0.0, span_ms - even_ms) / frames);
    ++told_alone;
  }
  if (told == 0) return std::nullopt;
  for (double& ms : share.busy_ms) ms /= told;
  share.entities /= told;
  share.batches /= told;
  if (told_alone == 0) return share;
  share.before_ms = before_ms / told_alone;
  share.after_ms = after_ms / told_alone;
  share.idle_share = idle / told_alone;
  share.balance_saves_ms = std::accumulate(saves.begin(), saves.end(), 0.0) / told_alone;
  share.balance_interval = mean_interval(saves, HUGE_VAL);
  return share;
}

CellFrames cell_of(const EvidenceSet& evidence, std::size_t series, double x, double budget_ms) {
  CellFrames cell;
  cell.series = series;
  cell.x = x;
  Runs runs = runs_at(evidence, series, x);
  cell.runs = runs.size();
  cell.work = work_of(runs);
  for (const Run* run : runs) cell.frames_per_sample = std::max(cell.frames_per_sample, run->frames_per_sample);
  const bool some_alone =
      std::any_of(runs.begin(), runs.end(), [](const Run* run) { return run->frames_per_sample == 1; });
  if (some_alone) {  // Traced runs time single frames where others do not.
    std::erase_if(runs, [](const Run* run) { return run->frames_per_sample > 1; });
    cell.frames_per_sample = 1;
    cell.runs = runs.size();
  }
  if (cell.frames_per_sample > 1 || runs.empty()) return cell;
  std::vector<double> all;
  for (const Run* run : runs) {
    cell.traced += run->trace.has_value();
    for (const double ms : measured_ms(*run)) all.push_back(ms);
  }
  cell.frames = all.size();
  cell.typical_ms = median(std::move(all));
  cell.spikes = spikes_of(runs);
  cell.settling = settling_of(runs);
  cell.beginning = beginning_of(runs);
  cell.sorted_ms = sorted_frames(runs);
  compare_with_budget(runs, budget_ms, cell);
  return cell;
}

std::optional<double> place_of(const Analysis& analysis, std::size_t series, const Questions& questions,
                               double budget_ms) {
  const SeriesEvidence& evidence = analysis.evidence.series[series];
  if (evidence.x.empty()) return std::nullopt;
  if (!questions.at.empty())
    return *std::min_element(evidence.x.begin(), evidence.x.end(), [&](double a, double b) {
      return std::fabs(std::log(a / questions.at.front())) < std::fabs(std::log(b / questions.at.front()));
    });
  double chosen = evidence.x.front();
  for (const double x : evidence.x)
    if (analysis.curves[series].ms_at(x) <= budget_ms) chosen = x;
  return chosen;
}

}  // namespace

std::string spans_csv(const Analysis& analysis, const FramesAnswer& answer) {
  std::string csv = "series,place,run,frame,worker,begin_ms,end_ms,entities\n";
  for (const CellFrames& cell : answer.cells)
    for (const Run* run : runs_at(analysis.evidence, cell.series, cell.x)) {
      if (!run->trace) continue;
      for (const std::vector<double>& span : run->trace->spans)
        csv += fmt::format("{},{},{},{:.0f},{:.0f},{:.6f},{:.6f},{:.0f}\n",
                           csv_field(analysis.evidence.series[cell.series].label), cell.x, run->order, span[0], span[1],
                           span[2] * 1e-6, span[3] * 1e-6, span[4]);
    }
  return csv;
}

FramesAnswer frames_answer(const Analysis& analysis, const Questions& questions) {
  const EvidenceSet& evidence = analysis.evidence;
  FramesAnswer answer;
  answer.budget_ms = questions.budgets_of(evidence).front();
  const ArrivalsAnswer arrivals = arrivals_answer(analysis, questions);
  for (std::size_t series = 0; series < evidence.series.size(); ++series) {
    const auto x = place_of(analysis, series, questions, answer.budget_ms);
    if (!x) continue;
    answer.cells.push_back(cell_of(evidence, series, *x, answer.budget_ms));
    answer.cells.back().settling_law = settling_law(arrivals, series);
    if (const auto cost = analysis.curves[series].cost_at(*x)) answer.cells.back().cost_ms = cost->ms;
    if (!questions.at.empty()) answer.cells.back().asked_at = questions.at.front();
  }
  return answer;
}

}  // namespace mileage

#include "analysis/statistics/periods.h"

#include <algorithm>
#include <cmath>

#include <boost/math/distributions/binomial.hpp>

#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

std::size_t slack_of(std::size_t distance) {
  return std::max<std::size_t>(1, static_cast<std::size_t>(early_or_late_share * static_cast<double>(distance)));
}

struct Tally {
  std::size_t hits = 0;
  std::size_t due = 0;
  double distances = 0;  ///< Sum between neighbouring hits.
  double steps = 0;      ///< Number of periods in it.
};

/// Due places around one event, which is not counted itself. Each is searched relative to the last hit, so that
/// fractional distances do not drift.
Tally tally_from(std::size_t start, const EventRun& run, std::size_t distance) {
  Tally tally;
  const auto slack = static_cast<double>(slack_of(distance));
  for (const int direction : {1, -1}) {
    double last = static_cast<double>(run.at[start]);
    double expected = last;
    double steps = 0;
    while (true) {
      expected += direction * static_cast<double>(distance);
      ++steps;
      if (expected < 0 || expected >= static_cast<double>(run.length)) break;
      ++tally.due;
      const auto near = std::lower_bound(run.at.begin(), run.at.end(), std::max(0.0, std::ceil(expected - slack)),
                                         [](std::size_t at, double value) { return static_cast<double>(at) < value; });
      if (near == run.at.end() || static_cast<double>(*near) > expected + slack) continue;
      ++tally.hits;
      tally.distances += std::fabs(static_cast<double>(*near) - last);
      tally.steps += steps;
      last = expected = static_cast<double>(*near);
      steps = 0;
    }
  }
  return tally;
}

Tally tally_of(const std::vector<EventRun>& runs, std::size_t distance) {
  Tally all;
  for (const EventRun& run : runs) {
    Tally best;
    for (std::size_t start = 0; start < run.at.size(); ++start)
      if (const Tally one = tally_from(start, run, distance); start == 0 || one.hits > best.hits) best = one;
    all.hits += best.hits;
    all.due += best.due;
    all.distances += best.distances;
    all.steps += best.steps;
  }
  return all;
}

std::vector<std::size_t> distances_tried(const std::vector<EventRun>& runs) {
  std::vector<std::size_t> distances;
  for (const EventRun& run : runs)
    for (std::size_t i = 0; i < run.at.size(); ++i)
      for (std::size_t j = i + 1; j < run.at.size(); ++j)
        if (const std::size_t distance = run.at[j] - run.at[i]; distance >= shortest_period)
          distances.push_back(distance);
  std::sort(distances.begin(), distances.end());
  distances.erase(std::unique(distances.begin(), distances.end()), distances.end());
  return distances;
}

double log_p_value(const Tally& tally, double rate, std::size_t distance, double tried) {
  const double chance = 1 - std::pow(1 - rate, 2 * static_cast<double>(slack_of(distance)) + 1);
  if (tally.hits == 0 || chance >= 1) return 0;
  const boost::math::binomial_distribution<double> by_lot(static_cast<double>(tally.due), chance);
  const double p = boost::math::cdf(boost::math::complement(by_lot, static_cast<double>(tally.hits) - 1));
  return std::min(0.0, std::log(std::max(p, 1e-300)) + std::log(tried));
}

}  // namespace

std::optional<Period> period_of(const std::vector<EventRun>& all_runs) {
  std::vector<EventRun> runs;
  double events = 0, length = 0, beginnings = 1;
  for (EventRun run : all_runs) {
    if (run.at.size() > max_events_of_a_run) {
      run.at.resize(max_events_of_a_run);
      run.length = run.at.back() + 1;
    }
    events += static_cast<double>(run.at.size());
    length += static_cast<double>(run.length);
    beginnings *= std::max<double>(1, static_cast<double>(run.at.size()));
    runs.push_back(std::move(run));
  }
  if (length <= 0) return std::nullopt;
  const std::vector<std::size_t> distances = distances_tried(runs);
  const double tried = static_cast<double>(distances.size()) * beginnings;
  std::optional<Period> best;
  double best_log_p = std::log(period_p_value);
  for (const std::size_t distance : distances) {
    const Tally tally = tally_of(runs, distance);
    if (tally.hits < hits_for_a_period || 2 * tally.hits < tally.due) continue;
    const double log_p = log_p_value(tally, events / length, distance, tried);
    if (log_p >= best_log_p) continue;
    best_log_p = log_p;
    best = Period{tally.distances / tally.steps, tally.hits, tally.due, std::exp(log_p)};
  }
  return best;
}

}  // namespace mileage

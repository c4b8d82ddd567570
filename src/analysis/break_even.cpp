#include "analysis/break_even.h"

#include <algorithm>
#include <cmath>

#include "analysis/crossings.h"
#include "analysis/local_reading.h"

namespace mileage {
namespace {

constexpr int places_judged = 200;

/// Verdict at one place: -1 the one is cheaper, +1 the other is, 0 cannot be told.
struct Verdict {
  double x;
  int at_95;     // taken alone
  int together;  // all places taken together
  bool worth;    // the difference is larger than what is worth any code
};

std::vector<Verdict> judge(const Pair& pair, double worth_ms) {
  std::vector<Verdict> verdicts;
  for (const double x : places_between(pair.least(), pair.most(), places_judged)) {
    const Difference difference = pair.at(x);
    const int side = difference.log_ratio < 0 ? -1 : 1;
    verdicts.push_back({x, difference.is_clear() ? side : 0, difference.is_clear(pair.places()) ? side : 0,
                        std::fabs(pair.saves_ms(x)) > worth_ms});
  }
  return verdicts;
}

Side side_of(int verdict) { return verdict < 0 ? Side::one : Side::other; }

/// Places around which the difference is not clear, between two clear verdicts of opposite sides.
std::pair<std::size_t, std::size_t> undecided(const std::vector<Verdict>& verdicts, std::size_t before, std::size_t after) {
  std::size_t from = before;
  std::size_t to = after;
  while (from + 1 < after && verdicts[from + 1].at_95 == verdicts[before].at_95) ++from;
  while (to - 1 > from && verdicts[to - 1].at_95 == verdicts[after].at_95) --to;
  return {from, to};
}

/// The even stretch between two clear verdicts of opposite sides, and on into places where the difference is not worth any
/// code.
Interval even_stretch(const std::vector<Verdict>& verdicts, std::size_t before, std::size_t after) {
  auto [from, to] = undecided(verdicts, before, after);
  while (from > 0 && !verdicts[from].worth) --from;
  while (to + 1 < verdicts.size() && !verdicts[to].worth) ++to;
  return {verdicts[from].x, verdicts[to].x};
}

Readings readings_without(const Pair& pair, const Crossing& found) {
  Readings readings;
  for (const std::size_t block : pair.counting_blocks()) {
    const auto all = crossings([&](double x) { return pair.log_ratio_without(block, x); }, pair.least(), pair.most());
    const auto near = nearest_crossing(all, found.upward, found.x);
    readings.push_back(near ? std::optional<double>(std::log(near->x)) : std::nullopt);
  }
  return readings;
}

/// An end of the interval that lies outside what both have measured is not known: it is open.
void open_beyond_range(const Pair& pair, BreakEven& answer) {
  if (!answer.interval.closed()) return;
  if (*answer.interval.low < pair.least()) answer.interval.low.reset();
  if (*answer.interval.high > pair.most()) answer.interval.high.reset();
  if (!answer.interval.low && !answer.interval.high) answer.interval_missing = "it reaches beyond the measured range";
}

/// Where the sign of the difference changes between two neighbouring shared places, nearest to x.
std::optional<double> change_between_points(const Points& points, bool upward, double x) {
  std::vector<Crossing> changes;
  for (Eigen::Index i = 1; i < points.x.size(); ++i) {
    const double before = points.log_ms(i - 1);
    const double after = points.log_ms(i);
    if ((before > 0) == (after > 0)) continue;
    changes.push_back({points.x(i - 1) * std::pow(points.x(i) / points.x(i - 1), before / (before - after)), after > 0});
  }
  const auto near = nearest_crossing(changes, upward, x);
  return near ? std::optional(near->x) : std::nullopt;
}

std::optional<double> change_through(const std::optional<LocalFit>& fit, bool upward) {
  return fit ? fit->crossing(0, upward) : std::nullopt;
}

/// Half-width of a place read off the difference of a pair: from repetition, or from what is assumed without.
std::optional<double> width_of(const Pair& pair, const Readings& readings, double bend, double x) {
  const auto log_ratio = [&](double place) { return pair.log_ratio(place); };
  if (!pair.assumed_error()) {
    const auto width = half_width(readings, bend);
    if (!width || pair.between_runs() == 0) return width;
    return std::hypot(*width, along_axis(log_ratio, t_factor(assumed_blocks) * pair.between_runs(), x));
  }
  return std::hypot(along_axis(log_ratio, t_factor(assumed_blocks) * *pair.assumed_error(), x), bend);
}

/// From the shared counts close around it; nothing where none stand close enough.
std::optional<Window> read_locally(const Pair& pair, const Crossing& rough, BreakEven& answer) {
  const Points points = pair.shared_points();
  const auto change = change_between_points(points, rough.upward, rough.x);
  const auto window = change ? window_around(points.x, *change) : std::nullopt;
  const auto fit = window ? LocalFit::through(points, *window) : std::nullopt;
  const auto found = change_through(fit, rough.upward);
  if (!found) return std::nullopt;
  Readings readings;
  for (const std::size_t block : pair.counting_blocks()) {
    const auto near = change_through(LocalFit::through(pair.shared_points_without(block), *window), rough.upward);
    readings.push_back(near ? std::optional<double>(std::log(*near)) : std::nullopt);
  }
  answer.at = *found;
  answer.source = Source::local;
  answer.interval = around(std::log(*found), width_of(pair, readings, fit->scatter_width(*found, pair.noise()), *found));
  return window;
}

/// A parabola says nothing of what lies outside its window: an interval that reaches beyond it goes as far as the difference
/// is not clear.
void widen_beyond_window(const Window& window, const Interval& not_clear, Interval& interval) {
  if (!interval.closed() || (*interval.low >= window.least && *interval.high <= window.most)) return;
  interval = {std::min(*interval.low, *not_clear.low), std::max(*interval.high, *not_clear.high)};
}

void read_from_curves(const Pair& pair, const Crossing& found, BreakEven& answer) {
  answer.at = found.x;
  answer.source = pair.source_at(found.x);
  const auto log_ratio = [&](double x) { return pair.log_ratio(x); };
  const auto width = width_of(pair, readings_without(pair, found), along_axis(log_ratio, pair.bend_at(found.x), found.x), found.x);
  answer.interval = around(std::log(found.x), width);
}

BreakEven break_even_between(const Pair& pair, const std::vector<Verdict>& verdicts, std::size_t before, std::size_t after) {
  BreakEven answer;
  answer.cheaper_below = side_of(verdicts[before].together);
  answer.even = even_stretch(verdicts, before, after);
  const bool upward = verdicts[after].together > 0;
  const auto inside = crossings([&](double x) { return pair.log_ratio(x); }, verdicts[before].x, verdicts[after].x);
  const Crossing found = nearest_crossing(inside, upward, std::sqrt(verdicts[before].x * verdicts[after].x)).value();
  if (const auto window = read_locally(pair, found, answer)) {
    const auto [from, to] = undecided(verdicts, before, after);
    widen_beyond_window(*window, {verdicts[from].x, verdicts[to].x}, answer.interval);
  } else {
    read_from_curves(pair, found, answer);
  }
  if (!answer.interval.closed()) answer.interval_missing = "not reached without one of the blocks";
  open_beyond_range(pair, answer);
  return answer;
}

/// Without a break-even all clear verdicts are of one side: where they begin and end, and what they come to there.
void explain_none(const Pair& pair, const std::vector<Verdict>& verdicts, PairAnswer& answer) {
  const auto is_clear = [](const Verdict& verdict) { return verdict.together != 0; };
  const auto first = std::find_if(verdicts.begin(), verdicts.end(), is_clear);
  const auto last = std::find_if(verdicts.rbegin(), verdicts.rend(), is_clear);
  if (first == verdicts.end()) {
    answer.reason = "cannot tell: the difference is inside its interval over the whole range";
    return;
  }
  answer.cheaper = side_of(first->together);
  answer.clear = {first->x, last->x};
  const double sign = *answer.cheaper == Side::one ? 1 : -1;
  answer.share_at_lower = std::exp(sign * pair.log_ratio(first->x));
  answer.share_at_upper = std::exp(sign * pair.log_ratio(last->x));
  answer.throughout = is_clear(verdicts.front()) && is_clear(verdicts.back());
  answer.reason = answer.throughout ? "one is cheaper throughout" : "one is cheaper where it can be told";
}

}  // namespace

PairAnswer break_evens(const Pair& pair, double worth_ms) {
  PairAnswer answer;
  if (pair.least() >= pair.most()) {
    answer.reason = "no range that both have measured";
    return answer;
  }
  if (pair.blocks() < 3 && !pair.assumed_error()) {
    answer.reason = "cannot tell: fewer than three blocks";
    return answer;
  }
  const std::vector<Verdict> verdicts = judge(pair, worth_ms);
  std::optional<std::size_t> before;
  for (std::size_t i = 0; i < verdicts.size(); ++i) {
    if (verdicts[i].together == 0) continue;
    if (before && verdicts[*before].together != verdicts[i].together)
      answer.break_evens.push_back(break_even_between(pair, verdicts, *before, i));
    before = i;
  }
  if (answer.break_evens.empty()) explain_none(pair, verdicts, answer);
  return answer;
}

}  // namespace mileage

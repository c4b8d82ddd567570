#include "analysis/answers/break_even.h"

#include <algorithm>
#include <cmath>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/difference_reading.h"
#include "analysis/evidence/pairs.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/crossings.h"

namespace mileage {
namespace {

/// Verdict at one place: -1 the one is faster, +1 the other is, 0 is unknown.
struct Verdict {
  double x;
  int alone;     // at 95 %, this place by itself
  int together;  // all places taken together
  int side;      // as one of the two sides of a break-even
  bool worth;    // the difference is larger than what pays off
};

Side side_of(int verdict) { return verdict < 0 ? Side::one : Side::other; }

/// The even stretch between two clear verdicts of opposite sides, and on into places where the difference is not worth
/// any code.
Interval even_stretch(const std::vector<Verdict>& verdicts, std::size_t before, std::size_t after) {
  std::size_t from = before;
  std::size_t to = after;
  while (from + 1 < after && verdicts[from + 1].alone == verdicts[before].side) ++from;
  while (to - 1 > from && verdicts[to - 1].alone == verdicts[after].side) --to;
  while (from > 0 && !verdicts[from].worth) --from;
  while (to + 1 < verdicts.size() && !verdicts[to].worth) ++to;
  return {verdicts[from].x, verdicts[to].x};
}

/// Where the sign of the difference changes between two neighbouring shared places, nearest to x.
std::optional<double> change_between_points(const Points& points, bool upward, double x) {
  std::vector<Crossing> changes;
  for (Eigen::Index i = 1; i < points.x.size(); ++i) {
    const double before = points.log_ms(i - 1);
    const double after = points.log_ms(i);
    if ((before > 0) == (after > 0)) continue;
    changes.push_back(
        {points.x(i - 1) * std::pow(points.x(i) / points.x(i - 1), before / (before - after)), after > 0});
  }
  const auto near = nearest_crossing(changes, upward, x);
  return near ? std::optional(near->x) : std::nullopt;
}

/// Half-width up to which the counts close around a crossing have it.
const double close_enough = std::log(break_even_close_within);

/// A window, and the half-width up to which it has a crossing: where noise is expected to make it wider, the next
/// one does.
struct WindowToTry {
  std::optional<Window> window;
  double enough;
};

std::vector<WindowToTry> windows_that_widen(const Points& points, double x) {
  return {{window_around(points, x), close_enough},
          {wide_window_around(points, x, 3), std::log(2)},
          {wide_window_around(points, x, 10), HUGE_VAL}};
}

/// A reading, its crossing, and the half-width up to which it tells.
struct WindowCrossing {
  WindowReading reading;
  double crossing;
  double enough;
};

std::vector<WindowCrossing> candidates_around(const Pair& pair, const Points& points, double x, bool upward) {
  std::vector<WindowCrossing> candidates;
  for (const WindowToTry& tried : windows_that_widen(points, x)) {
    if (!tried.window) continue;
    const auto reading = WindowReading::of(pair, *tried.window);
    if (const auto crossing = reading ? reading->crossing(upward) : std::nullopt)
      candidates.push_back({*reading, *crossing, tried.enough});
  }
  return candidates;
}

/// From the last shared count where it is surely of the one sign to the next where it is surely of the other, where one
/// of the costs jumps between them; false where none does.
bool read_at_step(const Pair& pair, const Crossing& rough, BreakEven& answer) {
  const std::vector<Step> steps = pair.steps();
  const Points points = pair.shared_points();
  const auto change = change_between_points(points, rough.upward, rough.x);
  if (steps.empty() || !change) return false;
  const double sign = rough.upward ? 1 : -1;
  const auto is_surely = [&](double x, double wanted) {
    const auto measured = pair.measured_at(x);
    return measured && measured->is_clear() && measured->log_ratio * wanted > 0;
  };
  Interval interval;
  for (const double x : points.x) {
    if (x < *change && is_surely(x, -sign)) interval.low = x;
    if (x > *change && !interval.high && is_surely(x, sign)) interval.high = x;
  }
  if (!is_step_between(interval.low.value_or(*change), interval.high.value_or(*change), steps)) return false;
  answer.at = *change;
  answer.source = Source::step;
  answer.interval = interval;
  return true;
}

/// From the shared counts close around it, or from farther ones where the curves are so nearly parallel that noise
/// drowns their difference. Which of them is decided by the slope that the next wider window shows: by their own, those
/// would be chosen that noise made steep. Where no counts stand close, farther ones are left to the curves unless noise
/// drowns them.
bool read_locally(const Pair& pair, const Crossing& rough, BreakEven& answer) {
  const auto change = change_between_points(pair.shared_points(), rough.upward, rough.x);
  if (!change) return false;
  const Points points = on_the_side_of(*change, pair.shared_points(), pair.steps());
  const auto candidates = candidates_around(pair, points, *change, rough.upward);
  const bool stand_close = window_around(points, *change).has_value();
  for (std::size_t i = 0; i < candidates.size(); ++i) {
    const auto& [reading, crossing, enough] = candidates[i];
    const bool is_widest = i + 1 == candidates.size();
    const double expected =
        reading.expected_width(crossing, candidates[is_widest ? i : i + 1].reading.slope_at(crossing));
    if (!stand_close && expected < close_enough) return false;
    if (!is_widest && expected > enough) continue;
    const Interval interval = reading.not_clear(crossing);
    if (!is_widest && !interval.closed()) continue;
    answer.at = crossing;
    answer.source = Source::local;
    answer.interval = interval;
    return true;
  }
  return false;
}

/// From laws, or between the points.
void read_from_curves(const Pair& pair, const Crossing& found, BreakEven& answer) {
  answer.at = found.x;
  answer.source = pair.source_at(found.x);
  answer.interval = ambiguous_range(found.x, [&](double x) { return pair.at(x).is_clear(); }, {pair.min(), pair.max()});
}

/// The difference over all shared places, read as one parabola: what few blocks leave unclear place by place may be
/// clear over all of them. Nothing where there are too few places, and where one of the costs jumps.
std::optional<WindowReading> reading_over_all(const Pair& pair) {
  const Points points = pair.shared_points();
  if (points.x.size() < 5 || !pair.steps().empty()) return std::nullopt;
  return WindowReading::of(pair, {points.x(0), points.x(points.x.size() - 1)});
}

/// Where the difference changes its sign between two places whose verdicts are opposite.
Crossing change_between(const Pair& pair, const std::optional<WindowReading>& over_all, double before, double after,
                        bool upward) {
  const double middle = std::sqrt(before * after);
  if (const auto near =
          nearest_crossing(crossings([&](double x) { return pair.log_ratio(x); }, before, after), upward, middle))
    return *near;
  if (const auto found = over_all ? over_all->crossing(upward) : std::nullopt) return {*found, upward};
  return {middle, upward};
}

BreakEven break_even_between(const Pair& pair, const std::optional<WindowReading>& over_all,
                             const std::vector<Verdict>& verdicts, std::size_t before, std::size_t after) {
  BreakEven answer;
  answer.faster_below = side_of(verdicts[before].side);
  const bool upward = verdicts[after].side > 0;
  const Crossing found = change_between(pair, over_all, verdicts[before].x, verdicts[after].x, upward);
  if (!read_at_step(pair, found, answer) && !read_locally(pair, found, answer)) read_from_curves(pair, found, answer);
  if (!answer.interval.low && !answer.interval.high)
    answer.interval_missing = "significant on neither side close to it";
  const Interval even = even_stretch(verdicts, before, after);
  answer.even = {std::min(*even.low, answer.interval.low.value_or(pair.min())),
                 std::max(*even.high, answer.interval.high.value_or(pair.max()))};
  answer.ms = std::exp(pair.log_ms_of_one(answer.at));
  return answer;
}

int side_if_clear(const Difference& difference, std::size_t verdicts) {
  if (!difference.is_clear(verdicts)) return 0;
  return difference.log_ratio < 0 ? -1 : 1;
}

/// Both sides of a break-even have to be clear, which is rarer than either: each is judged at 95 % along the parabola
/// over all places (R. L. Berger, "Multiparameter hypothesis testing and acceptance sampling", Technometrics 24, 1982).
std::vector<Verdict> judge(const Pair& pair, const std::optional<WindowReading>& over_all, double min_saving_ms) {
  std::vector<Verdict> verdicts;
  for (const double x : places_between(pair.min(), pair.max(), break_even_places)) {
    const Difference difference = pair.at(x);
    const int together = side_if_clear(difference, pair.places());
    const int side = together == 0 && over_all && over_all->covers(x) ? side_if_clear(over_all->at(x), 1) : together;
    verdicts.push_back({x, side_if_clear(difference, 1), together, side, std::fabs(pair.saves_ms(x)) > min_saving_ms});
  }
  return verdicts;
}

/// Without a break-even all clear verdicts are of one side: where they begin and end, and what they come to there.
void explain_none(const Pair& pair, const std::vector<Verdict>& verdicts, PairAnswer& answer) {
  const auto is_clear = [](const Verdict& verdict) { return verdict.together != 0; };
  const auto first = std::find_if(verdicts.begin(), verdicts.end(), is_clear);
  const auto last = std::find_if(verdicts.rbegin(), verdicts.rend(), is_clear);
  if (first == verdicts.end()) {
    answer.reason = "no significant difference at any count";
    return;
  }
  answer.faster = side_of(first->together);
  answer.clear = {first->x, last->x};
  const double sign = *answer.faster == Side::one ? 1 : -1;
  answer.share_at_lower = std::exp(sign * pair.log_ratio(first->x));
  answer.share_at_upper = std::exp(sign * pair.log_ratio(last->x));
  answer.throughout = is_clear(verdicts.front()) && is_clear(verdicts.back());
  answer.reason = answer.throughout ? "one is faster throughout" : "one is faster where it is significant";
}

}  // namespace

PairAnswer break_evens(const Pair& pair, double min_saving_ms) {
  PairAnswer answer;
  if (pair.min() >= pair.max()) {
    answer.reason = "no range in common";
    return answer;
  }
  if (pair.blocks() < 3 && !pair.assumed_error()) {
    answer.reason = "inconclusive: fewer than three blocks";
    return answer;
  }
  const auto over_all = reading_over_all(pair);
  const std::vector<Verdict> verdicts = judge(pair, over_all, min_saving_ms);
  std::optional<std::size_t> before;
  for (std::size_t i = 0; i < verdicts.size(); ++i) {
    if (verdicts[i].side == 0) continue;
    if (before && verdicts[*before].side != verdicts[i].side)
      answer.break_evens.push_back(break_even_between(pair, over_all, verdicts, *before, i));
    before = i;
  }
  if (answer.break_evens.empty()) explain_none(pair, verdicts, answer);
  return answer;
}

namespace {

std::optional<Divider> divider_of(const EvidenceSet& evidence, const Series& a, const Series& b) {
  if (evidence.axis.name != count_axis) return std::nullopt;
  for (const Knob& knob : evidence.head.scenario.knobs)
    if (knob.splits_count && knob.numeric() && a.knobs.has(knob.name) && b.knobs.has(knob.name) &&
        a.knobs.number(knob.name) == b.knobs.number(knob.name))
      return Divider{knob.name, a.knobs.number(knob.name)};
  return std::nullopt;
}

/// Where the interval of a break-even is open above: from where a change surely pays off, it matters.
void end_even_where_worth(ComparedPair& pair) {
  if (!pair.worth || !pair.worth->interval.high) return;
  const double surely_pays_off = *pair.worth->interval.high;
  for (BreakEven& one : pair.answer.break_evens)
    if (!one.interval.high && surely_pays_off > one.at) one.even.high = std::min(*one.even.high, surely_pays_off);
}

}  // namespace

BreakEvenAnswer break_even_answer(const Analysis& analysis, const Questions& questions) {
  const EvidenceSet& evidence = analysis.evidence;
  check_variants(evidence, questions.between, "between");
  std::vector<Series> series;
  for (const SeriesEvidence& one : evidence.series) series.push_back(one.series);
  BreakEvenAnswer answer{questions.min_saving_ms(evidence), {}};
  for (const auto& [a, b] : compared_pairs(series, evidence.head.scenario, questions.between, questions.baseline)) {
    const Pair pair(analysis.curves[a], analysis.curves[b]);
    ComparedPair compared{a,
                          b,
                          break_evens(pair, answer.min_saving_ms),
                          divider_of(evidence, series[a], series[b]),
                          pays_off_from(pair, answer.min_saving_ms),
                          Side::other};
    compared.too_few_blocks = pair.blocks() < 3 && !pair.assumed_error();
    if (pair.min() < pair.max_known()) compared.known_up_to = pair.max_known();
    if (!compared.worth) {
      compared.worth = pays_off_from(Pair(analysis.curves[b], analysis.curves[a]), answer.min_saving_ms);
      compared.paying_side = Side::one;
    }
    end_even_where_worth(compared);
    answer.pairs.push_back(std::move(compared));
  }
  return answer;
}

}  // namespace mileage

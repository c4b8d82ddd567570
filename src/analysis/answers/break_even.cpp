#include "analysis/answers/break_even.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/pair.h"
#include "analysis/evidence/pairs.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

/// -1: the one is faster, 1: the other, 0: inconclusive.
struct Verdict {
  double x;
  int alone;     // At this place only.
  int together;  // For all places together.
  bool worth;    // The difference pays off.
};

Side side_of(int verdict) { return verdict < 0 ? Side::one : Side::other; }

/// Stretch between two opposite verdicts, extended over places where the difference does not pay off.
Interval even_stretch(const std::vector<Verdict>& verdicts, std::size_t before, std::size_t after) {
  std::size_t from = before;
  std::size_t to = after;
  while (from + 1 < after && verdicts[from + 1].alone == verdicts[before].alone) ++from;
  while (to - 1 > from && verdicts[to - 1].alone == verdicts[after].alone) --to;
  while (from > 0 && !verdicts[from].worth) --from;
  while (to + 1 < verdicts.size() && !verdicts[to].worth) ++to;
  return {verdicts[from].x, verdicts[to].x};
}

/// Sign change in one direction nearest to a place.
template <class Value>
std::optional<double> change_near(const std::vector<double>& x, const Value& value, bool upward, double near) {
  std::optional<double> nearest;
  for (std::size_t i = 1; i < x.size(); ++i) {
    const double before = value(i - 1), after = value(i);
    if ((before > 0) == (after > 0) || (after > 0) != upward) continue;
    const double at = x[i - 1] * std::pow(x[i] / x[i - 1], before / (before - after));
    if (!nearest || std::fabs(std::log(at / near)) < std::fabs(std::log(*nearest / near))) nearest = at;
  }
  return nearest;
}

/// Sign change of each draw nearest to the break-even; open at the end of the range for draws without one.
Interval interval_around(const Pair& pair, bool upward, double at) {
  const std::vector<double> x = pair.drawn_places();
  std::vector<Drawn> differences;
  for (const double place : x) differences.push_back(pair.at(place).drawn());
  const double never = std::numeric_limits<double>::infinity();
  Drawn places(differences.front().size());
  for (Eigen::Index draw = 0; draw < places.size(); ++draw) {
    const bool is_up_at_first = differences.front()(draw) > 0;
    places(draw) = change_near(
                       x, [&](std::size_t i) { return differences[i](draw); }, upward, at)
                       .value_or(is_up_at_first == upward ? -never : never);
  }
  return interval_of(std::move(places));
}

BreakEven break_even_between(const Pair& pair, const std::vector<Verdict>& verdicts, std::size_t before,
                             std::size_t after) {
  BreakEven answer;
  answer.faster_below = side_of(verdicts[before].alone);
  const bool upward = verdicts[after].alone > 0;
  const double middle = std::sqrt(verdicts[before].x * verdicts[after].x);
  const std::vector<double> x = pair.drawn_places();
  answer.at = change_near(
                  x, [&](std::size_t i) { return pair.at(x[i]).log_ratio(); }, upward, middle)
                  .value_or(middle);
  answer.source = pair.source_at(answer.at);
  answer.interval = interval_around(pair, upward, answer.at);
  if (const Step* step = pair.step_at(answer.at)) {  // Anywhere inside it.
    if (answer.interval.low) answer.interval.low = std::min(*answer.interval.low, step->before);
    if (answer.interval.high) answer.interval.high = std::max(*answer.interval.high, step->after);
  }
  const Interval even = even_stretch(verdicts, before, after);
  answer.even = {std::min(*even.low, answer.interval.low.value_or(pair.min())),
                 std::max(*even.high, answer.interval.high.value_or(pair.max()))};
  answer.ms = pair.ms_of_one(answer.at);
  return answer;
}

std::vector<Verdict> judge(const Pair& pair, double min_saving_ms) {
  std::vector<Verdict> verdicts;
  for (const double x : places_between(pair.min(), pair.max(), break_even_places)) {
    const Difference difference = pair.at(x);
    verdicts.push_back(
        {x, difference.side(), difference.verdict(pair.places()), std::fabs(pair.saves_ms(x)) > min_saving_ms});
  }
  return verdicts;
}

/// Whether the same draws are significant on both sides, at the clearest place of each.
bool crosses_surely(const Pair& pair, const std::vector<Verdict>& verdicts, std::size_t before, std::size_t after) {
  const auto drawn_of = [&](std::size_t i) { return Drawn(verdicts[i].alone * pair.at(verdicts[i].x).drawn()); };
  std::vector<Drawn> below, above;
  for (std::size_t i = before + 1; i-- > 0 && verdicts[i].alone == verdicts[before].alone;)
    below.push_back(drawn_of(i));
  for (std::size_t i = after; i < verdicts.size() && verdicts[i].alone == verdicts[after].alone; ++i)
    above.push_back(drawn_of(i));
  return std::any_of(below.begin(), below.end(), [&](const Drawn& one) {
    return std::any_of(above.begin(), above.end(),
                       [&](const Drawn& other) { return is_surely_positive(one.min(other)); });
  });
}

/// Without a break-even: where all significant verdicts, which are on one side, begin and end.
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
  answer.share_at_lower = std::exp(sign * pair.at(first->x).log_ratio());
  answer.share_at_upper = std::exp(sign * pair.at(last->x).log_ratio());
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
  const std::vector<Verdict> verdicts = judge(pair, min_saving_ms);
  std::optional<std::size_t> before;
  for (std::size_t i = 0; i < verdicts.size(); ++i) {
    if (verdicts[i].alone == 0) continue;
    if (before && verdicts[*before].alone != verdicts[i].alone && crosses_surely(pair, verdicts, *before, i))
      answer.break_evens.push_back(break_even_between(pair, verdicts, *before, i));
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

/// An interval that is open above ends where the switch surely pays off.
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
    if (pair.min() < pair.max()) compared.known_up_to = pair.max();
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
